import * as v from 'valibot'
import {
  Amount,
  BusKindSchema,
  Id,
  Levels,
  Need,
  NotNegative,
  PinCurrent,
  PinId,
  Pitches,
  PlainFunction,
  Source,
  Text,
} from './common.ts'

/** What a part file can say. See `docs/adding-a-part.md` for the same in words. */

export const pinRoles = ['supply', 'ground', 'signal', 'passive', 'output', 'free'] as const

export const PartPin = v.strictObject({
  id: PinId,
  aliases: v.optional(v.array(Text), []),
  /**
   * supply and ground feed the part; signal goes to a host pin; passive is an end of a two-pin part;
   * output gives something to other parts (a supply, a driver, an expander pin); free is left alone.
   */
  role: v.picklist(pinRoles),
  /** Number on a dual in-line package or along a module's edge, from 1. */
  number: v.optional(v.number()),
  /** Colour of the attached lead, and the usual variants. */
  lead: v.optional(v.strictObject({ colour: Text, variants: v.optional(v.array(Text), []) })),
  /** What the pin is for, in a few words. */
  text: v.optional(Text),
  /** What leaving it open means; a pin without this must be wired or marked unused. */
  open: v.optional(Text),
  /**
   * What stands in for electrical facts. `none`: why nothing inside the part leads on from it; `outside`: what belongs
   * there that no plan holds, such as an aerial; `unknown`: what no source says of it.
   */
  none: v.optional(Text),
  outside: v.optional(Text),
  /** One of two lines that carry a signal as the difference of their volts: RS-485, CAN. */
  line: v.optional(v.picklist(['plus', 'minus'])),
  unknown: v.optional(Text),
  /** Named level set that says what a pin bears that is no signal: one side of a level shifter. */
  levels: v.optional(Text),
})
export type PartPin = v.InferOutput<typeof PartPin>

/** Only while an option has one of these values, or at least this amount. */
export const When = v.strictObject({
  option: Id,
  is: v.optional(v.array(v.union([v.string(), v.number()]))),
  least: v.optional(Amount),
})
export type When = v.InferOutput<typeof When>

/** A level set by name, or one per value of an option. */
const LevelsRef = v.union([Text, v.strictObject({ option: Id, sets: v.record(v.string(), Text) })])

export const Signal = v.strictObject({
  pin: PinId,
  /** What the other end must be able to do: `digital-out`, `pwm`, `i2c.sda` … */
  needs: Need,
  /** A second-best need that also works, for example digital-in polled where an interrupt is better. */
  orElse: v.optional(Need),
  /** Seen from the part. */
  direction: v.picklist(['in', 'out', 'both', 'open-drain', 'passive']),
  required: v.optional(v.boolean(), true),
  /** Resistor of the module from this pin to its supply, in ohms. */
  pulledOhms: v.optional(NotNegative),
  text: v.optional(Text),
  /** Current with which an open drain still pulls its line to a good low, in milliamperes. */
  sinkMilliamps: v.optional(NotNegative),
  /** Bias that the line needs from the host or from a resistor. */
  pull: v.optional(v.picklist(['up', 'down'])),
  /** Largest pull resistor in ohms with which the line works; a pin's own pull is then too weak. */
  pullMostOhms: v.optional(NotNegative),
  levels: v.optional(LevelsRef),
  /** Level that the part forces on the line while the board starts. */
  atReset: v.optional(v.picklist(['high', 'low'])),
  /** Resistance with which it does so, in ohms; 0 is a direct drive. */
  atResetOhms: v.optional(NotNegative),
  /** Moves something in the world: matters at reset. */
  actuator: v.optional(v.boolean(), false),
  /** Level at which an actuator moves or conducts. */
  activeLevel: v.optional(v.picklist(['high', 'low']), 'high'),
  /** PWM frequency in hertz. */
  hertz: v.optional(NotNegative),
  /** Current that the host pin carries, in milliamperes. */
  milliamps: v.optional(NotNegative),
  /** What leaving it open means. */
  open: v.optional(Text),
  /** Needs pulses timed to a microsecond or better: no expander, no slow link. */
  timing: v.optional(v.boolean(), false),
  /** Means something only while it changes: a clock, a trigger. */
  moves: v.optional(v.boolean(), false),
  /** Held at this level the part does nothing: its reset, or its enable switched off. */
  off: v.optional(v.picklist(['high', 'low'])),
  /** Only this signal of the part does nothing then: the output that an enable switches off. */
  offOf: v.optional(PinId),
  /** The part drives this line as well, unless the pin named is tied to ground: data lines of a display and its read pin. */
  backUnless: v.optional(PinId),
  /** Part of the wiring only then. */
  when: v.optional(When),
})
export type Signal = v.InferOutput<typeof Signal>

const TieTarget = v.union([v.literal('supply'), v.literal('ground'), PinId])

/** A pin that is not run to the board but fixed: to supply, ground, or another pin of the part. */
export const Tie = v.strictObject({
  pin: PinId,
  to: v.union([TieTarget, v.strictObject({ option: Id, values: v.record(v.string(), TieTarget) })]),
  required: v.optional(v.boolean(), true),
  text: v.optional(Text),
  /** Named level set that says what the pin bears; `logic` when left out. */
  levels: v.optional(Text),
  /** The module already holds it there: wiring is only needed to change it. */
  held: v.optional(v.union([TieTarget, v.literal('open')])),
  /** Pins for which alone it is there: while none of them has a wire, its level does not matter. */
  serves: v.optional(v.array(PinId)),
  when: v.optional(When),
})
export type Tie = v.InferOutput<typeof Tie>

const Addresses = v.strictObject({
  /** Fixed addresses, always there. */
  fixed: v.optional(v.array(v.number()), []),
  /** Addresses to which all of the kind answer together, such as a call to all. */
  shared: v.optional(v.array(v.number()), []),
  /** Option that chooses the address. */
  option: v.optional(Id),
})

export const Mode = v.strictObject({
  id: Id,
  title: Text,
  signals: v.optional(v.array(Signal), []),
  ties: v.optional(v.array(Tie), []),
  i2c: v.optional(
    v.strictObject({
      addresses: Addresses,
      /** Highest clock in hertz. */
      most: NotNegative,
      /** Pull-up resistors on the module, in ohms, to its supply (or the pin named). */
      pullUpOhms: v.optional(NotNegative),
      pullUpTo: v.optional(PinId),
      stretches: v.optional(v.boolean(), false),
      /** Signal that takes it off the bus; with it several of a kind can be given addresses by the program. */
      off: v.optional(PinId),
    }),
  ),
  spi: v.optional(
    v.strictObject({
      modes: v.array(v.picklist([0, 1, 2, 3])),
      most: NotNegative,
      /** Lets go of its data output when not selected. */
      releases: v.optional(v.boolean(), true),
      /** Option with the number by which several of the kind tell on one select whom a message is for. */
      numbered: v.optional(Id),
    }),
  ),
  uart: v.optional(v.strictObject({ baud: v.array(NotNegative), levels: v.picklist(['logic', 'rs-232', 'rs-485']) })),
})
export type Mode = v.InferOutput<typeof Mode>

export const OptionValue = v.strictObject({
  value: v.union([v.string(), v.number()]),
  title: v.optional(Text),
  /** Facts that go with this value: forward voltage, gate voltage, rating … in base units. */
  facts: v.optional(v.record(v.string(), Amount), {}),
})

export const Option = v.strictObject({
  id: Id,
  title: Text,
  /** Base unit of a free value: ohm, farad, hertz, count … */
  unit: v.optional(v.picklist(['ohm', 'farad', 'hertz', 'volt', 'milliamp', 'count', 'metre', 'watt'])),
  /** i2c-address values are written in hexadecimal. */
  kind: v.optional(v.picklist(['i2c-address', 'choice', 'amount']), 'choice'),
  values: v.optional(v.array(OptionValue), []),
  usual: v.union([v.string(), v.number()]),
  least: v.optional(Amount),
  most: v.optional(Amount),
})
export type PartOption = v.InferOutput<typeof Option>

const Milliamps = v.union([NotNegative, v.strictObject({ option: Id, times: v.optional(NotNegative) })])

export const PartSupply = v.strictObject({
  pins: v.array(PinId),
  ground: v.array(PinId),
  /** Range in volts at the supply pins. */
  least: NotNegative,
  most: NotNegative,
  absolute: v.optional(NotNegative),
  /** A number, or the option that holds it, times a number. */
  typicalMilliamps: v.optional(Milliamps),
  peakMilliamps: v.optional(Milliamps),
  /** Supply that the part's logic runs at when a regulator sits between, in volts. */
  logicVolts: v.optional(NotNegative),
  /** False where the part also works without it: a charger on its cell. */
  required: v.optional(v.boolean(), true),
  /** Supply and ground may change places: the ends of a potentiometer. */
  either: v.optional(v.boolean(), false),
  /** Prefer an outside source: motors, servos, strips. */
  heavy: v.optional(v.boolean(), false),
  /** Prefer this voltage within the range when there is a choice. */
  usual: v.optional(NotNegative),
  text: v.optional(Text),
  when: v.optional(When),
  /** Only in these modes. */
  modes: v.optional(v.array(Id)),
})

export type PartSupply = v.InferOutput<typeof PartSupply>

/** A supply that the part makes for others: a regulator, a charger, a supply module. */
export const GivenRail = v.strictObject({
  pin: PinId,
  /** Volts, or the option that holds them. */
  volts: v.union([NotNegative, v.strictObject({ option: Id })]),
  /** Most current in milliamperes. */
  milliamps: v.optional(NotNegative),
  /** Where heat decides: the limit up to so many volts at the pin that feeds it, lowest first. */
  byInput: v.optional(v.array(v.strictObject({ upTo: NotNegative, milliamps: NotNegative })), []),
  /** Supply pin that must be alive for it; none for a socket or a cell of its own. */
  from: v.optional(PinId),
  /** Most current that it takes in, in milliamperes, where that is less than the output would ask for. */
  mostIn: v.optional(NotNegative),
  /** Only gives less than it takes in, or only more; either where left out. `margin` is the least difference in volts. */
  makes: v.optional(v.picklist(['less', 'more'])),
  margin: v.optional(Amount),
  /** linear: takes in what it gives out; else the share of the power taken in that comes out. */
  efficiency: v.optional(v.union([v.literal('linear'), v.pipe(v.number(), v.minValue(0.3), v.maxValue(1))]), 'linear'),
  why: Text,
  when: v.optional(When),
})
export type GivenRail = v.InferOutput<typeof GivenRail>

/** Pins that the part gives to others, such as expander pins and switched outputs. */
export const Provided = v.strictObject({
  pins: v.array(PinId),
  does: v.array(PlainFunction),
  levels: v.optional(Text),
  /** Parts for which alone it is made, as an amplifier for speakers. */
  for: v.optional(v.array(Id)),
  current: v.optional(PinCurrent),
  /** Most current of all these pins together, in milliamperes. */
  together: v.optional(NotNegative),
  /** Most volts at the pin, for switched outputs. */
  mostVolts: v.optional(NotNegative),
  /** Pin to which a diode inside leads from each of these pins: it must lie on the supply of the loads. */
  clamp: v.optional(PinId),
  /** What such a pin costs in comfort: "read over the bus, a few hundred microseconds". */
  note: v.optional(Text),
  when: v.optional(When),
})

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
  /** Capacitance: rated volts. */
  ratedVolts: v.optional(v.union([NotNegative, v.strictObject({ option: Id })])),
  /** Zener diode: volts that it holds when driven backwards. */
  reverse: v.optional(v.union([NotNegative, v.strictObject({ option: Id })])),
  /** Winding: current while it runs, and while it starts or is held fast, in milliamperes. */
  milliamps: v.optional(v.union([NotNegative, v.strictObject({ option: Id })])),
  startMilliamps: v.optional(v.union([NotNegative, v.strictObject({ option: Id })])),
  /** Shunt: most volts of either side against the part's ground. */
  mostVolts: v.optional(NotNegative),
  /** Diode that lights: highest current in milliamperes. */
  mostMilliamps: v.optional(NotNegative),
  /**
   * shift: supply pins that set the level of each side, in the order of `between`; `amount` is a pull-up on each side.
   * buffer: repeats the level of the first pin at the second, at the second supply of this list.
   */
  rails: v.optional(v.tuple([PinId, PinId])),
  /** buffer: leads from the second pin to the first. */
  back: v.optional(v.boolean(), false),
  /** buffer: the second pin carries line levels instead of logic levels. */
  line: v.optional(v.picklist(['rs-232', 'rs-485'])),
  when: v.optional(When),
})
export type Inner = v.InferOutput<typeof Inner>

export const Companion = v.strictObject({
  part: Id,
  options: v.optional(v.record(v.string(), v.union([v.string(), v.number()])), {}),
  /** Why it is needed. */
  why: Text,
  /** Without it the part will not work or does damage. */
  required: v.optional(v.boolean(), false),
  /** In series between this pin and whatever it is wired to. */
  series: v.optional(PinId),
  /** Across these two: a pin id, `supply` or `ground`. */
  across: v.optional(v.tuple([TieTarget, TieTarget])),
  /** Only for these modes. */
  modes: v.optional(v.array(Id)),
  when: v.optional(When),
})
export type Companion = v.InferOutput<typeof Companion>

/** Posts on other edges, screw terminals and pads, which do not go into the breadboard: wires lead to them. */
const Apart = v.optional(
  v.array(v.strictObject({ pins: v.array(PinId), posts: v.picklist(['plug', 'socket', 'pads', 'terminals']) })),
  [],
)
/** What no entry can know of every specimen, such as the order of legs: the sheet asks to look. */
const check = v.optional(Text)

export const Footprint = v.variant('kind', [
  v.strictObject({
    kind: v.literal('in-line'),
    pins: v.array(v.nullable(PinId)),
    posts: v.optional(v.picklist(['plug', 'socket', 'pads']), 'plug'),
    apart: Apart,
    check,
  }),
  v.strictObject({
    kind: v.literal('two-row'),
    left: v.array(v.nullable(PinId)),
    right: v.array(v.nullable(PinId)),
    rowsApart: Pitches,
    apart: Apart,
    check,
  }),
  /** Numbered around the corners: down the left side and up the right. */
  v.strictObject({ kind: v.literal('dual-in-line'), pins: v.array(PinId), rowsApart: Pitches, check }),
  v.strictObject({ kind: v.literal('legs'), pins: v.array(PinId), spanLeast: Pitches, spanMost: Pitches, check }),
  /** Lies beside the breadboard; wires go to its posts, or into screw terminals. */
  v.strictObject({
    kind: v.literal('beside'),
    pins: v.array(PinId),
    posts: v.optional(v.picklist(['plug', 'socket', 'pads']), 'plug'),
    terminals: v.optional(v.array(PinId), []),
    check,
  }),
  v.strictObject({
    kind: v.literal('leads'),
    pins: v.array(PinId),
    ends: v.picklist(['plug', 'socket', 'bare']),
    lengthMillimetres: v.optional(NotNegative),
    /** All leads end in one housing that fits over posts 2.54 mm apart, in the order of `pins`. */
    housing: v.optional(v.boolean(), false),
    check,
  }),
])
export type Footprint = v.InferOutput<typeof Footprint>

export const categories = [
  'sensor',
  'input',
  'display',
  'light',
  'radio',
  'expander',
  'bus',
  'driver',
  'load',
  'storage',
  'clock',
  'passive',
  'power',
] as const

/** What the tool takes an entry for by itself: as a plain part in a mend, or as a way to more pins. */
export const helpers = [
  'resistor',
  'diode',
  'capacitor',
  'button',
  'key-matrix',
  'level-shifter',
  'more-pins',
  'more-analog',
  'more-buses',
] as const
export type Helper = (typeof helpers)[number]

export const Part = v.strictObject({
  catalog: v.literal(1),
  id: Id,
  title: Text,
  summary: Text,
  category: v.picklist(categories),
  /** A module carries its own small parts; a chip and a component do not. */
  build: v.picklist(['module', 'chip', 'component']),
  keywords: v.array(Text),
  /** The one that most people mean by a general word: comes first in a search. */
  usual: v.optional(v.boolean(), false),
  /** The tool may add it by itself, or knows a part of the plan as such. */
  helper: v.optional(v.picklist(helpers)),
  sources: v.array(Source),
  /** Stem for references of new instances: `CLIMATE`, `LED`. */
  stem: v.pipe(
    v.string(),
    v.maxLength(20, 'expected at most 20 characters'),
    v.regex(/^[A-Z][A-Z0-9]*$/, 'expected capital letters and digits'),
  ),
  pins: v.array(PartPin),
  supplies: v.optional(v.array(PartSupply), []),
  levels: v.optional(v.record(v.string(), Levels), {}),
  /** Signals and ties of every mode. */
  signals: v.optional(v.array(Signal), []),
  ties: v.optional(v.array(Tie), []),
  modes: v.optional(v.array(Mode), []),
  options: v.optional(v.array(Option), []),
  provides: v.optional(v.array(Provided), []),
  channels: v.optional(v.array(Channel), []),
  rails: v.optional(v.array(GivenRail), []),
  /** Most current of all its rails together, in milliamperes. */
  railsTogether: v.optional(NotNegative),
  controllers: v.optional(v.array(GivenController), []),
  contains: v.optional(v.array(Content), []),
  inner: v.optional(v.array(Inner), []),
  companions: v.optional(v.array(Companion), []),
  /** Pins in the order in which they lie in the part's cable or along its edge. */
  cable: v.optional(v.array(PinId), []),
  /** Rows of posts, in order, on which one plug fits over several: servo posts of a driver board. */
  plugPosts: v.optional(v.array(v.array(PinId)), []),
  /** Plugs onto a whole header in two columns of so many posts and brings it out: a pin's `number` is its position. */
  plugsOn: v.optional(v.array(NotNegative), []),
  /** Legs that must not be swapped. */
  polarised: v.optional(v.boolean(), false),
  footprint: Footprint,
  /** How it is built where an option says so: legs in another order, another edge. The first that holds. */
  footprints: v.optional(v.array(v.strictObject({ when: When, footprint: Footprint })), []),
  notes: v.optional(v.array(Text), []),
})
export type Part = v.InferOutput<typeof Part>
