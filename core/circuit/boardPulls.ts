import type { Caution } from '../catalog/boardSchema.ts'
import type { Host } from '../wiring/model.ts'

/** Resistance of a pull inside of a chip, in ohms, where no source gives it. */
export const INNER_PULL_OHMS = 45_000

/** Up to here the resistor that holds a boot-strap pin lies on the board and stays; what a chip pulls by itself is weaker. */
export const STRONG_OHMS = 20_000

/** Volts and ohms of a resistor on the board that pulls at a pin for good, not only while the chip looks at it. */
export function boardPull(
  { logicVolts }: Pick<Host, 'logicVolts'>,
  { id, held, heldOhms }: Caution,
): { readonly volts: number; readonly ohms: number } | undefined {
  if (heldOhms === undefined || logicVolts === undefined) return undefined
  const isStrap = id === 'boot-strap' && heldOhms <= STRONG_OHMS
  if (id === 'fixed-pull-up' || (isStrap && held === 'pull-up')) return { volts: logicVolts, ohms: heldOhms }
  if (id === 'fixed-pull-down' || (isStrap && held === 'pull-down')) return { volts: 0, ohms: heldOhms }
  return undefined
}
