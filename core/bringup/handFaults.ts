import { footprintOf } from '../catalog/footprint.ts'
import type { Footprint } from '../catalog/partSchema.ts'
import { linesOf } from '../firmware/lines.ts'
import { splitEnd } from '../plan/ends.ts'
import type { PlanWire } from '../plan/planSchema.ts'
import type { Wiring } from '../wiring/model.ts'
import { cut, type Fault, isWired, lay } from './fault.ts'

/** Pins by the pin in whose hole each stands when the body is put in the other way round; nothing for what has no two ways. */
export function mirrored(footprint: Footprint): Map<string, string> {
  const pairs = (from: readonly (string | null)[], to: readonly (string | null)[]): [string, string][] =>
    from.flatMap((pin, at): [string, string][] => {
      const other = to[at]
      return pin !== null && other ? [[pin, other]] : []
    })
  switch (footprint.kind) {
    case 'dual-in-line': {
      const half = footprint.pins.length / 2
      return new Map(pairs(footprint.pins, [...footprint.pins.slice(half), ...footprint.pins.slice(0, half)]))
    }
    case 'two-row': {
      const [left, right] = [footprint.left, footprint.right]
      return new Map([...pairs(left, [...right].reverse()), ...pairs(right, [...left].reverse())])
    }
    case 'in-line':
      return footprint.posts === 'pads' ? new Map() : new Map(pairs(footprint.pins, [...footprint.pins].reverse()))
    case 'legs':
      return new Map(pairs(footprint.pins, [...footprint.pins].reverse()))
    case 'leads':
      return footprint.housing ? new Map(pairs(footprint.pins, [...footprint.pins].reverse())) : new Map()
    case 'beside':
      return new Map()
  }
}

/** A chip, a row of legs or a plug of three pins and more, put in the other way round: each pin where its mirror belongs. */
export function chipsTurned(wiring: Wiring): Fault[] {
  return wiring.parts.flatMap((part): Fault[] => {
    const { ref } = part
    const footprint = footprintOf(part.part, part.options)
    // A module shows which way it faces; its plug does not.
    if (part.part.build === 'module' && footprint.kind !== 'leads') return []
    const other = mirrored(footprint)
    if (other.size < 3) return []
    const own = (end: string): boolean => splitEnd(end).ref === ref
    const wires = wiring.plan.wires.filter(([from, to]) => own(from) || own(to))
    const moved = (end: string): string | undefined => {
      const pin = own(end) ? other.get(splitEnd(end).pin) : undefined
      return own(end) ? pin && `${ref}.${pin}` : end
    }
    const laid = wires.flatMap(([from, to]) => {
      const [a, b] = [moved(from), moved(to)]
      return a !== undefined && b !== undefined && a !== b ? [lay(a, b)] : []
    })
    if (wires.length === 0) return []
    return [
      {
        id: `chip:${ref}`,
        kind: 'chip',
        words: `${ref} is in the other way round`,
        edits: [...wires.map(cut), ...laid],
        shows: { [`look:${ref}`]: 'turned' },
        at: [ref],
      },
    ]
  })
}

/** The wires of a part on one header, counted from its other end. */
export function countedWrong(wiring: Wiring): Fault[] {
  const groups = new Map<string, { ref: string; title: string; wires: { wire: PlanWire; own: string; to: string }[] }>()
  for (const wire of wiring.plan.wires)
    for (const [own, post] of [
      [wire[0], wire[1]],
      [wire[1], wire[0]],
    ] as const) {
      const terminal = wiring.terminal(post)
      const pin = terminal?.boardPin
      if (!pin || terminal?.owner.kind !== 'board' || wiring.terminal(own)?.owner.kind !== 'part') continue
      const { header } = pin
      const count = header.pins.length
      const across = terminal.owner.facts.pins.find(
        (one) => one.header === header && one.position === 2 * header.numberedFrom + count - 1 - pin.position,
      )
      const { ref } = splitEnd(own)
      const key = `${ref}-${terminal.ref}.${header.id}`
      const group = groups.get(key) ?? { ref, title: `${header.title} of ${terminal.ref}`, wires: [] }
      if (across) group.wires.push({ wire, own, to: `${terminal.ref}.${across.id}` })
      groups.set(key, group)
    }
  return [...groups].flatMap(([key, { ref, title, wires }]): Fault[] => {
    if (wires.length < 2 || wires.some(({ own, to }) => isWired(wiring, own, to))) return []
    return [
      {
        id: `counted:${key}`,
        kind: 'counted',
        words: `the wires of ${ref} are counted from the wrong end of the ${title}`,
        edits: [...wires.map(({ wire }) => cut(wire)), ...wires.map(({ own, to }) => lay(own, to))],
        at: [...new Set(wires.flatMap(({ own, to }) => [own, to]))],
      },
    ]
  })
}

/** A pin of a board that neither drives nor reads any more, though its metal is whole. */
export function deadPins(wiring: Wiring): Fault[] {
  const hosts = new Map(linesOf(wiring).flatMap(({ host }) => (host.board ? [[host.end, host] as const] : [])))
  return [...hosts.values()].map(({ end, ref, board, pin }): Fault => {
    const net = board?.facts.pin(pin)?.net
    const isHere = (one: string): boolean => {
      const { ref: owner, pin: id } = splitEnd(one)
      return owner === ref && board?.facts.pin(id)?.net === net
    }
    const wires = wiring.plan.wires.filter(([from, to]) => isHere(from) || isHere(to))
    const [first, ...others] = wires.map(([from, to]) => (isHere(from) ? to : from))
    return {
      id: `dead-pin:${end}`,
      kind: 'dead-pin',
      words: `the pin ${end} is dead`,
      edits: [],
      live: [
        ...wires.map(cut),
        ...others.flatMap((far) => (first === undefined || far === first ? [] : [lay(first, far)])),
      ],
      shows: { [`pin:${end}`]: 'dead' },
      at: [end],
    }
  })
}

/** A joint that sounds under the tips of a meter, which press on it, and carries nothing by itself. */
export const coldJoints = (wiring: Wiring): Fault[] =>
  wiring.plan.wires.map((wire) => ({
    id: `cold:${wire[0]}-${wire[1]}`,
    kind: 'cold',
    words: `the wire ${wire[0]} to ${wire[1]} has a cold joint or a tired contact`,
    edits: [],
    live: [cut(wire)],
    shows: Object.fromEntries(
      [`press:${wire[0]}-${wire[1]}`, `wiggle:${splitEnd(wire[0]).ref}`, `wiggle:${splitEnd(wire[1]).ref}`].map(
        (id) => [id, 'comes alive'],
      ),
    ),
    at: [wire[0], wire[1]],
  }))
