import { volts } from '../catalog/common.ts'
import { activeCautions } from '../wiring/availability.ts'
import { companionsOf } from '../wiring/companions.ts'
import type { Host, SignalUse, Wiring } from '../wiring/model.ts'
import { switchesLoad } from '../wiring/needs.ts'
import { networkOf } from './still.ts'

/** What an actuator's line does while the board starts, before the program has set its pin. */
export interface ResetState {
  readonly use: SignalUse
  readonly host: Host
  /** What the pin does, in words that follow its name. */
  readonly does: string
  /** Level to which resistors hold the line meanwhile. */
  readonly held: 'high' | 'low' | undefined
  /**
   * What may move it: the pin itself, for certain or by chance, a resistor on the line, or that nothing holds it; undefined
   * when it rests.
   */
  readonly cause: 'pin' | 'chance' | 'resistor' | 'nothing' | undefined
  readonly text: string
}

/** Every placed actuator with what it does at reset, in plan order. */
export function resetStates(wiring: Wiring): ResetState[] {
  return wiring.signals.flatMap((use): ResetState[] => {
    const host = use.hosts[0]?.host
    if (!use.facts.actuator || !host || switchesLoad(host.functions)) return []
    return [stateOf(wiring, use, host)]
  })
}

function stateOf(wiring: Wiring, use: SignalUse, host: Host): ResetState {
  const active = use.facts.activeLevel
  const rest = networkOf(wiring).pulled(wiring.netOf(use.end))
  const vih = volts(host.levels.vih, host.logicVolts) ?? (host.logicVolts ?? 5) * 0.6
  const held = rest === undefined ? undefined : rest >= vih ? 'high' : 'low'
  const state = (does: string, cause: ResetState['cause'], text: string): ResetState => ({
    use,
    host,
    does,
    held,
    cause,
    text,
  })
  for (const caution of activeCautions(host)) {
    if (caution.id === 'reset-pulse') return state('pulses at reset', 'pin', caution.text)
    if (caution.id === 'reset-level' || caution.id === 'boot-output') {
      const level = caution.level ?? active
      const does = caution.id === 'boot-output' ? 'sends messages at reset' : `is ${level} at reset`
      return state(does, level === active ? 'pin' : undefined, caution.text)
    }
  }
  if (host.starts === 'high' || host.starts === 'low') {
    // Gives next to nothing that way, so that a resistor to the other side has the say.
    const isOn = host.starts === active && (held === undefined || held === active)
    return state(
      `is ${host.starts} from power-up on`,
      isOn ? 'pin' : undefined,
      `${host.ref} holds its pins ${host.starts} until the first message.`,
    )
  }
  if (host.starts === 'any')
    return state('is high or low at power-up', 'chance', `What ${host.ref} holds at power-up is chance.`)
  const pins = host.board?.board.reset.pins ?? host.starts
  const note =
    host.board?.board.reset.note ??
    (host.provider
      ? `Pins of ${host.ref} are inputs until the first message.`
      : 'Pins are inputs until the program runs.')
  const words =
    pins === undefined ? 'is left alone at reset' : pins === 'floating' ? 'floats at reset' : `is ${pins} at reset`
  // Bare gates keep whatever charge they have; modules and chips rest by themselves.
  const loose =
    held === undefined &&
    (pins === 'floating' || pins === `pulled-${active === 'high' ? 'up' : 'down'}`) &&
    companionsOf(wiring, use.part, 'resistor').some(
      ({ facts, present }) => !present && facts.across?.includes(use.facts.pin),
    )
  if (held === active) return state(words, 'resistor', note)
  return loose ? state(words, 'nothing', `${note} Nothing holds ${use.end} meanwhile.`) : state(words, undefined, note)
}
