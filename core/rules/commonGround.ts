import { UnionFind } from '../base/unionFind.ts'
import { circuitOf, railOf } from '../circuit/circuit.ts'
import type { BoardInstance, Net, PartInstance, Wiring } from '../wiring/model.ts'
import { cellsOf, lowestOf } from '../wiring/stacks.ts'
import { waysThrough } from '../wiring/waysThrough.ts'
import { cellGroundMessages, sayCellGround } from './cellPlaces.ts'
import type { Rule } from './finding.ts'
import { sayIdleConverters, sayLoops, sayRaised, supplyLoopMessages } from './supplyLoop.ts'

export const commonGround: Rule = {
  meta: {
    id: 'common-ground',
    severities: ['fault', 'caution'],
    about:
      'Two sides exchange signals or current, and their grounds are not joined; or what a supply gives finds no way back to it.',
    messages: { apart: '{what}, but {a} and {b} are not joined.', ...supplyLoopMessages, ...cellGroundMessages },
    lacking: ['apart', 'noReturn', 'idle', 'idleConverter'],
    fixable: true,
  },
  check(wiring, report) {
    sayCellGround(wiring, report)
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
    for (const use of wiring.signals)
      for (const { host } of use.hosts) {
        const partGround = groundNet(wiring, use.part)
        const hostGround = host.board ? host.board.ground : host.provider && groundNet(wiring, host.provider)
        if (!partGround || !hostGround || areJoined(partGround, hostGround)) continue
        say(
          groundName(wiring, partGround),
          groundName(wiring, hostGround),
          [use.part.ref, host.ref],
          `${use.part.ref} and ${host.ref} exchange signals`,
        )
      }
    for (const part of wiring.parts)
      for (const use of part.supplies) {
        if (!use.source) continue
        const source = sourceGround(wiring, use.source.ref)
        const ground = use.ground ?? switchedGround(wiring, part)
        if (!source || !ground || areJoined(source, ground)) continue
        say(
          groundName(wiring, source),
          groundName(wiring, ground),
          [part.ref, use.source.ref],
          `${part.ref} is fed from ${use.source.end} and returns through another ground`,
        )
      }
    for (const shunt of circuitOf(wiring).elements) {
      if (shunt.kind !== 'shunt') continue
      const ground = groundNet(wiring, shunt.part)
      const source = railOf(shunt.netA)?.source ?? railOf(shunt.netB)?.source
      const measured = source && sourceGround(wiring, source.ref)
      if (ground && measured && !areJoined(ground, measured))
        say(
          groundName(wiring, measured),
          groundName(wiring, ground),
          [shunt.part.ref, source.ref],
          `${shunt.part.ref} measures against its own ground what ${source.end} gives`,
        )
    }
    for (const boards of joinedBoards(wiring))
      for (const other of boards.slice(1))
        if (!areJoined(other.ground, boards[0]!.ground))
          say(
            groundName(wiring, boards[0]!.ground),
            groundName(wiring, other.ground),
            [boards[0]!.ref, other.ref],
            `${boards[0]!.ref} and ${other.ref} are joined by a signal`,
          )
    sayRaised(wiring, report)
    sayIdleConverters(wiring, report)
    sayLoops(wiring, (end) => named.has(wiring.netOf(end)), report)
  },
}

/** Two grounds are one where a switch, a fuse or a meter lies in the way of the current back: on, they join them. */
function joinedGrounds(wiring: Wiring): (a: Net, b: Net) => boolean {
  const sets = new UnionFind()
  for (const { kind, netA, netB } of circuitOf(wiring).elements)
    if (kind === 'contact' || kind === 'shunt') sets.join(String(netA.index), String(netB.index))
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

function sourceGround(wiring: Wiring, ref: string): Net | undefined {
  const lowest = lowestOf(wiring, ref)
  const cell = cellsOf(wiring.supplies, wiring.parts).find((one) => one.ref === lowest)
  const minus = cell?.minus.map(wiring.netOf).find((net) => net.ground)
  if (minus) return minus
  return wiring.boards.find((board) => board.ref === ref)?.ground
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
