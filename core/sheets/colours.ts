import { busNeed } from '../wiring/buses.ts'
import type { Net, SignalUse, Wiring } from '../wiring/model.ts'

/** Colours that jumper wires are sold in, with the swatch shown beside the name. */
export const wireColours: Readonly<Record<string, string>> = {
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

/** One colour for each kind of line: red supply, black ground, orange second supply (`docs/wire-colours.md`). */
export function conventionalColour(wiring: Wiring, net: Net, use: SignalUse | undefined): string {
  if (net.ground) return 'black'
  const source = net.sources[0]
  if (source) return source.end === mainSource(wiring) ? 'red' : 'orange'
  const need = use?.facts.needs
  if (need === undefined) return 'brown'
  const bus = busNeed(need)
  if (bus?.kind === 'i2c') return bus.signal === 'sda' ? 'green' : 'yellow'
  if (bus?.kind === 'spi') return 'blue'
  if (bus) return 'purple'
  if (need.startsWith('analog')) return 'grey'
  return need === 'digital-in' || need === 'interrupt' ? 'white' : 'brown'
}

/** The source that most parts hang on; any other is the second. */
function mainSource(wiring: Wiring): string | undefined {
  const tally = new Map<string, number>()
  for (const part of wiring.parts)
    for (const { source } of part.supplies) if (source) tally.set(source.end, (tally.get(source.end) ?? 0) + 1)
  return [...tally].sort((a, b) => b[1] - a[1])[0]?.[0]
}
