import type { Element } from '../../circuit/circuit.ts'
import type { PartInstance, Wiring } from '../../wiring/model.ts'
import { type Handle, MOST_CLICKS, PULL_OHMS, type Quadrature } from './handles.ts'
import type { LiveCircuit } from './live.ts'

export function addContacts(
  part: PartInstance,
  elements: readonly Element[],
  live: LiveCircuit,
  add: (handle: Handle) => void,
): void {
  const contacts = elements.filter(({ kind, throws }) => kind === 'contact' && !throws)
  const throws = elements.filter(({ throws: isThrow }) => isThrow)
  const senses = elements.filter(({ spread }) => spread)
  const names = contactNames(
    part,
    contacts.map(({ a, b }) => [a, b]),
  )
  contacts.forEach((element, index) => {
    const name = names[index]!
    // A relay is moved by the program, not by a hand; what is led nowhere nobody sees.
    if (part.part.category === 'driver' || !element.netA.wired || !element.netB.wired) return
    add(contact(name, part, [element.a, element.b], (closed) => live.move(element, closed ? 1 : 0)))
  })
  const [first] = throws
  if (first && part.part.category !== 'driver')
    add({
      name: part.ref,
      part,
      kind: 'throw',
      words: throws.map(({ b }) => b.slice(part.ref.length + 1)),
      least: 0,
      most: throws.length - 1,
      unit: '',
      value: 0,
      set: (value) => live.move(first, value),
      ends: throws.flatMap(({ a, b }) => [a, b]),
    })
  for (const element of senses) {
    const { ohms, spread } = element
    if (ohms === undefined || !spread) continue
    add({
      name: part.ref,
      part,
      kind: 'resistance',
      words: [],
      least: spread.least,
      most: spread.most,
      unit: 'ohm',
      value: ohms,
      set: (value) => live.move(element, 0, value),
      ends: [element.a, element.b],
    })
  }
}

/** A contact between two ends as a handle: open until it is pressed. */
export function contact(
  name: string,
  part: PartInstance,
  ends: readonly string[],
  set: (closed: boolean) => void,
): Handle {
  return {
    name,
    part,
    kind: 'contact',
    words: ['open', 'closed'],
    least: 0,
    most: 1,
    unit: '',
    value: 0,
    set: (value) => set(value === 1),
    ends,
  }
}

/** Contacts that lie inside a part that is more than contacts, or whose number is an option. */
export function addPresses(part: PartInstance, wiring: Wiring, live: LiveCircuit, add: (handle: Handle) => void): void {
  const pairs = part.part.presses.map((pins) => pins.map((pin) => `${part.ref}.${pin}`) as [string, string])
  const names = contactNames(part, pairs)
  pairs.forEach((ends, at) => {
    if (!ends.every((end) => wiring.netOf(end).wired)) return
    const name = part.part.presses.length === 1 ? ends[0] : names[at]!
    add(contact(name, part, ends, (closed) => live.press(part, at, closed)))
  })
}

/** A contact of something that is turned: open, its line is held by the part's own pull, where the part has its supply. */
export function openTurned(part: PartInstance, pin: string, wiring: Wiring, live: LiveCircuit): void {
  const end = `${part.ref}.${pin}`
  const fed = part.supplies.some(({ source, ground }) => source && ground)
  live.drive(end, wiring.netOf(end).index, fed ? { volts: part.logicVolts ?? 3.3, ohms: PULL_OHMS } : undefined)
}

/** Names of contacts: the part, its pin where it has several, both where a pin has several; keys by what is printed on them. */
export function contactNames({ ref, part }: PartInstance, contacts: readonly (readonly [string, string])[]): string[] {
  const pin = (end: string): string => end.slice(ref.length + 1)
  const printed = part.asks.find(({ what }) => what.startsWith('keys,'))?.say?.replaceAll(' ', '')
  const [rows, columns] = ['rows', 'columns'].map((list) => part.asks.find((one) => one.list === list)?.pins ?? [])
  return contacts.map(([a, b]) => {
    if (contacts.length === 1) return ref
    const key = printed?.[rows!.indexOf(pin(a)) * columns!.length + columns!.indexOf(pin(b))]
    if (key !== undefined) return `${ref}.${key}`
    return contacts.some(([one, other]) => one === a && other !== b) ? `${ref}.${pin(a)}-${pin(b)}` : `${ref}.${pin(a)}`
  })
}

/** Something that is turned, click by click; the stage moves its contacts. */
export function addTurn(
  part: PartInstance,
  { first, second }: Quadrature,
  wiring: Wiring,
  live: LiveCircuit,
  add: (handle: Handle) => void,
): void {
  for (const pin of [first, second]) openTurned(part, pin, wiring, live)
  add({
    name: part.ref,
    part,
    kind: 'turn',
    words: [],
    least: -MOST_CLICKS,
    most: MOST_CLICKS,
    unit: 'clicks',
    value: 0,
    set: () => undefined,
    ends: [first, second].map((pin) => `${part.ref}.${pin}`),
  })
}
