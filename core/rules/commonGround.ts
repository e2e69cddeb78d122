import { UnionFind } from '../base/unionFind.ts'
import { circuitOf, railOf } from '../circuit/circuit.ts'
import { isBetweenParts } from '../wiring/between.ts'
import { cellPlaceOf } from '../wiring/cellPlaces.ts'
import type { BoardInstance, Net, PartInstance, Wiring } from '../wiring/model.ts'
import { cellsOf, lowestOf } from '../wiring/stacks.ts'
import { waysThrough } from '../wiring/waysThrough.ts'
import { cellGroundMessages, cellHalfMessages, sayCellGround, sayHalfCells } from './cellPlaces.ts'
import type { Rule } from './finding.ts'
import { sayIdleConverters, sayLoops, sayRaised, supplyLoopMessages } from './supplyLoop.ts'

export const commonGround: Rule = {
  meta: {
    id: 'common-ground',
    severities: ['fault', 'caution'],
    about:
      'Two sides exchange signals or current, and their grounds are not joined; or what a supply gives finds no way back to it.',
    messages: {
      apart: '{what}, but {a} and {b} are not joined.',
      ...supplyLoopMessages,
      ...cellGroundMessages,
      ...cellHalfMessages,
    },
    lacking: ['apart', 'noReturn', 'idle', 'idleConverter', 'cellHalf'],
    fixable: true,
  },
  check(wiring, report) {
    sayCellGround(wiring, report)
    sayHalfCells(wiring, report)
    const said = new Set<string>()
    const named = new Set<Net>()
    const say = (a: string, b: string, at: readonly string[], what: string): void => {
      const key = [a, b].sort().join(' ')
      if (a === b || said.has(key)) return
      said.add(key)
      for (const end of [a, b]) named.add(wiring.netOf(end))
      report({
        severity: 'fault',
        at,
        message: 'apart',
        data: { what, a, b },
        why: 'A voltage is always a difference between two points. Unless both sides share their ground, a high on one side is an accident on the other, and the current finds its way back through a signal pin.',
        numbers: {},
        propose: () => [{ title: `Join ${a} to ${b}`, edits: [{ do: 'connect', from: a, to: b }] }],
      })
    }
    const areJoined = joinedGrounds(wiring)
    for (const { one, two, at, what } of pairsOfGrounds(wiring))
      if (!areJoined(one, two)) say(groundName(wiring, one), groundName(wiring, two), at, what)
    sayRaised(wiring, report)
    sayIdleConverters(wiring, report)
    sayLoops(wiring, (end) => named.has(wiring.netOf(end)), report)
  },
}

/** Two grounds that must be one, whom they belong to, and why they must. */
interface GroundPair {
  readonly one: Net
  readonly two: Net
  readonly at: readonly string[]
  readonly what: string
}

/** Of a part and what it talks to, of a part or a board and its supply, of a meter and what it measures, of two boards. */
const pairsOfGrounds = (wiring: Wiring): readonly GroundPair[] => [
  ...talkingPairs(wiring),
  ...fedPairs(wiring),
  ...fedBoards(wiring),
  ...measuringPairs(wiring),
  ...joinedBoards(wiring).flatMap(([first, ...others]) =>
    others.flatMap((other): GroundPair[] =>
      first
        ? [
            {
              one: first.ground,
              two: other.ground,
              at: [first.ref, other.ref],
              what: `${first.ref} and ${other.ref} are joined by a signal`,
            },
          ]
        : [],
    ),
  ),
]

const talkingPairs = (wiring: Wiring): GroundPair[] =>
  wiring.signals.flatMap((use) => {
    const one = groundNet(wiring, use.part)
    const pair = (ref: string, two: Net | undefined): GroundPair[] => {
      const what = `${use.part.ref} and ${ref} exchange signals`
      return one && two ? [{ one, two, at: [use.part.ref, ref], what }] : []
    }
    const withParts = use.state === 'joined' && isBetweenParts(wiring, use) ? use.meets : []
    return [
      ...use.hosts.flatMap(({ host }) =>
        pair(host.ref, host.board ? host.board.ground : host.provider && groundNet(wiring, host.provider)),
      ),
      ...withParts.flatMap((end) => {
        const other = wiring.signal(end)?.part
        return other ? pair(other.ref, groundNet(wiring, other)) : []
      }),
    ]
  })

const fedPairs = (wiring: Wiring): GroundPair[] =>
  wiring.parts.flatMap((part) =>
    part.supplies.flatMap((use): GroundPair[] => {
      if (!use.source) return []
      const one = sourceGround(wiring, use.source.ref)
      const two = use.ground ?? switchedGround(wiring, part)
      const what = `${part.ref} is fed from ${use.source.end} and returns through another ground`
      return one && two ? [{ one, two, at: [part.ref, use.source.ref], what }] : []
    }),
  )

/** Boards with a supply at one of their pins, a converter among them. */
const fedBoards = (wiring: Wiring): GroundPair[] =>
  wiring.boards.flatMap(({ ref, board, ground }) =>
    board.feeds
      .flatMap(({ pins }) => pins)
      .flatMap((pin) => wiring.netOf(`${ref}.${pin}`).sources)
      .flatMap((source): GroundPair[] => {
        const one = source.ref === ref ? undefined : sourceGround(wiring, source.ref)
        const what = `${ref} is fed from ${source.end} and returns through another ground`
        return one ? [{ one, two: ground, at: [ref, source.ref], what }] : []
      }),
  )

const measuringPairs = (wiring: Wiring): GroundPair[] => {
  const places = wiring.parts.flatMap((part) => cellPlaceOf(part) ?? [])
  // The minus of a cell lies behind the protection of its charger, which joins it to the ground of the load.
  const behind = (net: Net): Net => {
    const place = places.find(({ isCharger, minus }) => isCharger && minus !== undefined && wiring.netOf(minus) === net)
    return place ? wiring.netOf(place.ground) : net
  }
  return circuitOf(wiring).elements.flatMap(({ kind, part, netA, netB }): GroundPair[] => {
    const isMeter = kind === 'shunt' && !part.part.inner.some(({ isolated }) => isolated)
    const source = isMeter ? (railOf(netA)?.source ?? railOf(netB)?.source) : undefined
    const one = source && sourceGround(wiring, source.ref)
    const two = groundNet(wiring, part)
    const what = `${part.ref} measures against its own ground what ${source?.end} gives`
    return one && two && source ? [{ one: behind(one), two, at: [part.ref, source.ref], what }] : []
  })
}

/**
 * Two grounds are one where a switch, a fuse, a meter or a transistor that guards against exchanged poles lies in the way
 * of the current back: on, they join them.
 */
function joinedGrounds(wiring: Wiring): (a: Net, b: Net) => boolean {
  const sets = new UnionFind()
  const { elements, channels } = circuitOf(wiring)
  for (const { kind, netA, netB } of elements)
    if (kind === 'contact' || kind === 'shunt') sets.join(String(netA.index), String(netB.index))
  for (const { part, output } of channels)
    for (const { id, role } of part.part.build === 'component' ? part.part.pins : [])
      if (role === 'ground')
        sets.join(String(wiring.netOf(output).index), String(wiring.netOf(`${part.ref}.${id}`).index))
  return (a, b) => sets.find(String(a.index)) === sets.find(String(b.index))
}

/** Boards whose pins are on one wire, or on two with nothing but resistors, diodes or ways of a shifter between. */
function joinedBoards(wiring: Wiring): BoardInstance[][] {
  const { elements } = circuitOf(wiring)
  const sets = new UnionFind()
  const join = (a: Net, b: Net): void => {
    const isRail = [a, b].some((net) => net.ground || net.sources.length > 0)
    if (!isRail) sets.join(String(a.index), String(b.index))
  }
  for (const { kind, part, netA, netB } of elements)
    if (part.part.build === 'component' && (kind === 'resistor' || kind === 'diode')) join(netA, netB)
  for (const part of wiring.parts)
    for (const { from, to } of waysThrough(part)) join(wiring.netOf(from), wiring.netOf(to))
  const groups = new Map<string, Set<BoardInstance>>()
  for (const net of wiring.nets) {
    if (!net.wired) continue
    const key = sets.find(String(net.index))
    for (const end of net.ends) {
      const board = wiring.terminal(end)?.host?.board
      if (board) groups.set(key, (groups.get(key) ?? new Set()).add(board))
    }
  }
  return [...groups.values()].map((boards) => [...boards])
}

/**
 * Ground on which a part stands: that of its supply, or of a leg that goes to ground, as a transistor has; one that
 * switches a supply stands on that supply.
 */
function groundNet(wiring: Wiring, part: PartInstance): Net | undefined {
  const fed = part.supplies.find((use) => use.ground)?.ground
  if (fed || part.supplies.some(({ grounds }) => grounds.length > 0)) return fed
  const low = part.part.pins
    .filter((pin) => pin.role === 'ground')
    .map((pin) => wiring.netOf(`${part.ref}.${pin.id}`))
    .find((net) => net.ground)
  if (low) return low
  const high = part.part.channels.find(({ supply }) => supply !== undefined)?.supply
  const source = high === undefined ? undefined : wiring.netOf(`${part.ref}.${high}`).sources[0]
  return source && sourceGround(wiring, source.ref)
}

/** Minus of a cell, the lowest where they stand in a row, or the ground of a board or a converter. */
function sourceGround(wiring: Wiring, ref: string): Net | undefined {
  const lowest = lowestOf(wiring, ref)
  const cell = cellsOf(wiring.supplies, wiring.parts).find((one) => one.ref === lowest)
  const minus = cell?.minus.map(wiring.netOf).find((net) => net.ground)
  if (minus) return minus
  const board = wiring.boards.find((one) => one.ref === ref)
  const converter = wiring.parts.find((one) => one.ref === ref && one.part.rails.some(({ from }) => from !== undefined))
  return board?.ground ?? (converter && groundNet(wiring, converter))
}

/** Ground that a load reaches through the driver which switches it. */
function switchedGround(wiring: Wiring, part: PartInstance): Net | undefined {
  for (const use of wiring.signals) {
    const driver =
      use.part === part ? use.hosts.find(({ host }) => host.functions.has('sink'))?.host.provider : undefined
    const pin = driver?.part.pins.find((one) => one.role === 'ground')
    const net = driver && pin ? wiring.netOf(`${driver.ref}.${pin.id}`) : undefined
    if (net?.ground) return net
  }
  return undefined
}

/** The hole by which a ground net is named: a board's first, else a supply's minus. */
const groundName = (wiring: Wiring, net: Net): string =>
  net.ends.find((end) => wiring.terminal(end)?.boardPin?.kind === 'ground') ??
  net.ends.find((end) => wiring.terminal(end)?.owner.kind === 'supply') ??
  cellsOf([], wiring.parts)
    .flatMap(({ minus }) => minus)
    .find((end) => wiring.netOf(end) === net) ??
  (net.ends[0] as string)
