import { entryOf } from '../base/entryOf.ts'
import type { Tie } from '../catalog/signalSchema.ts'
import { holds } from '../catalog/when.ts'
import type { Plan } from '../plan/planSchema.ts'
import type { Net, PartInstance, TieUse } from './model.ts'
import type { Mutable } from './sources.ts'

/**
 * Where the plan names no address, the wires decide it: the one value of the address option whose straps all lie as
 * they do. Straps that are open say what the part itself holds them at; one of which nothing is known decides nothing.
 */
export function wiredAddress(owner: Mutable<PartInstance>, plan: Plan, netOf: (end: string) => Net): void {
  const id = owner.mode?.i2c?.addresses.option
  const option = owner.part.options.find((one) => one.id === id)
  if (id === undefined || !option || entryOf(entryOf(plan.parts, owner.ref)?.options, id) !== undefined) return
  const straps = [...owner.part.ties, ...(owner.mode?.ties ?? [])].flatMap(({ pin, to, held }) =>
    typeof to === 'object' && to.option === id ? [{ pin, values: to.values, held }] : [],
  )
  const net = (pin: string): Net => netOf(`${owner.ref}.${pin}`)
  if (straps.length === 0 || !straps.some(({ pin }) => net(pin).wired)) return
  const lies = (pin: string, held: string | undefined, to: string): boolean => {
    const at = net(pin)
    if (!at.wired) return held === to
    if (to === 'ground') return at.ground
    if (to === 'supply') return at.sources.length > 0 && !at.ground
    return at === net(to)
  }
  const fitting = option.values.filter(({ value }) =>
    straps.every(({ pin, values, held }) => lies(pin, held, entryOf(values, String(value)) ?? 'ground')),
  )
  const [only] = fitting
  if (only && fitting.length === 1) owner.options = { ...owner.options, [id]: only.value }
}

/** Nets that a resistor joins with one. */
export function resistorLinks(
  parts: readonly PartInstance[],
  netOf: (end: string) => Net,
): (net: Net) => ReadonlySet<Net> {
  const links = new Map<Net, Set<Net>>()
  const link = (from: Net, to: Net): void => {
    const known = links.get(from)
    if (known) known.add(to)
    else links.set(from, new Set([to]))
  }
  for (const { ref, part } of parts) {
    if (part.category !== 'passive') continue
    for (const { kind, between } of part.inner) {
      if (kind !== 'resistance') continue
      const [a, b] = between.map((pin) => netOf(`${ref}.${pin}`)) as [Net, Net]
      link(a, b)
      link(b, a)
    }
  }
  return (net) => links.get(net) ?? new Set()
}

/** Ties of a part as it is wired. */
const tiesOf = ({ part, mode, options }: PartInstance): Tie[] =>
  [...part.ties, ...(mode?.ties ?? [])].filter((tie) => holds(tie.when, options))

/** Pins that only listen and are held by nothing inside. */
const inputsOf = ({ part, mode }: PartInstance): string[] => [
  ...[...part.signals, ...(mode?.signals ?? [])].flatMap(({ pin, direction, pull }) =>
    direction === 'in' && pull === undefined ? [pin] : [],
  ),
  ...part.provides.flatMap(({ pins, does }) => (does.every((one) => one === 'digital-in') ? pins : [])),
]

/**
 * Whether a net sets nothing: all that meet on it are pins that wait for a level themselves, and capacitors. What is
 * joined with such pins alone is as open as if it had no wire.
 */
export function setsNothing(parts: readonly PartInstance[]): (net: Net) => boolean {
  const waiting = new Set<string>()
  for (const owner of parts) {
    const { ref, part } = owner
    const isCapacitor = part.category === 'passive' && part.inner.some(({ kind }) => kind === 'capacitance')
    const pins = isCapacitor
      ? part.pins.map(({ id }) => id)
      : part.build === 'component'
        ? []
        : [
            ...tiesOf(owner)
              .filter(({ held }) => held === undefined)
              .map(({ pin }) => pin),
            ...inputsOf(owner),
          ]
    for (const pin of pins) waiting.add(`${ref}.${pin}`)
  }
  return ({ ends, ground, sources }) => !ground && sources.length === 0 && ends.every((end) => waiting.has(end))
}

export function tieUses(
  owner: PartInstance,
  netOf: (end: string) => Net,
  plan: Plan,
  hasHost: (net: Net) => boolean,
  beyondResistors: (net: Net) => ReadonlySet<Net>,
  isIdle: (net: Net) => boolean,
): TieUse[] {
  const ties = tiesOf(owner)
  return ties.map((facts): TieUse => {
    const to =
      typeof facts.to === 'string'
        ? facts.to
        : (entryOf(facts.to.values, String(entryOf(owner.options, facts.to.option))) ?? 'ground')
    const end = `${owner.ref}.${facts.pin}`
    const net = netOf(end)
    const state = (): TieUse['state'] => {
      // What it switches is not in use: it may be left or held as one likes.
      if (facts.serves?.every((pin) => !netOf(`${owner.ref}.${pin}`).wired)) return net.wired ? 'right' : 'held'
      if (!net.wired)
        return plan.unused.includes(end)
          ? 'unused'
          : facts.held === to || (!facts.required && facts.held === undefined)
            ? 'held'
            : 'open'
      if ((to === 'ground' || to === 'supply') && isIdle(net)) return facts.required ? 'open' : 'held'
      if (to === 'ground') return net.ground ? 'right' : net.sources.length > 0 ? 'wrong' : 'right'
      if (to === 'supply') return net.ground ? 'wrong' : 'right'
      const target = netOf(`${owner.ref}.${to}`)
      if (target === net) return 'right'
      // Held high where the other pin is high as well, or moved by the program, it is as good as bridged.
      const isHigh = (one: Net): boolean => one.sources.length > 0 && !one.ground
      const isDriven = (one: Net): boolean => one.wired && !one.ground && one.sources.length === 0 && hasHost(one)
      if (beyondResistors(net).has(target)) return 'right'
      const mutual = ties.some((one) => one.pin === to && one.to === facts.pin)
      // Each of two that belong together is judged by itself: what is wrong is the one that is held low.
      if (net.ground || target.ground)
        return (net.ground && target.ground) || (mutual && !net.ground && isHigh(net)) ? 'right' : 'wrong'
      return (isHigh(net) || isDriven(net)) && (mutual || isHigh(target)) ? 'right' : 'wrong'
    }
    return { end, part: owner, facts, to, state: state() }
  })
}
