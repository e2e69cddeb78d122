import { busNeed } from './buses.ts'
import type { SignalUse } from './model.ts'
import { isSingleWire } from './needs.ts'

/** Why two signals cannot share one host pin; undefined when they can. */
export function clash(a: SignalUse, b: SignalUse): string | undefined {
  const busA = busNeed(a.facts.needs)
  const busB = busNeed(b.facts.needs)
  if (busA || busB) {
    if (a.facts.needs === b.facts.needs) {
      if (busA?.signal === 'cs') return undefined // spi-select speaks of it
      return busA?.kind === 'uart' && busA.signal === 'rx' ? 'two outputs talk at once' : undefined
    }
    return 'a bus line must carry nothing else'
  }
  if (isSingleWire(a) || isSingleWire(b))
    return a.facts.numbered && b.facts.numbered
      ? undefined
      : 'devices on one wire can share it only when each has a number of its own'
  const wayA = wayOf(a)
  const wayB = wayOf(b)
  if (wayA === 'drives' && wayB === 'drives') return 'two outputs drive one line'
  if (wayA !== 'listens' && wayB !== 'listens') return bothSpeak(a, b)
  if (wayA === 'listens' && wayB === 'listens') return bothListen(a, b)
  return 'the pin would have to be input and output at once'
}

/** A contact of a part on the very line on which another contact of it, or an output, lies: whoever reads cannot tell them apart. */
function bothSpeak(a: SignalUse, b: SignalUse): string | undefined {
  if (![a, b].every(isDirect)) return undefined
  const isPassive = ({ facts }: SignalUse): boolean => facts.direction === 'passive'
  if (a.part !== b.part)
    return isOfField(a) !== isOfField(b) && isPassive(a) && isPassive(b)
      ? 'a contact beside a field of keys is taken for one of its keys'
      : undefined
  // That lines of a field are joined is said of the field.
  return [a, b].some(isPassive) && !isOfField(a) ? 'nobody can tell which of the two speaks' : undefined
}

/** A line of a field of keys, the rows of which are driven. */
const isOfField = ({ part, facts }: SignalUse): boolean =>
  facts.direction === 'passive' && part.part.signals.some(({ needs }) => needs === 'digital-out')

/** Nothing lies between the signal and the pin. */
const isDirect = ({ hosts, tail, end }: SignalUse): boolean => (hosts[0] ? hosts[0].via.length === 0 : tail === end)

/** Why two inputs cannot be moved together: of one part where they mean something by being told apart. */
function bothListen({ part, facts: a }: SignalUse, { part: other, facts: b }: SignalUse): string | undefined {
  if (part === other && a.bit && b.bit) return 'two bits of a number that are always alike tell half as much'
  if (part === other && a.bit !== b.bit && !a.moves && !b.moves)
    return 'one is a bit of a number, which the other would change'
  // A servo's pulses, at an input that moves something.
  if ((a.hertz === undefined) !== (b.hertz === undefined) && (a.hertz === undefined ? a : b).actuator)
    return 'one wants pulses of a set length, and the other would jump with them'
  if (a.moves !== b.moves)
    return part === other || (a.moves ? b : a).actuator
      ? 'one takes each change of the line, and the other would change with it'
      : undefined
  const isApart = a.moves && part === other && !a.movesWith.includes(b.pin) && !b.movesWith.includes(a.pin)
  return isApart ? 'each takes its own changes of the line, and would take those of the other as well' : undefined
}

/** What the part does to the line: drives it, only pulls it or closes a contact, or listens. */
export const wayOf = (use: SignalUse): 'drives' | 'pulls' | 'listens' =>
  use.facts.direction === 'out' || use.facts.direction === 'both'
    ? 'drives'
    : use.facts.direction === 'in'
      ? 'listens'
      : 'pulls'
