import { UnionFind } from '../base/unionFind.ts'
import { circuitOf, railOf, railWords } from '../circuit/circuit.ts'
import { LEAST_HOLD } from '../circuit/reach.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import { type Cell, cellsOf, standsOn } from '../wiring/stacks.ts'
import { groundPost } from '../wiring/supply.ts'
import type { Report } from './finding.ts'
import { moveTo } from './mend.ts'

export const supplyLoopMessages = {
  noReturn: 'What {plus} gives never comes back: {minus} {minus:is/are} {state}.',
  onSignal: '{minus} is joined with {pins}, where signals run, and with no ground.',
  raised: '{minus} lies on {rail} instead of ground.',
  idleConverter: '{outputs} {outputs:has/have} no wire: what {part} makes of its supply feeds nothing.',
  idle: '{plus} has no wire: {supply} feeds nothing, although {minus} is joined.',
}

/**
 * A source of which one pole is wired and the other is not, or whose poles no way joins outside of it: a current flows
 * in a circle only (Kirchhoff). Chips and modules count as joined inside from pin to pin, so that silence proves nothing.
 * What was named already, or ends at a leg that waits for its wire or at two legs on one wire, is left to others.
 */
export function sayLoops(wiring: Wiring, isNamed: (end: string) => boolean, report: (one: Report) => void): void {
  const unused = new Set(wiring.plan.unused)
  const isWired = (end: string): boolean => wiring.netOf(end).wired
  const cells = cellsOf(wiring.supplies, wiring.parts)
  for (const cell of cells) {
    const { ref, plus, minus, speaks } = cell
    if (unused.has(plus) || minus.some((end) => unused.has(end))) continue
    const out = isWired(plus)
    const back = minus.some(isWired)
    // Of a cable that speaks its own rule knows more.
    const pins = speaks ? [] : signalsAt(wiring, minus)
    if (pins.length > 0)
      report({
        severity: 'fault',
        at: [...minus, ...pins],
        message: 'onSignal',
        data: { minus: minus[0] as string, pins },
        why: 'The whole current of a supply comes back into its minus. A pin for signals bears a few milliamperes, and no ground is common then to what the supply feeds and to what is read.',
        numbers: {},
        propose: () => {
          const to = groundPost(wiring.boards[0])
          return to === undefined ? [] : moveTo(wiring, minus[0] as string, to)
        },
      })
    if (!out && back && !speaks)
      report({
        severity: 'caution',
        at: [plus, ...minus],
        message: 'idle',
        data: { plus, supply: ref, minus: minus[0] as string },
        why: 'One pole of a supply alone carries nothing. What it was meant for stays without current, or takes it from elsewhere. Join the other pole with it, or take the supply out of the plan.',
        numbers: {},
      })
    // Of cells in a row the lowest is the one that has no way back.
    if (!out || minus.some(isNamed) || standsOn(wiring, ref) !== undefined || (back && isClosed(wiring, cell, cells)))
      continue
    const ground = groundPost(wiring.boards[0])
    report({
      severity: 'fault',
      at: [...minus, plus],
      message: 'noReturn',
      data: {
        plus,
        minus: [...minus],
        state: back ? 'joined with nothing that it feeds' : 'open',
      },
      why: 'A current flows in a circle only: out of plus, through what it feeds, and back into minus. While one side is open nothing runs, or the way back is found through pins that do not bear it.',
      numbers: {},
      propose: () =>
        ground === undefined
          ? []
          : [
              {
                title: `Join ${minus[0]} to ${ground}`,
                edits: [{ do: 'connect', from: minus[0] as string, to: ground }],
              },
            ],
    })
  }
}

/** Pins for signals of a board on the minus of a supply, where nothing else leads on from there that bears a current. */
function signalsAt(wiring: Wiring, minus: readonly string[]): string[] {
  const circuit = circuitOf(wiring)
  return minus.flatMap((end) => {
    const net = wiring.netOf(end)
    if (!net.wired || net.ground || net.sources.length > 0) return []
    const carries = circuit.on(net).some(({ kind, ohms }) => kind !== 'capacitor' && (ohms ?? 0) < LEAST_HOLD)
    if (carries || circuit.channels.some(({ output }) => wiring.netOf(output) === net)) return []
    return net.ends.filter((one) => wiring.terminal(one)?.boardPin?.kind === 'io')
  })
}

/** Some way leads from plus to minus without going through the source itself, or may still. */
function isClosed(wiring: Wiring, { ref, plus, minus }: Cell, cells: readonly Cell[]): boolean {
  const circuit = circuitOf(wiring)
  const sets = new UnionFind()
  const key = (end: string): string => String(wiring.netOf(end).index)
  const join = (ends: readonly string[]): void => {
    for (const end of ends.slice(1)) sets.join(key(ends[0] as string), key(end))
  }
  for (const board of wiring.boards) join(board.facts.pins.map(({ id }) => `${board.ref}.${id}`))
  for (const other of cells) if (other.ref !== ref) join([other.plus, ...other.minus])
  const isPlain = ({ part, supplies }: PartInstance): boolean =>
    part.build === 'component' &&
    (supplies.length === 0 ||
      ((part.category === 'load' || part.category === 'light') &&
        part.signals.every((one) => one.direction === 'passive')))
  for (const one of wiring.parts)
    if (one.ref !== ref && !isPlain(one)) join(one.part.pins.map(({ id }) => `${one.ref}.${id}`))
  const carrying = circuit.elements.filter(({ kind }) => kind !== 'capacitor')
  for (const { a, b } of carrying) join([a, b])
  for (const { part, facts, output, inputs } of circuit.channels) {
    const low = part.part.pins.filter(({ role }) => role === 'ground').map(({ id }) => `${part.ref}.${id}`)
    join([output, ...low, ...inputs, ...(facts.supply === undefined ? [] : [`${part.ref}.${facts.supply}`])])
  }
  const from = sets.find(key(plus))
  const waits = carrying.some(
    ({ a, b, netA, netB }) =>
      (!netA.wired || !netB.wired || netA === netB) && [a, b].some((end) => sets.find(key(end)) === from),
  )
  return waits || minus.some((end) => sets.find(key(end)) === from)
}

/** A converter or a charger that is fed and feeds nothing. */
export function sayIdleConverters(wiring: Wiring, report: (one: Report) => void): void {
  const unused = new Set(wiring.plan.unused)
  for (const { ref, part, supplies } of wiring.parts) {
    if (part.category !== 'power' || part.rails.length === 0 || supplies.every(({ source }) => !source)) continue
    const outputs = part.rails.map(({ pin }) => `${ref}.${pin}`)
    if (outputs.some((end) => wiring.netOf(end).wired || unused.has(end))) continue
    report({
      severity: 'caution',
      at: outputs,
      message: 'idleConverter',
      data: { outputs, part: ref },
      why: 'What it was meant for stays without current, or takes it from elsewhere. Join its output, or take the part out of the plan.',
      numbers: {},
    })
  }
}

/** The minus of a cell, or the ground of a plug, on a supply: all that it is the foot of stands that much too high. */
export function sayRaised(wiring: Wiring, report: (one: Report) => void): void {
  for (const { ref, part, supplies } of wiring.parts) {
    if (supplies.length > 0 || part.signals.length + part.modes.length > 0 || part.category === 'driver') continue
    if (standsOn(wiring, ref) !== undefined) continue
    for (const pin of part.pins) {
      const end = `${ref}.${pin.id}`
      const net = wiring.netOf(end)
      const rail = railOf(net)
      const source = rail?.source
      if (pin.role !== 'ground' || !source) continue
      report({
        severity: 'fault',
        at: [end, source.end],
        message: 'raised',
        data: { minus: end, rail: railWords(rail) },
        why: `Volts are counted from the common ground: what ${ref} gives or expects lies ${formatVolts(source.volts)} higher than it is meant to, and its current comes back into a supply.`,
        numbers: { volts: source.volts },
        propose: () => {
          const ground = groundPost(wiring.boards[0])
          return ground === undefined ? [] : moveTo(wiring, end, ground)
        },
      })
    }
  }
}
