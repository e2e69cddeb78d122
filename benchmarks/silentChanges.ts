/**
 * Changes each sound wiring of the suites as tired hands do, and lists the changes of which no fault and no caution is
 * said: to be read through for mistakes that the checks miss. `npm run bench:changes -- KIND [FILE]`, with a file of
 * kits as they are typed, one a line, in place of the suites (the search wires them), and with KIND one of
 * `forgotten` (a wire taken out), `exchanged` (two wires of one part), `leg` (a wire one leg further on a part), `post`
 * (one post further on a board), `astray` (led to ground, to a supply, to 12 V), `added` (a wire too many), `absent` (a
 * part left out with its wires), `value` (a resistor of 1 Ω or 1 MΩ, or of a decade or two
 * more or less, a supply of more than twice or less than half),
 * `kind` (a part of another model, colour or common leg; another part with pins of the same names), `turned` (a part
 * the other way round in its row), `plugged` (a part one place on in its row), `seated` (a board one row on), `rail`
 * (all on one supply put on another, a supply turned round), `broken` (a rail that ends half-way).
 */
import { readFileSync } from 'node:fs'
import { footprintOf, legsOf } from '../core/catalog/footprint.ts'
import { splitEnd } from '../core/plan/ends.ts'
import type { Plan, PlanWire } from '../core/plan/planSchema.ts'
import { bindPlan } from '../core/plan/readPlan.ts'
import { allRules, check } from '../core/rules/index.ts'
import { catalog, planOf } from '../core/testing/plans.ts'
import { planTyped, wiredUp } from '../core/testing/wiredKits.ts'
import { sound } from '../core/testing/wiringSuite.ts'
import type { Wiring } from '../core/wiring/model.ts'
import { resolve } from '../core/wiring/resolve.ts'

interface Change {
  /** Changes of one kind on one kind of part are listed together. */
  readonly kind: string
  readonly words: string
  readonly plan: Plan
}

const said = (plan: Plan): string[] =>
  check(resolve(plan, catalog), allRules)
    .filter(({ severity }) => severity !== 'tip')
    .map(({ rule, message }) => `${rule}: ${message}`)

const nameOf = (plan: Plan, end: string): string => {
  const { ref, pin } = splitEnd(end)
  return plan.parts[ref] ? `${plan.parts[ref].part}.${pin}` : plan.boards[ref] ? `${plan.boards[ref].board}` : 'supply'
}

/** A wire with another end. */
const moved = (wire: PlanWire, side: 0 | 1, end: string): PlanWire => (side === 0 ? [end, wire[1]] : [wire[0], end])

const withWire = (plan: Plan, at: number, wire: PlanWire): Plan => ({
  ...plan,
  wires: plan.wires.map((one, index) => (index === at ? wire : one)),
})

const sides = [0, 1] as const

const kinds: Readonly<Record<string, (plan: Plan) => Change[]>> = {
  forgotten: (plan) =>
    plan.wires.map(([a, b], at) => ({
      kind: [nameOf(plan, a), nameOf(plan, b)].sort().join(' to '),
      words: `${a} ${b}`,
      plan: { ...plan, wires: plan.wires.filter((_, index) => index !== at) },
    })),
  exchanged: (plan) =>
    plan.wires.flatMap((one, at) =>
      plan.wires.slice(at + 1).flatMap((two, after) =>
        sides.flatMap((s) =>
          sides.flatMap((t): Change[] => {
            const [a, b] = [splitEnd(one[s]), splitEnd(two[t])]
            const part = plan.parts[a.ref]
            if (a.ref !== b.ref || a.pin === b.pin || !part) return []
            return [
              {
                kind: `${part.part}: ${[a.pin, b.pin].sort().join(' and ')}`,
                words: `${one[0]} ${one[1]} and ${two[0]} ${two[1]}`,
                plan: withWire(withWire(plan, at, moved(one, s, two[t])), at + 1 + after, moved(two, t, one[s])),
              },
            ]
          }),
        ),
      ),
    ),
  leg: (plan) =>
    alongRows(plan, (ref) => {
      const part = plan.parts[ref]
      const entry = part && catalog.parts.get(part.part)
      return entry ? [legsOf(footprintOf(entry, part.options ?? {}))] : []
    }),
  post: (plan) =>
    alongRows(plan, (ref) => {
      const board = catalog.boards.get(plan.boards[ref]?.board ?? '')
      return board ? board.headers.map(({ pins }) => pins) : []
    }),
  astray: (plan) => {
    const far = { ...plan, supplies: { ...plan.supplies, FAR: { volts: 12, limitMilliamps: 3000 } } }
    const [board] = Object.keys(plan.boards)
    const common: PlanWire = ['FAR.-', `${board}.GND`]
    return plan.wires.flatMap((wire, at) =>
      sides.flatMap((side) => {
        if (!plan.parts[splitEnd(wire[side]).ref]) return []
        return [`${board}.GND`, `${board}.3V3`, `${board}.5V`, 'FAR.+'].flatMap((end): Change[] => {
          if (wire.includes(end)) return []
          const changed = withWire(end === 'FAR.+' ? far : plan, at, moved(wire, side === 0 ? 1 : 0, end))
          return [
            {
              kind: `${nameOf(plan, wire[side])} to ${end}`,
              words: `${wire[0]} ${wire[1]}`,
              plan: end === 'FAR.+' ? { ...changed, wires: [...changed.wires, common] } : changed,
            },
          ]
        })
      }),
    )
  },
  added: withAnother,
  turned: (plan) => ofParts(plan, 'turned', (row, at) => row[row.length - 1 - at]),
  plugged: (plan) => [1, -1].flatMap((by) => ofParts(plan, `one ${by > 0 ? 'on' : 'back'}`, (row, at) => row[at + by])),
  seated: (plan) =>
    Object.entries(plan.boards).flatMap(([ref, { board }]) =>
      (catalog.boards.get(board)?.headers ?? []).flatMap(({ id, pins }) =>
        [1, -1].map((by) => ({
          kind: `${board} ${id} one ${by > 0 ? 'on' : 'back'}`,
          words: '',
          plan: withRow(plan, ref, (pin) => (pins.includes(pin) ? pins[pins.indexOf(pin) + by] : pin)),
        })),
      ),
    ),
  rail: otherRails,
  broken: brokenRails,
  absent: (plan) =>
    Object.keys(plan.parts).flatMap((ref): Change[] => {
      const { [ref]: gone, ...parts } = plan.parts
      const wires = plan.wires.filter(([a, b]) => splitEnd(a).ref !== ref && splitEnd(b).ref !== ref)
      return wires.length < plan.wires.length && gone
        ? [{ kind: gone.part, words: ref, plan: { ...plan, parts, wires } }]
        : []
    }),
  kind: otherKinds,
  value: (plan) => [
    ...Object.entries(plan.parts).flatMap(([ref, part]) =>
      part.part === 'resistor'
        ? otherOhms(Number(part.options?.ohms)).map(({ kind, ohms }) => ({
            kind: `resistor ${kind}`,
            words: `${ref}, ${part.options?.ohms} ohms before, at ${wiredTo(plan, ref)}`,
            plan: { ...plan, parts: { ...plan.parts, [ref]: { ...part, options: { ...part.options, ohms } } } },
          }))
        : [],
    ),
    ...Object.entries(plan.supplies).flatMap(([ref, supply]) =>
      [2.2, 0.45].map((by) => ({
        kind: `supply times ${by}`,
        words: `${ref}, ${supply.volts} V before`,
        plan: { ...plan, supplies: { ...plan.supplies, [ref]: { ...supply, volts: supply.volts * by } } },
      })),
    ),
  ],
}

/** Ohms with a ring of another colour, or none at all. */
const otherOhms = (ohms: number): { readonly kind: string; readonly ohms: number }[] => [
  { kind: 'of 1 ohms', ohms: 1 },
  { kind: 'of 1000000 ohms', ohms: 1_000_000 },
  ...[0.01, 0.1, 10, 100].map((by) => ({ kind: `times ${by}`, ohms: ohms * by })),
]

/** What a part is wired to, as kinds of parts and pins. */
const wiredTo = (plan: Plan, ref: string): string =>
  plan.wires
    .flatMap(([a, b]) =>
      splitEnd(a).ref === ref ? [nameOf(plan, b)] : splitEnd(b).ref === ref ? [nameOf(plan, a)] : [],
    )
    .join(' and ')

/** All wires of a part or board with other pins; one whose pin comes to nothing is gone. */
function withRow(plan: Plan, ref: string, pinOf: (pin: string) => string | null | undefined): Plan {
  const put = (end: string): string | undefined => {
    const at = splitEnd(end)
    if (at.ref !== ref) return end
    const pin = pinOf(at.pin)
    return pin ? `${ref}.${pin}` : undefined
  }
  return {
    ...plan,
    wires: plan.wires.flatMap((wire): PlanWire[] => {
      const [a, b] = [put(wire[0]), put(wire[1])]
      return a && b && a !== b ? [[a, b]] : []
    }),
  }
}

/** Each part put otherwise into its row, with all its wires. */
function ofParts(
  plan: Plan,
  way: string,
  pinOf: (row: readonly (string | null)[], at: number) => string | null | undefined,
): Change[] {
  return Object.entries(plan.parts).flatMap(([ref, { part, options }]): Change[] => {
    const entry = catalog.parts.get(part)
    if (!entry) return []
    const row = legsOf(footprintOf(entry, options ?? {}))
    const put = (pin: string): string | null | undefined => (row.includes(pin) ? pinOf(row, row.indexOf(pin)) : pin)
    return [{ kind: `${part} ${way}`, words: ref, plan: withRow(plan, ref, put) }]
  })
}

/** What hangs on one supply or ground, on another one; of each source, plus for minus. */
function otherRails(plan: Plan): Change[] {
  const wiring = resolve(plan, catalog)
  const rails = wiring.nets.filter((net) => net.wired && (net.ground || net.sources.length > 0))
  const hostEnd = (ends: readonly string[]): string | undefined =>
    ends.find((end) => plan.supplies[splitEnd(end).ref]) ?? ends.find((end) => plan.boards[splitEnd(end).ref])
  const moves = rails.flatMap((from) =>
    rails.flatMap((to): Change[] => {
      const [end, other] = [hostEnd(from.ends), hostEnd(to.ends)]
      if (from === to || !end || !other) return []
      const on = new Set(from.ends.filter((one) => plan.parts[splitEnd(one).ref]))
      const wires = plan.wires.flatMap((wire): PlanWire[] => {
        const isFrom = (one: string): boolean => from.ends.includes(one)
        if (!isFrom(wire[0])) return [wire]
        if (on.has(wire[0]) && on.has(wire[1])) return [wire]
        const part = on.has(wire[0]) ? wire[0] : on.has(wire[1]) ? wire[1] : undefined
        return part ? [[part, other]] : [wire]
      })
      return [
        {
          kind: `all on ${wireName(plan, wiring, end)} to ${wireName(plan, wiring, other)}`,
          words: `${end} ${other}`,
          plan: { ...plan, wires },
        },
      ]
    }),
  )
  const turned = Object.keys(plan.supplies).map((ref) => ({
    kind: 'a supply turned round',
    words: ref,
    plan: withRow(plan, ref, (pin) => (pin === '+' ? '-' : pin === '-' ? '+' : pin)),
  }))
  return [...moves, ...turned]
}

/** A supply or ground that ends half-way: each run of its ends after another that has lost the rest. */
function brokenRails(plan: Plan): Change[] {
  const wiring = resolve(plan, catalog)
  return wiring.nets
    .filter((net) => net.wired && (net.ground || net.sources.length > 0))
    .flatMap((net) => {
      const ends = [...new Set(plan.wires.flatMap(([a, b]) => [a, b] as const))].filter((end) => net.ends.includes(end))
      const others = plan.wires.filter(([a]) => !net.ends.includes(a))
      const run = (list: readonly string[]): PlanWire[] =>
        list.slice(1).map((end, at): PlanWire => [list[at] as string, end])
      return ends.slice(2).flatMap((_, at): Change[] => {
        const [one, two] = [ends.slice(0, at + 2), ends.slice(at + 2)]
        if (two.length < 2) return []
        return [
          {
            kind: `${wireName(plan, wiring, ends[0] as string)} broken`,
            words: `before ${two.join(' ')}`,
            plan: { ...plan, wires: [...others, ...run(one), ...run(two)] },
          },
        ]
      })
    })
}

/** A wire too many, between any two ends of which one is a part's: of free pins of a board one stands for all. */
function withAnother(plan: Plan): Change[] {
  const wiring = resolve(plan, catalog)
  const ends = wiring.nets.flatMap((net) => {
    const parts = net.ends.filter((end) => plan.parts[splitEnd(end).ref])
    return net.wired ? [parts[0] ?? net.ends[0]] : parts
  })
  const free = wiring.nets.find(
    ({ wired, ends: [end = ''] }) => !wired && wiring.terminal(end)?.boardPin?.kind === 'io',
  )
  const all = [...ends, free?.ends[0]].filter((end) => end !== undefined)
  return all.flatMap((a, at) =>
    all.slice(at + 1).flatMap((b): Change[] =>
      wiring.netOf(a) === wiring.netOf(b) || !(plan.parts[splitEnd(a).ref] ?? plan.parts[splitEnd(b).ref])
        ? []
        : [
            {
              kind: [a, b]
                .map((end) => wireName(plan, wiring, end))
                .sort()
                .join(' with '),
              words: `${a} ${b}`,
              plan: { ...plan, wires: [...plan.wires, [a, b]] },
            },
          ],
    ),
  )
}

/** An end by its part and pin, a rail by its name, a pin of a board by its kind. */
function wireName(plan: Plan, wiring: Wiring, end: string): string {
  const { ref, pin } = splitEnd(end)
  const net = wiring.netOf(end)
  if (net.ground) return 'ground'
  if (net.sources[0]) return `${net.sources[0].volts} V`
  return plan.parts[ref] ? `${plan.parts[ref].part}.${pin}` : (wiring.terminal(end)?.boardPin?.kind ?? 'supply')
}

/** Another value of each option that is a choice, and another part of its kind on which all wires find their pins. */
function otherKinds(plan: Plan): Change[] {
  const usedOf = (ref: string): string[] =>
    plan.wires.flatMap(([a, b]) => [a, b].flatMap((end) => (splitEnd(end).ref === ref ? [splitEnd(end).pin] : [])))
  return Object.entries(plan.parts).flatMap(([ref, entry]) => {
    const part = catalog.parts.get(entry.part)
    if (!part) return []
    const withEntry = (words: string, change: Partial<typeof entry>): Change => ({
      kind: `${entry.part} ${words}`,
      words: ref,
      plan: { ...plan, parts: { ...plan.parts, [ref]: { ...entry, ...change } } },
    })
    const options = part.options.flatMap(({ id, values, usual }) =>
      values
        .filter(({ value }) => value !== (entry.options?.[id] ?? usual))
        .map(({ value }) => withEntry(`${id} ${value}`, { options: { ...entry.options, [id]: value } })),
    )
    const has = (other: typeof part, pin: string): boolean =>
      other.pins.some(({ id, aliases }) => id === pin || aliases.includes(pin))
    const others = [...catalog.parts.values()].filter(
      (other) => other !== part && other.category === part.category && usedOf(ref).every((pin) => has(other, pin)),
    )
    return usedOf(ref).length === 0
      ? []
      : [...options, ...others.map(({ id }) => withEntry(`is ${id}`, { part: id, options: {} }))]
  })
}

/** Each end of each wire one place further in its row, both ways. */
function alongRows(plan: Plan, rowsOf: (ref: string) => readonly (readonly (string | null)[])[]): Change[] {
  return plan.wires.flatMap((wire, at) =>
    sides.flatMap((side) => {
      const { ref, pin } = splitEnd(wire[side])
      const row = rowsOf(ref).find((pins) => pins.includes(pin)) ?? []
      const place = row.indexOf(pin)
      return [row[place - 1], row[place + 1]].flatMap((next): Change[] => {
        const other = `${ref}.${next}`
        if (place < 0 || !next || other === wire[side === 0 ? 1 : 0]) return []
        return [
          {
            kind: `${nameOf(plan, wire[side])} ${pin} to ${next}`,
            words: `${wire[0]} ${wire[1]}`,
            plan: withWire(plan, at, moved(wire, side, other)),
          },
        ]
      })
    }),
  )
}

/** Sound plans, with titles. */
function plans(file: string | undefined): { title: string; plan: Plan }[] {
  if (file === undefined) return sound.map((short) => ({ title: short.title, plan: planOf(short) }))
  const lines = readFileSync(file, 'utf8').split('\n')
  return lines.filter((line) => line.trim() !== '').map((title) => ({ title, plan: wiredUp(planTyped(title)) }))
}

const make = kinds[process.argv[2] ?? '']
if (!make) throw new Error(`expected a kind of change: ${Object.keys(kinds).join(', ')}`)
const silent = new Map<string, string[]>()
let count = 0
for (const { title, plan } of plans(process.argv[3])) {
  const before = new Set(said(plan))
  for (const { kind, words, plan: changed } of make(plan)) {
    const bound = bindPlan(changed, catalog)
    if (!bound.ok || JSON.stringify(bound.value) === JSON.stringify(plan)) continue
    count += 1
    if (said(bound.value).every((one) => before.has(one)))
      silent.set(kind, [...(silent.get(kind) ?? []), `${title}: ${words}`])
  }
}
const list = [...silent].sort(([, one], [, two]) => two.length - one.length)
for (const [kind, all] of list) console.log(`${kind}\n${all.map((one) => `    ${one}`).join('\n')}`)
console.log(`${count} changes, nothing said of ${list.reduce((sum, [, all]) => sum + all.length, 0)}`)
