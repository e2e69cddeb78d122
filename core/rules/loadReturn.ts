import { UnionFind } from '../base/unionFind.ts'
import { circuitOf, type Element, railOf } from '../circuit/circuit.ts'
import { isKey } from '../circuit/elements.ts'
import { drivenLoads } from '../circuit/loads.ts'
import { deadLegs } from '../circuit/reach.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import {
  type DeadLeg,
  loadDeadEndsMessages,
  sayBetweenRails,
  sayCrossedCoils,
  sayDeadEnds,
  sayJoinedCoils,
  sayOneSided,
  sayOnSignals,
  sayUnlit,
} from './loadDeadEnds.ts'
import { matrixLines } from './matrix.ts'
import { takeOut } from './mend.ts'

const names: Readonly<Record<Element['kind'], string>> = {
  resistor: 'a resistor',
  diode: 'a diode',
  contact: 'a contact',
  shunt: 'a shunt',
  winding: 'a winding',
  load: 'a load',
  capacitor: 'a capacitor',
}

export const loadReturn: Rule = {
  meta: {
    id: 'load-return',
    severities: ['fault'],
    about:
      'Both legs of a load, a lamp or a contact lie on one piece of metal, or a leg leads nowhere: nothing flows through it, or it changes nothing.',
    messages: {
      ...loadDeadEndsMessages,
      onePiece: '{a} and {b} are two legs of one piece: {part} joins them for good, pressed or not.',
      bridged: 'Both legs of {what} are joined, so that {effect}.',
      sinksOnly: '{part} lies between {outputs}, which only pull to ground: no current ever flows.',
    },
    fixable: true,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    sayOnePiece(wiring, report)
    const dead = new Map<string, DeadLeg>()
    for (const one of circuit.elements) {
      // Of lines of a matrix that are joined its own rule speaks.
      const lines = matrixLines(one.part)
      if (one.netA !== one.netB) {
        for (const [leg, leads] of deadLegs(circuit, one))
          if (wiring.netOf(leg).ends.filter((end) => lines.includes(end)).length < 2)
            dead.set(leg, { element: one, leads })
        continue
      }
      if (lines.length > 0) continue
      if (!one.netA.wired) continue
      // Channels of one chip side by side, or a capacitor inside a module, are no mistake of the maker's.
      if ((one.part.part.build !== 'component' && one.kind !== 'shunt' && !isKey(one)) || one.kind === 'capacitor')
        continue
      // The end of a knob that is not needed may hang on its tap.
      if (one.part.part.rheostat && one.kind === 'resistor') continue
      // A change-over contact still changes something while another throw leads elsewhere.
      if (one.throws && circuit.elements.some(({ a, netA, netB }) => a === one.a && netB.wired && netB !== netA))
        continue
      const rail = railOf(one.netA)
      report({
        severity: 'fault',
        at: [one.a, one.b],
        message: 'bridged',
        data: {
          what: isKey(one) ? `the key of ${one.part.ref}` : one.part.ref,
          effect: one.kind === 'contact' ? 'closing it changes nothing' : 'nothing flows through it',
        },
        why: `${one.part.ref} is ${names[one.kind]} between ${one.a} and ${one.b}; both lie on ${rail ? (rail.source ? rail.source.end : 'ground') : 'one piece of wire'}.`,
        numbers: {},
        propose: () => [one.b, one.a].flatMap((end) => takeOut(wiring, (x, y) => x === end || y === end)).slice(0, 2),
      })
    }
    sayDeadEnds(wiring, dead, report)
    sayUnlit(circuit, dead, report)
    sayOneSided(circuit, dead, report)
    sayBetweenRails(circuit, report)
    sayOnSignals(wiring, report)
    sayCrossedCoils(circuit, report)
    sayJoinedCoils(circuit, dead, report)
    for (const { element, channels, source } of drivenLoads(circuit)) {
      if (source || channels.length < 2 || channels.some(({ facts }) => facts.supply !== undefined)) continue
      report({
        severity: 'fault',
        at: [element.a, element.b, ...channels.map(({ output }) => output)],
        message: 'sinksOnly',
        data: { part: element.part.ref, outputs: channels.map(({ output }) => output) },
        why: 'Outputs of this kind are switches to ground. The other lead of the load goes to its supply; to turn round, a bridge is needed.',
        numbers: {},
      })
    }
  },
}

/** Two legs of one piece of metal that join what must stay apart. */
function sayOnePiece(wiring: Wiring, report: (one: Report) => void): void {
  let outside: ((end: string) => string) | undefined
  const wired = new Set(wiring.plan.wires.flat())
  for (const part of wiring.parts) {
    if (part.part.build !== 'component') continue
    const bridged = part.part.inner.filter(
      (inner) => inner.kind === 'join' && inner.between.every((pin) => wired.has(`${part.ref}.${pin}`)),
    )
    for (const inner of bridged) {
      const [a, b] = inner.between.map((pin) => `${part.ref}.${pin}`) as [string, string]
      outside ??= byWires(wiring)
      const net = wiring.netOf(a)
      // Two legs of one piece may carry a wire on; here they join what must stay apart, or leave the contact out.
      const other = part.part.inner.find((one) => one.kind === 'contact' || one.kind === 'switch')
      const left = other?.between.map((pin) => wiring.netOf(`${part.ref}.${pin}`)).find((one) => one !== net)
      if (outside(a) === outside(b) || !other || left?.wired || !meets(wiring, net.ends)) continue
      report({
        severity: 'fault',
        at: [a, b, part.ref],
        message: 'onePiece',
        data: { a, b, part: part.ref },
        why: 'Legs on one side of such a part belong together; the contact lies between the two sides. Take a leg of the other side, or two that lie across.',
        numbers: {},
        propose: () => takeOut(wiring, (one, two) => one === b || two === b),
      })
    }
  }
}

/** Which ends hang together by wires and boards alone, without what parts join inside. */
function byWires(wiring: Wiring): (end: string) => string {
  const sets = new UnionFind()
  for (const board of wiring.boards)
    for (const pin of board.facts.pins) sets.join(`${board.ref}.${pin.id}`, `${board.ref}.${pin.net}`)
  for (const wire of wiring.plan.wires) sets.join(wire[0], wire[1])
  return (end) => {
    sets.add(end)
    return sets.find(end)
  }
}

/** More than the part itself hangs on these ends: a pin of a board, a supply, another part. */
const meets = (wiring: Wiring, ends: readonly string[]): boolean =>
  ends.some((end) => wiring.terminal(end)?.owner.kind !== 'part')
