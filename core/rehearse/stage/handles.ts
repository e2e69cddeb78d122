import { type Behaviour, behaviourOutputs } from '../../catalog/behaviourSchema.ts'
import { circuitOf, type Element, railOf } from '../../circuit/circuit.ts'
import { isKey } from '../../circuit/elements.ts'
import { busNeed } from '../../wiring/buses.ts'
import { levelsOf } from '../../wiring/levels.ts'
import type { PartInstance, SignalUse, Wiring } from '../../wiring/model.ts'
import { addContacts, addPresses, addTurn } from './contactHandles.ts'
import { type LiveCircuit, OUTPUT_OHMS } from './live.ts'

/** Something outside that can be moved: a key pressed, a knob turned, a distance set. */
export interface Handle {
  /** `GATE`, or `JOY.X` where a part has several. */
  readonly name: string
  /** Undefined for the answer of a call that nobody has described. */
  readonly part: PartInstance | undefined
  readonly kind: 'contact' | 'throw' | 'level' | 'share' | 'resistance' | 'distance' | 'sense' | 'turn' | 'answer'
  /** Words that it takes, or the range of its number and its unit. */
  readonly words: readonly string[]
  readonly least: number
  readonly most: number
  readonly unit: string
  /** As it stands: the number of its word, or the number itself. */
  value: number
  readonly set: (value: number) => void
  /** Ends at whose board pin a change of it is seen. */
  readonly ends: readonly string[]
}

export type Quadrature = Extract<Behaviour, { as: 'quadrature' }>
export const MOST_CLICKS = 1000

/** Ohms of a pull on a module of which no source says them. */
export const PULL_OHMS = 10_000

/** Distance in centimetres that an echo sensor sees when nobody has set one, and the furthest that it can. */
const USUAL_DISTANCE = 50
const FURTHEST = 400

/** Everything that a person, or the world, can move on a plan while a program runs; each at rest. */
export function handlesOf(wiring: Wiring, live: LiveCircuit): Map<string, Handle> {
  const handles = new Map<string, Handle>()
  const add = (handle: Handle): void => {
    handles.set(handle.name, handle)
    handle.set(handle.value)
  }
  const byPart = new Map<PartInstance, Element[]>()
  // Keys of modules come with what else a hand closes inside a part.
  for (const element of circuitOf(wiring).elements)
    if ((element.kind === 'contact' && !isKey(element)) || element.spread)
      byPart.set(element.part, [...(byPart.get(element.part) ?? []), element])
  for (const [part, elements] of byPart) addContacts(part, elements, live, add)
  for (const part of wiring.parts) {
    addPresses(part, wiring, live, add)
    if (part.part.behaves?.as === 'quadrature') addTurn(part, part.part.behaves, wiring, live, add)
  }
  for (const use of wiring.signals) {
    const { facts, part } = use
    if (byPart.has(part) && part.part.channels.length === 0 && facts.direction === 'passive') continue
    if (facts.direction === 'in' || facts.direction === 'passive' || busNeed(facts.needs)) continue
    // What a chip makes of other levels nobody sets by hand.
    if (behaviourOutputs(part.part.behaves).includes(facts.pin)) continue
    // A line over which a part speaks in bits is moved by what the part senses.
    if (speaksOver(part, wiring, facts.pin)) continue
    const echo = echoPins(part)
    if (echo && (use.facts.pin === echo.echo || use.facts.pin === echo.trigger)) continue
    addOutput(use, wiring, live, add)
  }
  for (const part of wiring.parts) {
    addSenses(part, wiring, handles, add)
    const echo = echoPins(part)
    if (!echo) continue
    let distance = USUAL_DISTANCE
    const end = `${part.ref}.${echo.echo}`
    if (part.supplies.some(({ source }) => source)) live.drive(end, wiring.netOf(end).index, { volts: 0, ohms: 100 })
    add({
      name: part.ref,
      part,
      kind: 'distance',
      words: [],
      least: 2,
      most: 1000,
      unit: 'cm',
      get value() {
        return distance
      },
      set value(to: number) {
        distance = to
      },
      set: (to) => {
        distance = to
      },
      ends: [`${part.ref}.${echo.echo}`],
    })
  }
  return handles
}

/** Whether a class that senses something of a part speaks to it over one of its pins. */
function speaksOver({ part }: PartInstance, { catalog }: Wiring, pin: string): boolean {
  return catalog.drivers.some(
    ({ parts, senses, make, calls }) =>
      parts.includes(part.id) &&
      Object.keys(senses).length > 0 &&
      [make.pins, ...Object.values(calls).map(({ pins }) => pins)].some((pins) =>
        Object.values(pins ?? {}).includes(pin),
      ),
  )
}

/** What a part senses that programs ask of it through a class. */
function addSenses(
  part: PartInstance,
  { catalog }: Wiring,
  known: ReadonlyMap<string, Handle>,
  add: (handle: Handle) => void,
): void {
  const senses = new Map(
    catalog.drivers.filter(({ parts }) => parts.includes(part.part.id)).flatMap((one) => Object.entries(one.senses)),
  )
  for (const [what, { usual, least, most, unit }] of senses) {
    const handle: Handle = {
      name: senses.size === 1 && !known.has(part.ref) ? part.ref : `${part.ref}.${what}`,
      part,
      kind: 'sense',
      words: [],
      least,
      most,
      unit,
      value: usual,
      set: () => undefined,
      ends: [],
    }
    add(handle)
  }
}

/** What a part puts out by itself: a level, or a share of its supply. */
function addOutput(use: SignalUse, wiring: Wiring, live: LiveCircuit, add: (handle: Handle) => void): void {
  const { facts, part, end } = use
  const net = wiring.netOf(end)
  // What is led nowhere nobody sees.
  if (!net.wired) return
  const others = wiring.signals.filter(
    (one) => one.part === part && one.facts.direction !== 'in' && !busNeed(one.facts.needs),
  )
  const name = others.length === 1 ? part.ref : end
  const port = circuitOf(wiring).ports.get(end)
  const high = port?.high ?? part.logicVolts ?? 3.3
  const ohms = Math.max(1, levelsOf(use).outputOhms ?? OUTPUT_OHMS)
  if (facts.needs === 'analog-in') {
    const { supply, turned } = supplyOf(part, wiring)
    const rail = railOf(net)
    if (rail) return
    add({
      name,
      part,
      kind: 'share',
      words: [],
      least: 0,
      most: 1,
      unit: '',
      value: 0.5,
      set: (value) =>
        live.drive(
          end,
          net.index,
          supply > 0
            ? { volts: Math.min(turned ? supply : high, (turned ? 1 - value : value) * supply), ohms }
            : undefined,
        ),
      ends: [end],
    })
    return
  }
  if (!/^(digital-in|interrupt|onewire)/.test(facts.needs)) return
  const isOpen = facts.direction === 'open-drain' || facts.direction === 'both'
  const idle = facts.activeLevel === 'low' || isOpen ? 1 : 0
  const powered = part.supplies.length === 0 || part.supplies.some(({ source }) => source)
  add({
    name,
    part,
    kind: 'level',
    words: ['low', 'high'],
    least: 0,
    most: 1,
    unit: '',
    value: idle,
    set: (value) =>
      live.drive(
        end,
        net.index,
        !powered || (value === 1 && isOpen) ? undefined : { volts: value === 1 ? high : 0, ohms },
      ),
    ends: [end],
  })
}

/** Volts between the two ends of a part, and whether they lie the other way round where it works either way. */
function supplyOf(
  { ref, supplies }: PartInstance,
  wiring: Wiring,
): { readonly supply: number; readonly turned: boolean } {
  const fed = supplies.find(({ source }) => source)?.source?.volts
  if (fed !== undefined) return { supply: fed, turned: false }
  for (const { facts } of supplies) {
    const netOf = (pin: string | undefined) => (pin === undefined ? undefined : wiring.netOf(`${ref}.${pin}`))
    const [plus, minus] = [netOf(facts.pins[0]), netOf(facts.ground[0])]
    const volts = minus?.sources[0]?.volts
    if (facts.either && plus?.ground && volts !== undefined) return { supply: volts, turned: true }
  }
  return { supply: 0, turned: false }
}

/** Pins of a part that answers a pulse with an echo, and the microseconds of a centimetre. */
export function echoPins(
  part: PartInstance,
): { readonly trigger: string; readonly echo: string; readonly perCentimetre: number } | undefined {
  const asked = part.part.asks.find(({ what }) => what === 'trigger, then echo')
  const [trigger, echo] = asked?.pins ?? []
  if (trigger === undefined || echo === undefined) return undefined
  const amount = part.part.asks.find(({ what }) => what.startsWith('echo for one centimetre'))?.amount
  return { trigger, echo, perCentimetre: typeof amount === 'number' ? amount : 58 }
}

export const OUT_OF_SIGHT = FURTHEST

/** What a handle stands at, as a person says it. */
export function handleWords({ kind, words, value, unit }: Handle): string {
  if (words.length > 0) return words[Math.round(value)] ?? String(value)
  if (kind === 'share') return `${Math.round(value * 100)} %`
  return `${value} ${unit}`
}

/**
 * A value for a handle as it is written: `closed`, `40 %`, `30 cm`, `4k7`.
 * @returns the number, or words that say what was expected.
 */
export function handleValue(
  handle: Handle,
  written: string | number | boolean,
  parseOhms: (text: string) => number | undefined,
): number | string {
  const text = String(written).trim().toLowerCase()
  const { kind, words, least, most } = handle
  const also: Readonly<Record<string, number>> =
    kind === 'contact'
      ? { pressed: 1, released: 0, true: 1, false: 0, on: 1, off: 0 }
      : kind === 'level'
        ? { true: 1, false: 0, '1': 1, '0': 0, on: 1, off: 0 }
        : {}
  const index = words.findIndex((one) => one.toLowerCase() === text)
  if (index >= 0) return index
  if (Object.hasOwn(also, text)) return also[text]!
  const expected =
    words.length > 0
      ? `one of ${words.join(', ')}`
      : kind === 'share'
        ? '0 to 100 %'
        : kind === 'distance'
          ? `${least} to ${most} cm`
          : kind === 'sense' || kind === 'turn' || kind === 'answer'
            ? `${least} to ${most} ${handle.unit}`
            : `${least} to ${most} ohm`
  if (words.length > 0) return `expected ${expected}`
  if (kind === 'sense' || kind === 'turn' || kind === 'answer') {
    const amount = kind === 'turn' ? Math.round(Number.parseFloat(text)) : Number.parseFloat(text)
    return Number.isFinite(amount) && amount >= least && amount <= most ? amount : `expected ${expected}`
  }
  const bare = kind === 'resistance' ? parseOhms(text) : Number(text.replace(/\s*(%|cm|mm|m)$/, ''))
  if (bare === undefined || !Number.isFinite(bare)) return `expected ${expected}`
  const value =
    kind === 'share'
      ? text.endsWith('%') || bare > 1
        ? bare / 100
        : bare
      : text.endsWith('mm')
        ? bare / 10
        : /\dm$|\d\s+m$/.test(text)
          ? bare * 100
          : bare
  return value < least * 0.999 || value > most * 1.001 ? `expected ${expected}` : value
}
