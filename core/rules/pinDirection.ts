import { rewire } from '../assign/rewire.ts'
import { holds } from '../catalog/when.ts'
import { type Circuit, circuitOf, type Port, railOf } from '../circuit/circuit.ts'
import { behindResistors } from '../circuit/reach.ts'
import { busNeed } from '../wiring/buses.ts'
import type { Net, PartInstance, Wiring } from '../wiring/model.ts'
import { drives, meets, needWords } from '../wiring/needs.ts'
import type { Rule } from './finding.ts'
import { swapWires } from './mend.ts'
import { lacksDirection } from './pinFunction.ts'

export const pinDirection: Rule = {
  meta: {
    id: 'pin-direction',
    severities: ['fault'],
    about: 'A pin that can only read is asked to drive, or one that can only drive is asked to read.',
    messages: {
      turned:
        '{part} is the wrong way round: {pins} hangs on its output {gives}, and nothing drives its input {takes}.',
      oneWay: '{signal} needs {need}, and {pin} is {way} only.',
    },
    fixable: true,
    local: true,
  },
  check(wiring, report) {
    const circuit = circuitOf(wiring)
    for (const part of wiring.parts)
      for (const inner of part.part.inner) {
        if (inner.kind !== 'buffer' || !holds(inner.when, part.options)) continue
        const [takes, gives] = (inner.back ? [...inner.between].reverse() : inner.between).map(
          (pin) => `${part.ref}.${pin}`,
        ) as [string, string]
        const [from, to] = [wiring.netOf(takes), wiring.netOf(gives)]
        const near = behindResistors(circuit, to).filter((net) => railOf(net) === undefined)
        const hosts = near.flatMap((net) => net.ends.filter((end) => wiring.terminal(end)?.host?.board))
        if (hosts.length === 0 || isDriven(circuit, from) || againstOutput(wiring, part)) continue
        report({
          severity: 'fault',
          at: [takes, gives, ...hosts],
          message: 'turned',
          data: { part: part.ref, pins: hosts, gives, takes },
          why: `The buffer puts out at ${gives} what it takes in at ${takes}, never the other way. As it is wired the pin and the output work against each other, and what hangs on the input hears nothing.`,
          numbers: {},
          propose: () => swapWires(wiring, takes, gives),
        })
      }
    for (const use of wiring.signals) {
      const bus = busNeed(use.facts.needs)
      // Of the shared lines of a bus, bus-pins speaks as a whole.
      if (bus && bus.signal !== 'cs') continue
      for (const { host } of use.hosts) {
        if (meets(host, use) || !lacksDirection(host.functions, use.facts.needs)) continue
        const out = drives(use.facts.needs)
        report({
          severity: 'fault',
          at: [use.end, host.end],
          message: 'oneWay',
          data: { signal: use.end, need: needWords(use.facts.needs), pin: host.end, way: out ? 'input' : 'output' },
          why: out
            ? `${host.end} has no output stage at all: the chip can read it but never put out a level. Nothing breaks, but nothing will move either.`
            : `${host.end} cannot be read back: the chip only drives it. What ${use.end} says would go unheard.`,
          numbers: {},
          propose: () => rewire(wiring, use),
        })
      }
    }
  },
}

/** An output of its buffers meets another output, of which pin-shared speaks. */
const againstOutput = (wiring: Wiring, { ref, part }: PartInstance): boolean =>
  part.inner.some((inner) => {
    if (inner.kind !== 'buffer') return false
    const end = `${ref}.${inner.between[inner.back ? 0 : 1]}`
    return wiring.netOf(end).ends.some((other) => wiring.signal(other)?.facts.direction === 'out')
  })

/** Something gives the net a level: a rail, an output, or what lies behind an element or a channel; by resistors too. */
const isDriven = (circuit: Circuit, start: Net): boolean =>
  behindResistors(circuit, start).some((net) => isDrivenAt(circuit, net))

const isDrivenAt = (circuit: Circuit, net: Net): boolean =>
  railOf(net) !== undefined ||
  circuit.on(net).some(({ kind }) => kind !== 'resistor' && kind !== 'capacitor') ||
  circuit.at(net).some(
    ({ role, host, use, terminal }) =>
      host !== undefined ||
      (use !== undefined && role !== 'in') ||
      // A leg of which nothing more is known, such as the far side of a shifter.
      (use === undefined && role === 'passive' && !isInput(terminal) && !isLeg(circuit, net, terminal.end)),
  )

const isLeg = (circuit: Circuit, net: Net, end: string): boolean =>
  circuit.on(net).some((one) => one.a === end || one.b === end)

/** The input of a buffer. */
const isInput = ({ owner, pin }: Port['terminal']): boolean =>
  owner.kind === 'part' &&
  owner.part.inner.some((inner) => inner.kind === 'buffer' && inner.between[inner.back ? 1 : 0] === pin)
