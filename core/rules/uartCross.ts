import { hostsBeyond } from '../circuit/lines.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Bus, Host, SignalUse, Wiring } from '../wiring/model.ts'
import { serialLines, serialRole } from '../wiring/needs.ts'
import type { Report, Rule } from './finding.ts'
import { swapWires } from './mend.ts'

export const uartCross: Rule = {
  meta: {
    id: 'uart-cross',
    severities: ['fault', 'caution'],
    about: 'Two transmitters or two receivers are joined: TX to TX, or RX to RX.',
    messages: {
      alike: '{a} and {b} are joined, and both are {kind}.',
      converter: '{rx} sends into the transmitter {rxPin}, and {tx} listens to the receiver {txPin}.',
      boards: '{tx} is joined with {otherTx}, and {rx} with {otherRx}: TX to TX, RX to RX.',
    },
    fixable: true,
  },
  check(wiring, report) {
    for (const bus of wiring.buses) {
      const crossed = crossedOnBoard(bus)
      if (crossed) report(words(wiring, crossed))
    }
    for (const pair of straightPairs(wiring)) report(boardWords(wiring, pair))
    // Two parts that talk with each other without a board between them.
    for (const net of wiring.nets) {
      if (!net.wired || net.ground || net.sources.length > 0) continue
      const uses = net.ends
        .map((end) => wiring.signal(end))
        .filter(
          (use): use is SignalUse =>
            use !== undefined && use.hosts.length === 0 && busNeed(use.facts.needs)?.kind === 'uart',
        )
      const [a, b] = uses
      if (!a || !b || a.part === b.part || a.facts.needs !== b.facts.needs) continue
      const kind = busNeed(a.facts.needs)?.signal === 'rx' ? 'outputs' : 'inputs'
      report({
        severity: 'fault',
        at: [a.end, b.end],
        message: 'alike',
        data: { a: a.end, b: b.end, kind },
        why: 'What one side sends on TX the other must hear on RX. Two inputs hear nothing, and two outputs work against each other.',
        numbers: {},
        propose: () => otherPair(wiring, b),
      })
    }
  },
}

interface Crossed {
  readonly rx: SignalUse
  readonly tx: SignalUse
  /** Pins of the board on which the two lines are. */
  readonly rxPin: string
  readonly txPin: string
}

/** Lines that a controller would carry if the two changed places. */
export function crossedOnBoard(bus: Bus): Crossed | undefined {
  const { board } = bus
  if (bus.kind !== 'uart' || !board || bus.controller !== undefined) return undefined
  const tx = bus.uses.find((use) => busNeed(use.facts.needs)?.signal === 'tx' && use.hosts.length > 0)
  const rx = bus.uses.find((use) => busNeed(use.facts.needs)?.signal === 'rx' && use.hosts.length > 0)
  if (!tx || !rx || tx.part !== rx.part) return undefined
  const [txHost, rxHost] = [tx.hosts[0]!.host, rx.hosts[0]!.host]
  const fits = board.board.controllers.some(
    (one) =>
      one.kind === 'uart' &&
      one.matrix === undefined &&
      txHost.functions.has(`${one.id}.rx`) &&
      rxHost.functions.has(`${one.id}.tx`),
  )
  return fits ? { rx, tx, rxPin: rxHost.end, txPin: txHost.end } : undefined
}

function words(wiring: Wiring, { rx, tx, rxPin, txPin }: Crossed): Report {
  return {
    severity: 'fault',
    at: [rx.end, tx.end, rxPin, txPin],
    message: 'converter',
    data: { rx: rx.end, rxPin, tx: tx.end, txPin },
    why: 'What one side sends on TX the other must hear on RX, so the two wires cross: TX to RX and RX to TX. Now two outputs work against each other and both inputs hear nothing.',
    numbers: {},
    propose: () => swapWires(wiring, rx.end, tx.end),
  }
}

/** The two lines of a UART on one board and on another, led straight. */
interface Straight {
  readonly tx: Host
  readonly rx: Host
  readonly otherTx: Host
  readonly otherRx: Host
}

/**
 * Boards whose serial ports are joined straight. Pins that a matrix gives either role, unless one is printed beside them,
 * and pairs that another bus of both boards runs straight (SDA to SDA), say nothing of the kind.
 */
function straightPairs(wiring: Wiring): Straight[] {
  const beyond = hostsBeyond(wiring)
  return wiring.boards.flatMap((board, at) => {
    const pins = [...beyond.keys()].map((end) => wiring.hosts.get(end)!).filter((host) => host.board === board)
    return pairsOf(pins).flatMap(([tx, rx]): Straight[] => {
      for (const otherTx of beyond.get(tx.end)!)
        for (const otherRx of beyond.get(rx.end)!) {
          const { board: other } = otherTx
          if (!other || other !== otherRx.board || wiring.boards.indexOf(other) < at) continue
          if (busBetween(tx, otherTx) && busBetween(rx, otherRx)) continue
          if (pairsOf([otherTx, otherRx]).some(([first]) => first === otherTx)) return [{ tx, rx, otherTx, otherRx }]
        }
      return []
    })
  })
}

/** Transmitters and receivers that belong to one serial port, and can be nothing else of it. */
const pairsOf = (pins: readonly Host[]): (readonly [Host, Host])[] =>
  pins.flatMap((tx) =>
    pins.flatMap((rx) => {
      const ports = serialLines(rx).flatMap(({ port, line }) => (line === 'rx' ? [port] : []))
      return serialLines(tx).some(({ port, line }) => line === 'tx' && ports.includes(port)) ? [[tx, rx] as const] : []
    }),
  )

/** True when one line of another bus may run straight between two pins; what a matrix gives every pin is no sign of one. */
const busBetween = (a: Host, b: Host): boolean => {
  const isFixed = ({ board }: Host, name: string): boolean =>
    board?.board.controllers.some(({ id, matrix }) => matrix === undefined && name.startsWith(`${id}.`)) === true
  const roles = (host: Host): string[] =>
    [...host.functions]
      .filter((name) => isFixed(host, name))
      .flatMap((one) => /^(?:i2c|spi|can|i2s)\d*\.(\w+)$/.exec(one)?.[0].replace(/\d+\./, '.') ?? [])
  return roles(a).some((role) => roles(b).includes(role))
}

function boardWords(wiring: Wiring, { tx, rx, otherTx, otherRx }: Straight): Report {
  const byProgram = [tx, otherTx].some((host) => serialRole(host, 'rx'))
  return {
    severity: byProgram ? 'caution' : 'fault',
    at: [tx.end, rx.end, otherTx.end, otherRx.end],
    message: 'boards',
    data: { tx: tx.end, otherTx: otherTx.end, rx: rx.end, otherRx: otherRx.end },
    why: `What one board sends on TX the other must hear on RX, so the two wires cross: TX to RX and RX to TX. ${byProgram ? 'What is printed beside the pins is what programs take as a rule; only one that gives them the other way round understands anything here.' : 'Now two outputs work against each other and both inputs hear nothing.'}`,
    numbers: {},
    propose: () => swapWires(wiring, otherTx.end, otherRx.end),
  }
}

/** Swaps a part's two lines. */
function otherPair(wiring: Wiring, use: SignalUse) {
  const other = wiring.signals.find(
    (one) => one.part === use.part && one !== use && busNeed(one.facts.needs)?.kind === 'uart',
  )
  return other ? swapWires(wiring, use.end, other.end) : []
}
