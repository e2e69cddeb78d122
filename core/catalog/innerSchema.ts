import * as v from 'valibot'
import { BusKindSchema, Id, NotNegative, PinId, Text } from './common.ts'
import { When } from './signalSchema.ts'

/** An output that switches a load, and the pins that move it. */
export const Channel = v.strictObject({
  /** Pin of `provides` that carries the load. */
  output: PinId,
  /** Pins whose level moves it. */
  inputs: v.array(PinId),
  /** Pins that must be at their active level besides; `held` where the part itself holds them there. */
  enables: v.optional(
    v.array(
      v.strictObject({
        pin: PinId,
        active: v.optional(v.picklist(['high', 'low']), 'high'),
        held: v.optional(v.boolean(), false),
      }),
    ),
    [],
  ),
  /** Output between which and this one a winding belongs. */
  pair: v.optional(PinId),
  /** Name of the bridge to which it belongs with another; either may serve a load alone. */
  bridge: v.optional(Id),
  /** Sets the current of the load itself, by chopping; what it takes from its supply is another matter. */
  limits: v.optional(v.boolean(), false),
  /** Supply pin from which the load's current comes; none for an output that only pulls to ground. */
  supply: v.optional(PinId),
})

export type Channel = v.InferOutput<typeof Channel>

/** A bus controller that the part gives to others: a channel of a bus switch, a port of a serial bridge. */
export const GivenController = v.strictObject({
  id: Id,
  kind: BusKindSchema,
  title: Text,
  /** Signal (`sda`, `tx` …), seen from the part as a board, to pin. */
  pins: v.record(v.string(), PinId),
  most: v.optional(NotNegative),
  /** A switched channel of the bus that the part itself hangs on: addresses there must differ too. */
  switched: v.optional(v.boolean(), false),
})

export type GivenController = v.InferOutput<typeof GivenController>

/** Things of which the part is made on a breadboard and which the parts list counts: keys and diodes of a matrix. */
export const Content = v.strictObject({
  part: Id,
  /** How many: a number, or options whose product it is. */
  count: v.union([NotNegative, v.array(Id)]),
  when: v.optional(When),
})

/** What lies between two pins inside the part. */
export const Inner = v.strictObject({
  kind: v.picklist([
    'resistance',
    'diode',
    'contact',
    'join',
    'capacitance',
    'winding',
    'load',
    'switch',
    'shift',
    'buffer',
    'shunt',
  ]),
  between: v.tuple([PinId, PinId]),
  /** Ohms or farads: fixed, or from an option. */
  amount: v.optional(v.union([NotNegative, v.strictObject({ option: Id })])),
  /** Resistance that senses something: the least and most that it comes to, as shares of `amount`. */
  spread: v.optional(v.strictObject({ least: NotNegative, most: NotNegative })),
  /** Diode: volts forward, or from a fact of an option's value. */
  forward: v.optional(v.union([NotNegative, v.strictObject({ option: Id, fact: Text })])),
  /** Diode: volts forward at the few milliamperes of a signal, where `forward` is meant for its full current. */
  slight: v.optional(v.union([NotNegative, v.strictObject({ option: Id, fact: Text })])),
  /** Capacitance: rated volts. */
  ratedVolts: v.optional(v.union([NotNegative, v.strictObject({ option: Id })])),
  /** Zener diode: volts that it holds when driven backwards. */
  reverse: v.optional(v.union([NotNegative, v.strictObject({ option: Id })])),
  /** Winding, and load that is none, such as a lamp: current while it runs, and while it starts or is held fast, in milliamperes. */
  milliamps: v.optional(v.union([NotNegative, v.strictObject({ option: Id })])),
  startMilliamps: v.optional(v.union([NotNegative, v.strictObject({ option: Id })])),
  /** Shunt: most volts of either side against the part's ground. */
  mostVolts: v.optional(NotNegative),
  /** Shunt: measured through insulation, so that what flows there needs no ground in common with the part. */
  isolated: v.optional(v.boolean()),
  /** Diode that lights, contact: highest current in milliamperes; or from a fact of an option's value. */
  mostMilliamps: v.optional(v.union([NotNegative, v.strictObject({ option: Id, fact: Text })])),
  /**
   * shift: supply pins that set the level of each side, in the order of `between`; `amount` is a pull-up on each side.
   * buffer: repeats the level of the first pin at the second, at the second supply of this list.
   */
  rails: v.optional(v.tuple([PinId, PinId])),
  /** shift: nothing but the resistors beside it pulls its sides up. */
  pulled: v.optional(v.boolean()),
  /** buffer: leads from the second pin to the first. */
  back: v.optional(v.boolean(), false),
  /** buffer: the second pin carries line levels instead of logic levels. */
  line: v.optional(v.picklist(['rs-232', 'rs-485'])),
  /** switch: the signal that moves it, and whether the contact is closed while that is active, or while it rests. */
  moved: v.optional(v.strictObject({ by: PinId, closed: v.picklist(['active', 'rest']) })),
  when: v.optional(When),
})

export type Inner = v.InferOutput<typeof Inner>
