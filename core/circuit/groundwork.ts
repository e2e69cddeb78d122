import { memo } from '../base/memo.ts'
import { volts } from '../catalog/common.ts'
import { holds } from '../catalog/when.ts'
import { type Branch, WIRE_OHMS } from '../electrical/network.ts'
import { chosenFact } from '../wiring/chosen.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { Net, PartInstance } from '../wiring/model.ts'
import { boardPull } from './boardPulls.ts'
import type { Circuit, DriverChannel, Element, Port } from './circuit.ts'
import { CLOSED_OHMS, ON_OHMS, ohmsOf, outputOhms } from './elementOhms.ts'

/** A branch of the network, with the element or pin that it stands for. */
export interface Strand extends Branch {
  readonly element: Element | undefined
  readonly port: Port | undefined
  /** Ref of the part or board inside which a pull lies. */
  readonly inside?: string
}

/** Something that can be in several states: a pin that drives, a contact, an output of a driver, a resistance that senses. */
export interface Actor {
  readonly what: { readonly port: Port } | { readonly element: Element } | { readonly channel: DriverChannel }
  /** Lets go while the board starts, as pins of boards and contacts do. */
  readonly rests: boolean
  readonly positions: readonly Position[]
}

export interface Position {
  readonly is: 'high' | 'low' | 'off' | 'closed' | 'open' | 'usual' | 'least' | 'most'
  readonly strands: readonly Strand[]
}

/** A level at one net comes out at another, at the supply of that side: through a level shifter or a buffer. */
export interface Passage {
  readonly from: number
  readonly to: number
  readonly volts: number | undefined
}

/** All that lies between the nets of a circuit, before it is split. */
export interface Groundwork {
  readonly held: ReadonlyMap<number, number>
  readonly strands: readonly Strand[]
  readonly actors: readonly Actor[]
  readonly passages: readonly Passage[]
}

const builderOf = memo((circuit: Circuit): Builder => {
  const build = new Builder(circuit)
  build.elements()
  build.pulls()
  build.transfers()
  build.channels()
  build.ports()
  return build
})

/** All that lies between the nets of a circuit, made once of one. */
export const groundworkOf = (circuit: Circuit): Groundwork => builderOf(circuit)

class Builder implements Groundwork {
  readonly #circuit: Circuit
  readonly held = new Map<number, number>()
  readonly #nodes = new Map<number, number>()
  readonly strands: Strand[] = []
  readonly actors: Actor[] = []
  readonly passages: Passage[] = []

  constructor(circuit: Circuit) {
    this.#circuit = circuit
    for (const net of circuit.wiring.nets) {
      const at = net.ground ? 0 : net.sources[0]?.volts
      if (at !== undefined) this.held.set(net.index, at)
    }
  }

  /** A node of its own that is held at so many volts; nets count from 0 up, these from -1 down. */
  #rail(at: number): number {
    let node = this.#nodes.get(at)
    if (node === undefined) {
      node = -1 - this.#nodes.size
      this.#nodes.set(at, node)
      this.held.set(node, at)
    }
    return node
  }

  elements(): void {
    // The ways of one change-over contact meet at its common, the two halves of a knob at its tap.
    const throws = new Map<string, Element[]>()
    const halves = new Map<PartInstance, Element[]>()
    for (const element of this.#circuit.elements) {
      const [a, b] = [element.netA.index, element.netB.index]
      if (a === b) continue
      const strand = (ohms: number, drop?: number, turned = false): Strand => ({
        a: turned ? b : a,
        b: turned ? a : b,
        ohms,
        ...(drop === undefined ? {} : { drop }),
        element,
        port: undefined,
      })
      if (element.kind === 'contact') {
        if (element.throws) throws.set(element.a, [...(throws.get(element.a) ?? []), element])
        else
          this.actors.push({
            what: { element },
            rests: true,
            positions: [
              { is: 'open', strands: [] },
              { is: 'closed', strands: [strand(CLOSED_OHMS)] },
            ],
          })
      } else if (element.kind === 'diode') {
        this.strands.push(strand(slopeOf(element), element.slight ?? element.forward ?? 0.7))
        if (element.zener !== undefined) this.strands.push(strand(WIRE_OHMS, element.zener, true))
      } else if (element.part.part.rheostat && element.ohms !== undefined) {
        halves.set(element.part, [...(halves.get(element.part) ?? []), element])
      } else if (element.spread && element.ohms !== undefined) {
        this.actors.push({
          what: { element },
          rests: false,
          positions: [
            { is: 'usual', strands: [strand(element.ohms)] },
            { is: 'least', strands: [strand(element.spread.least)] },
            { is: 'most', strands: [strand(element.spread.most)] },
          ],
        })
      } else if (element.kind !== 'capacitor') {
        const ohms = ohmsOf(element)
        if (ohms !== undefined) this.strands.push(strand(ohms))
      }
    }
    for (const [first, second] of halves.values()) if (first) this.#knob(first, second)
    for (const ways of throws.values())
      this.actors.push({
        what: { element: ways[0] as Element },
        rests: false,
        positions: ways.map((element) => ({
          is: 'closed',
          strands: [{ a: element.netA.index, b: element.netB.index, ohms: CLOSED_OHMS, element, port: undefined }],
        })),
      })
  }

  /** A knob as a resistor: what one half of it has, the other lacks. */
  #knob(first: Element, second: Element | undefined): void {
    const strand = (element: Element, ohms: number): Strand => ({
      a: element.netA.index,
      b: element.netB.index,
      ohms: Math.max(ohms, WIRE_OHMS),
      element,
      port: undefined,
    })
    const full = first.ohms ?? 0
    const shares: readonly (readonly [Position['is'], number])[] = second
      ? [
          ['usual', 0.5],
          ['least', 0],
          ['most', 1],
        ]
      : [
          ['usual', 1],
          ['least', 0],
          ['most', 1],
        ]
    this.actors.push({
      what: { element: first },
      rests: false,
      positions: shares.map(([is, share]) => ({
        is,
        strands: [strand(first, full * share), ...(second ? [strand(second, full * (1 - share))] : [])],
      })),
    })
  }

  /** Resistors inside modules and boards. */
  pulls(): void {
    const { wiring } = this.#circuit
    const pull = (net: Net, to: number | undefined, ohms: number, inside: string): void => {
      if (to !== undefined && net.wired)
        this.strands.push({ a: this.#rail(to), b: net.index, ohms, element: undefined, port: undefined, inside })
    }
    for (const part of wiring.parts) {
      const bus = part.mode?.i2c
      if (bus?.pullUpOhms === undefined) continue
      const to =
        bus.pullUpTo === undefined ? part.logicVolts : wiring.netOf(`${part.ref}.${bus.pullUpTo}`).sources[0]?.volts
      for (const use of wiring.signals)
        if (use.part === part && use.facts.needs.startsWith('i2c.'))
          pull(wiring.netOf(use.end), to, bus.pullUpOhms, part.ref)
    }
    for (const { facts, part, end } of wiring.signals)
      if (facts.pulledOhms !== undefined) pull(wiring.netOf(end), part.logicVolts, facts.pulledOhms, part.ref)
    for (const host of wiring.hosts.values())
      for (const caution of host.cautions) {
        const held = boardPull(host, caution)
        if (held) pull(wiring.netOf(host.end), held.volts, held.ohms, host.ref)
      }
    const behindOnes = new Set<Net>()
    for (const { ref, board } of wiring.boards)
      for (const { id, behind } of board.pins) {
        const net = wiring.netOf(`${ref}.${id}`)
        if (!behind || !net.wired) continue
        behindOnes.add(net)
        pull(net, wiring.netOf(`${ref}.${behind.pin}`).sources[0]?.volts, behind.ohms, ref)
      }
    // A part that is fed through a resistor or a diode: what it takes decides what it gets.
    for (const part of wiring.parts)
      for (const use of part.supplies) {
        const net = use.pins.map(wiring.netOf).find((one) => one.wired)
        const takes = Math.max(use.typicalMilliamps ?? 0, use.peakMilliamps ?? 0)
        if (!net || net.sources.length > 0 || net.ground || use.facts.either || takes <= 0) continue
        if (!behindOnes.has(net) && this.#circuit.on(net).every((one) => one.part === part)) continue
        pull(net, 0, ((use.facts.usual ?? use.facts.least) / takes) * 1000, part.ref)
      }
  }

  /** Level shifters and buffers: their far side drives by itself, at its own supply. */
  transfers(): void {
    const { wiring } = this.#circuit
    for (const part of wiring.parts)
      for (const inner of part.part.inner) {
        if ((inner.kind !== 'shift' && inner.kind !== 'buffer') || !holds(inner.when, part.options)) continue
        const ends = inner.between.map((pin) => `${part.ref}.${pin}`)
        const rails = (inner.rails ?? []).map((pin) => wiring.netOf(`${part.ref}.${pin}`).sources[0]?.volts)
        const sides = ends.map((end, side) => ({
          port: this.#circuit.ports.get(end),
          volts: inner.rails ? rails[side] : inner.pulled ? this.#pulledTo(end) : part.logicVolts,
        }))
        const [first, second] = sides.map(({ volts: at }, side) => ({
          net: wiring.netOf(ends[side] as string).index,
          volts: at,
        })) as [{ net: number; volts: number | undefined }, { net: number; volts: number | undefined }]
        if (!inner.back) this.passages.push({ from: first.net, to: second.net, volts: second.volts })
        if (inner.back || inner.kind === 'shift')
          this.passages.push({ from: second.net, to: first.net, volts: first.volts })
        const outputs = inner.kind === 'shift' ? sides : inner.back ? sides.slice(0, 1) : sides.slice(1)
        for (const { port, volts: at } of outputs) {
          // The far side of a way that is used has its resistor also while its wire is to come.
          const isUsed = ends.some((end) => wiring.netOf(end).wired)
          if (!port || !isUsed || (at === undefined && !inner.pulled)) continue
          const strong = !inner.pulled && (inner.kind === 'buffer' || typeof inner.amount !== 'number')
          if (at !== undefined && typeof inner.amount === 'number' && !strong)
            this.strands.push({ a: this.#rail(at), b: port.net.index, ohms: inner.amount, element: undefined, port })
          if (port.net.wired) this.#drive(port, strong ? at : undefined, 0, WIRE_OHMS, !strong)
        }
      }
  }

  /** Volts of the highest supply to which a resistor leads from an end. */
  #pulledTo(end: string): number | undefined {
    const { index } = this.#circuit.wiring.netOf(end)
    const held = this.strands.flatMap(({ a, b, drop }) =>
      drop === undefined ? (this.held.get(a === index ? b : b === index ? a : Number.NaN) ?? []) : [],
    )
    return held.length > 0 ? Math.max(...held) : undefined
  }

  channels(): void {
    const { wiring } = this.#circuit
    for (const channel of this.#circuit.channels) {
      const { part, facts, output } = channel
      const net = wiring.netOf(output)
      if (!net.wired) continue
      // A bare transistor in the plus has no ground of its own.
      const ground = part.part.pins.find((pin) => pin.role === 'ground')
      const low = ground && wiring.netOf(`${part.ref}.${ground.id}`)
      const high = facts.supply === undefined ? undefined : wiring.netOf(`${part.ref}.${facts.supply}`)
      const to = (other: Net): Strand => ({
        a: net.index,
        b: other.index,
        ohms: ON_OHMS,
        element: undefined,
        port: undefined,
      })
      if (low === net) continue
      this.actors.push({
        what: { channel },
        rests: true,
        positions: [
          { is: 'off', strands: [] },
          ...(low ? [{ is: 'low' as const, strands: [to(low)] }] : []),
          ...(high?.wired && high !== net ? [{ is: 'high' as const, strands: [to(high)] }] : []),
        ],
      })
    }
  }

  /** Pins that drive. Several that take turns on one line never drive together. */
  ports(): void {
    for (const port of this.#circuit.ports.values()) {
      const { host, use, role, net } = port
      if (!net.wired || this.held.has(net.index)) continue
      if (host && port.terminal.end !== host.end && host.board) continue
      if (role === 'out' || role === 'both' || role === 'open-drain' || role === 'either') {
        if (host?.provider && port.role === 'out' && channelAt(this.#circuit, port)) continue
        const ohms = outputOhms(port)
        const low = use && role === 'open-drain' ? (volts(levelsOf(use).vol, use.part.logicVolts) ?? 0) : 0
        const canDrive = host?.board === undefined || host.functions.has('digital-out')
        if (!canDrive) continue
        this.#drive(port, role === 'open-drain' ? undefined : port.high, low, ohms, role !== 'out')
      }
    }
  }

  #drive(port: Port, high: number | undefined, low: number, ohms: number, turns: boolean): void {
    const strand = (at: number): Strand => ({ a: this.#rail(at), b: port.net.index, ohms, element: undefined, port })
    const up: Position[] = high === undefined ? [] : [{ is: 'high', strands: [strand(high)] }]
    const down: Position = { is: 'low', strands: [strand(low)] }
    const mayRest = turns || port.host?.board !== undefined || high === undefined
    this.actors.push({
      what: { port },
      rests: mayRest,
      positions: turns || high === undefined ? [{ is: 'off', strands: [] }, ...up, down] : [...up, down],
    })
  }
}

/** Ohms with which the volts over a diode rise from those at a signal's current to those at its full one. */
function slopeOf({ forward, slight, part }: Element): number {
  const most = chosenFact(part, 'mostMilliamps')
  if (forward === undefined || slight === undefined || most === undefined) return WIRE_OHMS
  return Math.max(WIRE_OHMS, (forward - slight) / (most / 1000))
}

const channelAt = (circuit: Circuit, port: Port): boolean =>
  circuit.channels.some((channel) => channel.output === port.terminal.end)
