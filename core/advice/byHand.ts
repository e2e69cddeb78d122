import { openEnds } from '../assign/openEnds.ts'
import { place } from '../assign/rewire.ts'
import { type Edit, wireIndex } from '../plan/edit.ts'
import { canonicalEnd, splitEnd } from '../plan/ends.ts'
import type { PartInstance, SignalUse, Wiring } from '../wiring/model.ts'

/** A pin of a part in the part's own order, supplies and grounds like any other, and where its wires lead. */
export interface HandRow {
  readonly end: string
  readonly pin: string
  /** Number of a leg, or the colour of a lead. */
  readonly mark: string | undefined
  readonly role: 'signal' | 'supply' | 'ground' | 'other'
  /** Signal that starts at the pin. */
  readonly use: SignalUse | undefined
  /** Ends at the other side of its wires; beyond a part in series the pin of the board. */
  readonly to: readonly string[]
  readonly state: 'wired' | 'open' | 'optional' | 'unused'
}

/** What comes of words for a pin: edits, or what is wrong with them. */
export type HandAnswer =
  | { readonly ok: true; readonly edits: readonly Edit[] }
  | { readonly ok: false; readonly message: string }

/** The pins of a part as they stand on it. */
export function handRows(wiring: Wiring, part: PartInstance): HandRow[] {
  const unused = new Set(wiring.plan.unused)
  const open = new Map(openEnds(wiring, part).map((one) => [one.end, one.required]))
  const supplies = new Set(part.supplies.flatMap(({ pins }) => pins))
  const grounds = new Set(part.supplies.flatMap((one) => one.grounds))
  return part.part.pins.map((pin): HandRow => {
    const end = `${part.ref}.${pin.id}`
    const use = wiring.signal(end)
    const own = wiresAt(wiring, end)
    const beyond = use?.hosts.map(({ host }) => host.end) ?? []
    const to = beyond.length > 0 ? beyond : own
    const required = open.get(end)
    return {
      end,
      pin: pin.id,
      mark: pin.lead?.colour ?? (pin.number === undefined ? undefined : `${pin.number}`),
      role: supplies.has(end)
        ? 'supply'
        : grounds.has(end) || pin.role === 'ground'
          ? 'ground'
          : use
            ? 'signal'
            : 'other',
      use,
      to,
      state: unused.has(end) ? 'unused' : required === true ? 'open' : to.length > 0 ? 'wired' : 'optional',
    }
  })
}

/** Ends at the other side of the wires of an end. */
const wiresAt = (wiring: Wiring, end: string): string[] =>
  wiring.plan.wires.flatMap(([from, to]) => (from === end ? [to] : to === end ? [from] : []))

/**
 * Takes a pin where the maker says: a pin of its board by any of its names (`10`, `D10`, `GND`), or any end of the plan
 * (`RELAY.IN`, `RELAY IN`, `PACK.+`). What the pin was wired to before goes, except parts that hang on it, such as a
 * pull-up. `-` leaves it open on purpose; nothing said changes nothing. A locked wire is not touched.
 */
export function wireByHand(wiring: Wiring, end: string, words: string): HandAnswer {
  const said = words.trim()
  if (said === '') return { ok: true, edits: [] }
  const { ref } = splitEnd(end)
  if (/^(?:-|–|nc|n\/c|none|open)$/i.test(said))
    return { ok: true, edits: wiring.plan.unused.includes(end) ? [] : [{ do: 'leave-open', end }] }
  const found = endOf(wiring, ref, said)
  if (!found.ok) return found
  const to = found.end
  if (to === end) return { ok: false, message: `${end} is the pin itself; say where its wire goes` }
  const use = wiring.signal(end)
  const host = wiring.terminal(to)?.host
  if (wiring.netOf(end) === wiring.netOf(to)) return { ok: true, edits: [] }
  if (use && host && use.hosts.some((one) => one.host === host)) return { ok: true, edits: [] }
  const moved = use && host ? place(wiring, use, host) : moveWires(wiring, end, to)
  return moved ? { ok: true, edits: moved } : { ok: false, message: `the wire of ${end} is locked; unlock it first` }
}

/** An end as makers say it from a part: a pin of its board first, then anything in the plan. */
export function endOf(wiring: Wiring, ref: string, said: string): ReturnType<typeof canonicalEnd> {
  const find = (end: string): ReturnType<typeof canonicalEnd> => canonicalEnd(wiring.plan, wiring.catalog, end)
  const home = wiring.parts.find((part) => part.ref === ref)?.home?.ref
  const onBoard = home === undefined ? undefined : find(`${home}.${said}`)
  if (onBoard?.ok) return onBoard
  const whole = /[.\s]/.test(said) ? find(said.replace(/\s+/, '.').replace(/\.{2,}/, '.')) : undefined
  if (whole?.ok) return whole
  // A supply by its name alone is its plus.
  const supply = wiring.supplies.find((one) => one.ref.toLowerCase() === said.toLowerCase())
  if (supply) return { ok: true, end: `${supply.ref}.+` }
  return whole && wiring.parts.some((part) => said.toLowerCase().startsWith(part.ref.toLowerCase()))
    ? whole
    : (onBoard ?? find(said))
}

/** Takes the wires of an end off boards and supplies, and leads it elsewhere; undefined when one is locked. */
function moveWires(wiring: Wiring, end: string, to: string): Edit[] | undefined {
  const owners = new Set([...wiring.boards, ...wiring.supplies].map(({ ref }) => ref))
  const old = wiring.plan.wires.filter(
    ([a, b]) => (a === end && owners.has(splitEnd(b).ref)) || (b === end && owners.has(splitEnd(a).ref)),
  )
  if (old.some((wire) => wire[2]?.locked)) return undefined
  return [...old.map(([a, b]): Edit => ({ do: 'disconnect', from: a, to: b })), { do: 'connect', from: end, to }]
}

/**
 * Edits that take a part away. One that lay in series between two others leaves a wire in its place, so that what it
 * stood between stays joined; one at a supply or ground, such as a pull-up, does not.
 */
export function removal(wiring: Wiring, ref: string): Edit[] {
  const part = wiring.parts.find((one) => one.ref === ref)
  const remove: Edit = { do: 'remove', ref }
  if (part?.part.pins.length !== 2 || !part.part.pins.every(({ role }) => role === 'passive')) return [remove]
  const [a, b] = part.part.pins.map(({ id }) => `${ref}.${id}`) as [string, string]
  const isRail = (end: string): boolean => {
    const net = wiring.netOf(end)
    return net.ground || net.sources.length > 0
  }
  const [left, right] = [wiresAt(wiring, a), wiresAt(wiring, b)]
  const [first] = left
  if (first === undefined || right.length === 0 || isRail(a) || isRail(b) || left.some((end) => right.includes(end)))
    return [remove]
  return [
    remove,
    ...[...left.slice(1), ...right]
      .filter((to) => wireIndex(wiring.plan, first, to) < 0)
      .map((to): Edit => ({ do: 'connect', from: first, to })),
  ]
}
