import { holds } from '../catalog/when.ts'
import type { PartInstance, Wiring } from './model.ts'

/** Most volts that the transistors of a bridge keep for themselves: two in a row of an old bipolar one (L298, 2 A). */
const BRIDGE_DROP = 2

/** Volts for which a load is made by its label, also in a mode in which it takes its supply over a driver. */
export const madeFor = (
  wiring: Wiring,
  { part, options }: PartInstance,
): { readonly least: number; readonly most: number } | undefined =>
  wiring.catalog.parts.get(part.id)?.supplies.find(({ when }) => holds(when, options))

/** What a motor supply is for a load behind a bridge, which passes it on less what it `keeps`. */
export const behindBridge = (
  volts: number,
  { least, most }: { readonly least: number; readonly most: number },
  keeps = 0,
): 'fits' | 'low' | 'high' => (volts < least ? 'low' : volts - Math.max(BRIDGE_DROP, keeps) > most ? 'high' : 'fits')

/** Volts that a bridge keeps for itself between two of its outputs, as its entry says. */
export const keptBy = ({ part }: PartInstance): number =>
  part.provides.reduce((most, { keeps = 0 }) => Math.max(most, keeps), 0)
