import { busNeed } from '../wiring/buses.ts'
import type { Host, SignalUse } from '../wiring/model.ts'
import { isPlain } from './madeFor.ts'

type Pin = Pick<Host, 'provider' | 'pin'>

/** The level of the one output at a time that a counter or a decoder picks; undefined for other pins. */
export function pickedLevel({ provider, pin }: Pin): 'high' | 'low' | undefined {
  const behaves = provider?.part.behaves
  if (behaves?.as === 'count') return behaves.outputs.includes(pin) ? 'high' : undefined
  return behaves?.as === 'decode' && behaves.outputs.includes(pin) ? behaves.active : undefined
}

/**
 * True where a signal would have to be moved by itself, and the pin is one of a row of which one at a time is picked: all
 * that hangs there may ask for is to be picked, as a lamp of a running light or a select line does. The carry of a counter
 * is nobody's but the next counter's.
 */
export function isPickedOnly(use: SignalUse, host: Pin): boolean {
  const behaves = host.provider?.part.behaves
  if (behaves?.as === 'count' && behaves.carry === host.pin)
    return use.part.part.behaves?.as !== 'count' || use.part.part.behaves.clock !== use.facts.pin
  const level = pickedLevel(host)
  if (level === undefined) return false
  if (busNeed(use.facts.needs)?.signal === 'cs') return level !== 'low'
  return !isPlain(use) || use.facts.activeLevel !== level
}
