import { entryOf } from '../base/entryOf.ts'
import type { WireColour, WireKind } from '../plan/planSchema.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Net, SignalUse, Wiring } from '../wiring/model.ts'

/** Colours that jumper wires are sold in, with the swatch shown beside the name. */
export const wireColours: Readonly<Record<WireColour, string>> = {
  black: '#1d1d1b',
  red: '#c3281d',
  orange: '#e07b1a',
  yellow: '#e5bf26',
  green: '#2f8a45',
  blue: '#2a63b0',
  purple: '#7a4a9c',
  grey: '#8b8d8f',
  white: '#ffffff',
  brown: '#7b4f2c',
}

/** One colour for each kind of line (`docs/wire-colours.md`), where the house has none of its own. */
export const usualColours: Readonly<Record<WireKind, WireColour>> = {
  ground: 'black',
  supply: 'red',
  'second-supply': 'orange',
  data: 'green',
  clock: 'yellow',
  spi: 'blue',
  serial: 'purple',
  analog: 'grey',
  input: 'white',
  output: 'brown',
}

/** Colour of a wire by what it carries: that of the plan's own house, or the usual one. */
export function conventionalColour(wiring: Wiring, net: Net, use: SignalUse | undefined): WireColour {
  const kind = wireKind(wiring, net, use)
  return entryOf(wiring.plan.settings?.colours, kind) ?? usualColours[kind]
}

function wireKind(wiring: Wiring, net: Net, use: SignalUse | undefined): WireKind {
  if (net.ground) return 'ground'
  const source = net.sources[0]
  if (source) return source.end === mainSource(wiring) ? 'supply' : 'second-supply'
  const need = use?.facts.needs
  if (need === undefined) return 'output'
  const bus = busNeed(need)
  if (bus?.kind === 'i2c') return bus.signal === 'sda' ? 'data' : 'clock'
  if (bus?.kind === 'spi') return 'spi'
  if (bus) return 'serial'
  if (need.startsWith('analog')) return 'analog'
  return need === 'digital-in' || need === 'interrupt' ? 'input' : 'output'
}

/** The source that most parts hang on; any other is the second. */
function mainSource(wiring: Wiring): string | undefined {
  const tally = new Map<string, number>()
  for (const part of wiring.parts)
    for (const { source } of part.supplies) if (source) tally.set(source.end, (tally.get(source.end) ?? 0) + 1)
  return [...tally].sort((a, b) => b[1] - a[1])[0]?.[0]
}
