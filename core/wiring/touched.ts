import { entryOf } from '../base/entryOf.ts'
import type { Net, PartInstance, Terminal, Wiring } from './model.ts'

/** What a change of the plan touches: a wiring cut down to it, and where findings about it can lie. */
export interface Touched {
  /**
   * The wiring with no more than the touched parts, their signals and ties, and the touched nets; whatever is looked
   * up in it is that of the whole.
   */
  readonly narrow: Wiring
  /** True for a finding at these ends and refs that has to be looked at anew. */
  readonly concerns: (at: readonly string[]) => boolean
}

/**
 * What differs between the wirings of two plans, with all that hangs together with it through resistors, diodes,
 * contacts, shifters and buffers. A supply or a ground parts what hangs on it, as long as its voltage stays. Undefined
 * when the change reaches everything: another board or supply, a board that is fed otherwise, a pin on a rail.
 */
export function touchedBy(before: Wiring, after: Wiring): Touched | undefined {
  if (before.catalog !== after.catalog) return undefined
  if (before.plan.boards !== after.plan.boards || before.plan.supplies !== after.plan.supplies) return undefined
  if (!sameOrder(before, after) || before.boards.some((board, index) => board.feed !== after.boards[index]?.feed))
    return undefined
  const wired = changedEnds(before, after)
  for (const end of wired) if (onRailWithPins(before, end) || onRailWithPins(after, end)) return undefined
  const refs = new Set<string>()
  for (const end of refed(before, after)) {
    const owner = (after.terminal(end) ?? before.terminal(end))?.owner
    if (owner?.kind === 'board') return undefined
    if (owner?.kind === 'part') refs.add(owner.ref)
  }
  for (const end of wired) {
    const terminal = after.terminal(end)
    if (terminal?.owner.kind === 'part' && (isOwn(terminal) || startsOrEnds(before, after, terminal.owner)))
      refs.add(terminal.ref)
  }
  const was = new Map(before.parts.map((part) => [part.ref, part]))
  for (const part of after.parts) {
    const old = was.get(part.ref)
    const same =
      old &&
      entryOf(before.plan.parts, part.ref) === entryOf(after.plan.parts, part.ref) &&
      old.home?.ref === part.home?.ref
    if (!same || old.logicVolts !== part.logicVolts) refs.add(part.ref)
    was.delete(part.ref)
  }
  for (const ref of was.keys()) refs.add(ref)
  // What else is there may decide whether a signal is needed.
  for (const { end, part, facts } of after.signals) {
    const old = before.signal(end)
    if (old && old.facts.required !== facts.required) refs.add(part.ref)
  }
  const ends = new Set(wired)
  for (const part of [...before.parts, ...after.parts])
    if (refs.has(part.ref)) for (const pin of part.part.pins) ends.add(`${part.ref}.${pin.id}`)
  return cutDown(after, ends, refs)
}

const refOf = ({ ref }: { ref: string }): string => ref
const isRail = (net: Net): boolean => net.ground || net.sources.length > 0

/** True for an end on a supply or ground that pins of boards are wired to as well. */
function onRailWithPins(wiring: Wiring, end: string): boolean {
  if (!wiring.terminal(end)) return false
  const net = wiring.netOf(end)
  return isRail(net) && net.ends.some((one) => wiring.terminal(one)?.host?.board !== undefined)
}

/** True when the parts that stayed stand in the same order. */
function sameOrder(before: Wiring, after: Wiring): boolean {
  const [was, now] = [new Set(before.parts.map(refOf)), new Set(after.parts.map(refOf))]
  const stayed = before.parts.filter((part) => now.has(part.ref))
  return after.parts.filter((part) => was.has(part.ref)).every((part, index) => part.ref === stayed[index]?.ref)
}

/** Ends that came to another supply or ground, or left one. */
function refed(before: Wiring, after: Wiring): string[] {
  const moved = (from: Wiring, to: Wiring): string[] =>
    from.nets
      .filter(isRail)
      .flatMap((net) => net.all.filter((end) => !to.terminal(end) || !sameRail(net, to.netOf(end))))
  return [...moved(before, after), ...moved(after, before)].filter((end) => before.terminal(end) ?? after.terminal(end))
}

/** True for nets at the same voltage from the same sources, or both without. */
const sameRail = (a: Net, b: Net): boolean =>
  a.ground === b.ground &&
  a.sources.length === b.sources.length &&
  a.sources.every((source, index) => {
    const other = b.sources[index]
    return source.end === other?.end && source.volts === other.volts && source.limitMilliamps === other.limitMilliamps
  })

/** Ends whose wires came or went, or that are left open or no longer so. */
function changedEnds(before: Wiring, after: Wiring): Set<string> {
  const ends = new Set<string>()
  const [was, now] = [new Set(before.plan.wires), new Set(after.plan.wires)]
  for (const wire of before.plan.wires) if (!now.has(wire)) ends.add(wire[0]).add(wire[1])
  for (const wire of after.plan.wires) if (!was.has(wire)) ends.add(wire[0]).add(wire[1])
  const [leftOpen, leavesOpen] = [new Set(before.plan.unused), new Set(after.plan.unused)]
  for (const end of before.plan.unused) if (!leavesOpen.has(end)) ends.add(end)
  for (const end of after.plan.unused) if (!leftOpen.has(end)) ends.add(end)
  return ends
}

/** True for a part that comes into the build or leaves it: none of its pins has a wire before, or after. */
const startsOrEnds = (before: Wiring, after: Wiring, part: PartInstance): boolean =>
  anyWired(before, part) !== anyWired(after, part)

const anyWired = (wiring: Wiring, { ref, part }: PartInstance): boolean =>
  part.pins.some((pin) => {
    const end = `${ref}.${pin.id}`
    return wiring.terminal(end) !== undefined && wiring.netOf(end).wired
  })

/** Follows what hangs together from the ends on, and then everything on the lines of the parts that it meets. */
function cutDown(wiring: Wiring, ends: ReadonlySet<string>, refs: ReadonlySet<string>): Touched {
  const { nets, parts } = followed(wiring, ends)
  const about = new Set([...refs, ...parts.map(refOf), ...ends])
  for (const net of nets) if (!isRail(net)) for (const end of net.all) about.add(end)
  const own = parts.flatMap((part) => ownEnds(wiring, part))
  for (const end of own) about.add(end)
  // The hole that gives a supply or ground is there for many; nothing is said of it alone.
  for (const end of [...ends, ...own]) {
    const terminal = wiring.terminal(end)
    if (!terminal) continue
    const net = wiring.netOf(end)
    if (isRail(net) && (terminal.owner.kind !== 'part' || net.sources.some((source) => source.end === end)))
      about.delete(end)
  }
  const around = followed(wiring, [...ends, ...own])
  const within = new Set(around.parts)
  return {
    narrow: {
      ...wiring,
      whole: wiring,
      parts: wiring.parts.filter((part) => within.has(part)),
      signals: wiring.signals.filter((use) => within.has(use.part)),
      ties: wiring.ties.filter((tie) => within.has(tie.part)),
      nets: wiring.nets.filter((net) => around.nets.has(net)),
    },
    concerns: (at) => at.some((one) => about.has(one)),
  }
}

/** Nets that hang together with some ends, and the parts that have pins of their own on them. */
function followed(wiring: Wiring, ends: Iterable<string>): { nets: Set<Net>; parts: PartInstance[] } {
  const nets = new Set<Net>()
  const parts = new Set<PartInstance>()
  const queue: Net[] = []
  const reach = (end: string): void => {
    const net = wiring.netOf(end)
    if (nets.has(net)) return
    nets.add(net)
    if (!isRail(net)) queue.push(net)
  }
  const meet = (terminal: Terminal): void => {
    if (terminal.owner.kind !== 'part' || !isOwn(terminal) || parts.has(terminal.owner)) return
    parts.add(terminal.owner)
    // What an input, an enable or the ground leg of a driver does shows at its outputs.
    for (const { output } of terminal.owner.part.channels) reach(`${terminal.ref}.${output}`)
  }
  for (const end of ends) {
    const terminal = wiring.terminal(end)
    if (!terminal) continue
    meet(terminal)
    reach(end)
  }
  for (let net = queue.pop(); net; net = queue.pop())
    for (const end of net.all) {
      const terminal = wiring.terminal(end)
      if (terminal?.owner.kind !== 'part') continue
      meet(terminal)
      for (const { between } of terminal.owner.part.inner)
        if (between.includes(terminal.pin)) for (const pin of between) reach(`${terminal.ref}.${pin}`)
    }
  return { nets, parts: [...parts] }
}

/**
 * False for a pin that a part gives to others: what is wired there says nothing of the part, but for an output of a
 * driver, whose inputs are needed or spare by what hangs on it.
 */
const isOwn = ({ host, owner, pin, partPin }: Terminal): boolean =>
  !host ||
  partPin?.role === 'passive' ||
  (owner.kind === 'part' && owner.part.channels.some(({ output }) => output === pin))

const ownEnds = (wiring: Wiring, { ref, part }: PartInstance): string[] =>
  part.pins.map((pin) => `${ref}.${pin.id}`).filter((end) => isOwn(wiring.terminal(end) as Terminal))
