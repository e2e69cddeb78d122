import * as v from 'valibot'
import { Id, NotNegative, PinId } from './common.ts'

/** It works while the pin is at this level; a pin that nothing holds counts as held there where the part says so. */
const Gate = v.strictObject({
  pin: PinId,
  active: v.picklist(['high', 'low']),
  held: v.optional(v.boolean(), false),
})
export type Gate = v.InferOutput<typeof Gate>

/**
 * What a chip does with the levels at its pins, by itself: for the rehearsal of a program on the wiring. Outputs and
 * inputs stand in the order in which bits, ways and counts meet them, from 0.
 */
export const Behaviour = v.variant('as', [
  /** Bits come in one by one and stand at the outputs: the last one at the first. */
  v.strictObject({
    as: v.literal('shift-out'),
    data: PinId,
    clock: PinId,
    /** A rise takes the bits over to the outputs; they follow at once where left out. */
    latch: v.optional(PinId),
    outputs: v.array(PinId),
    carry: v.optional(PinId),
    enables: v.optional(v.array(Gate), []),
    clear: v.optional(Gate),
  }),
  /** Levels are taken over at once and come out one by one: the first input first. */
  v.strictObject({
    as: v.literal('shift-in'),
    load: Gate,
    clock: PinId,
    inputs: v.array(PinId),
    out: PinId,
    inverse: v.optional(PinId),
    chain: v.optional(PinId),
    enables: v.optional(v.array(Gate), []),
  }),
  /** One output of many is at its level: the one whose number the bits make. */
  v.strictObject({
    as: v.literal('decode'),
    bits: v.array(PinId),
    outputs: v.array(PinId),
    active: v.picklist(['high', 'low']),
    enables: v.optional(v.array(Gate), []),
  }),
  /** One output after the other is high, one further at each rise. */
  v.strictObject({
    as: v.literal('count'),
    clock: PinId,
    outputs: v.array(PinId),
    reset: v.optional(Gate),
    carry: v.optional(PinId),
    enables: v.optional(v.array(Gate), []),
  }),
  /** One pin of many is joined to a common one, both ways. */
  v.strictObject({
    as: v.literal('choose'),
    bits: v.array(PinId),
    common: PinId,
    ways: v.array(PinId),
    ohms: NotNegative,
    enables: v.optional(v.array(Gate), []),
  }),
  /** A motor goes one step at each rise. */
  v.strictObject({
    as: v.literal('step'),
    step: PinId,
    direction: PinId,
    /** Outputs of the coils. */
    outputs: v.array(PinId),
    /** Option that says how many pulses make a full step. */
    microsteps: v.optional(Id),
    enables: v.optional(v.array(Gate), []),
  }),
  /** A shaft that follows the currents in its windings: each pulls towards an angle of the electrical turn. */
  v.strictObject({
    as: v.literal('coils'),
    windings: v.array(v.strictObject({ between: v.tuple([PinId, PinId]), degrees: v.number() })),
    /** Full steps of a turn. */
    steps: NotNegative,
  }),
  /** Letters on rows, told at eight data lines or the upper four, from the lowest, when the enable falls. */
  v.strictObject({
    as: v.literal('characters'),
    select: PinId,
    readWrite: PinId,
    enable: PinId,
    data: v.pipe(v.array(PinId), v.length(8)),
    /** Option that says how large it is: `1602`, columns and rows in two figures each. */
    size: Id,
  }),
  /** Four figures on a clock and a data line, told segment by segment. */
  v.strictObject({ as: v.literal('figures'), clock: PinId, data: PinId }),
  /** Two contacts that tell how far and which way it was turned. */
  v.strictObject({ as: v.literal('quadrature'), first: PinId, second: PinId }),
])
export type Behaviour = v.InferOutput<typeof Behaviour>

/** Pins at which a behaviour puts levels. */
export function behaviourOutputs(behaviour: Behaviour | undefined): readonly string[] {
  switch (behaviour?.as) {
    case 'shift-out':
    case 'count':
      return [...behaviour.outputs, ...(behaviour.carry ? [behaviour.carry] : [])]
    case 'shift-in':
      return [behaviour.out, ...(behaviour.inverse ? [behaviour.inverse] : [])]
    case 'decode':
      return behaviour.outputs
    case 'choose':
      return [behaviour.common, ...behaviour.ways]
    case 'quadrature':
      return [behaviour.first, behaviour.second]
    default:
      return []
  }
}

/** Every pin that a behaviour names. */
export function behaviourPins(behaviour: Behaviour): readonly string[] {
  const gates = 'enables' in behaviour ? behaviour.enables.map(({ pin }) => pin) : []
  switch (behaviour.as) {
    case 'shift-out':
      return [
        behaviour.data,
        behaviour.clock,
        ...(behaviour.latch ? [behaviour.latch] : []),
        ...(behaviour.clear ? [behaviour.clear.pin] : []),
        ...behaviourOutputs(behaviour),
        ...gates,
      ]
    case 'shift-in':
      return [
        behaviour.load.pin,
        behaviour.clock,
        ...behaviour.inputs,
        ...(behaviour.chain ? [behaviour.chain] : []),
        ...behaviourOutputs(behaviour),
        ...gates,
      ]
    case 'decode':
      return [...behaviour.bits, ...behaviour.outputs, ...gates]
    case 'figures':
      return [behaviour.clock, behaviour.data]
    case 'characters':
      return [behaviour.select, behaviour.readWrite, behaviour.enable, ...behaviour.data]
    case 'count':
      return [
        behaviour.clock,
        ...(behaviour.reset ? [behaviour.reset.pin] : []),
        ...behaviourOutputs(behaviour),
        ...gates,
      ]
    case 'choose':
      return [...behaviour.bits, ...behaviourOutputs(behaviour), ...gates]
    case 'step':
      return [behaviour.step, behaviour.direction, ...behaviour.outputs, ...gates]
    case 'coils':
      return behaviour.windings.flatMap(({ between }) => between)
    case 'quadrature':
      return behaviourOutputs(behaviour)
  }
}
