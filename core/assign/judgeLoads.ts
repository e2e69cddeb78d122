import { isLoad } from '../catalog/common.ts'
import { BASE_RESERVE } from '../circuit/bases.ts'
import { circuitOf } from '../circuit/circuit.ts'
import { runsOf } from '../circuit/loads.ts'
import { chosenFact } from '../wiring/chosen.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { costs } from './costs.ts'

/**
 * An input over which speed or brightness comes: of a transistor where the plan has a load to be dimmed, or of a driver whose
 * enable rests on a jumper, as long as nobody wires the enable.
 */
export const carriesSpeed = (wiring: Wiring, use: SignalUse): boolean =>
  use.facts.needs === 'digital-out' && (switchesGraded(wiring, use) || isPastHeldEnable(wiring, use))

const isPastHeldEnable = (wiring: Wiring, { part, end }: SignalUse): boolean =>
  part.part.channels.some(
    ({ inputs, enables }) =>
      inputs.some((pin) => `${part.ref}.${pin}` === end) &&
      enables.some(
        ({ pin, held }) =>
          held &&
          part.part.signals.some((one) => one.pin === pin && one.needs === 'pwm') &&
          !wiring.netOf(`${part.ref}.${pin}`).wired,
      ),
  )

/** Of an array all loads have to be such: which of its channels gets which is not known yet. */
const switchesGraded = (wiring: Wiring, { part, facts }: SignalUse): boolean => {
  const { channels, provides } = part.part
  if (!channels.some(({ inputs }) => inputs.includes(facts.pin)) || !provides.some(({ does }) => does.includes('sink')))
    return false
  const isGraded = (use: SignalUse): boolean => use.facts.graded
  const loads = wiring.signals.filter((one) => one.facts.needs === 'sink')
  return channels.length === 1 ? loads.some(isGraded) : loads.length > 0 && loads.every(isGraded)
}

/** What an output pays that carries a load with no ease, or hardly at all: another one of the kit may. */
export function strainOf(
  wiring: Wiring,
  { part, facts }: SignalUse,
  { provider }: Host,
): { readonly points: number; readonly words: string } | undefined {
  if (!provider || !isLoad(facts.needs)) return undefined
  const most = chosenFact(provider, 'mostMilliamps')
  const starts = circuitOf(wiring).elements.reduce(
    (sum, one) => (one.part === part ? Math.max(sum, one.starts ?? 0) : sum),
    0,
  )
  if (most !== undefined && starts > most)
    return { points: costs.strained, words: `starts with more than ${provider.ref} bears` }
  const gain = chosenFact(provider, 'gain')
  const base = provider.part.companions.find(({ series }) => series !== undefined)?.options.ohms
  if (gain === undefined || typeof base !== 'number' || !provider.home) return undefined
  const milliamps = ((provider.home.board.logicVolts - (chosenFact(provider, 'forward') ?? 0)) / base) * 1000
  const runs = runsOf(part) ?? 0
  // A base resistor can be made smaller, as far as the pin bears it.
  if (runs > milliamps * gain) return { points: 3 * costs.strained, words: `takes more than ${provider.ref} carries` }
  const isMuch = runs * BASE_RESERVE > milliamps * gain
  return isMuch ? { points: costs.strained, words: `asks much of the base of ${provider.ref}` } : undefined
}
