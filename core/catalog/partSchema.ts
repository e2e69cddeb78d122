import * as v from 'valibot'
import { Behaviour } from './behaviourSchema.ts'
import {
  Amount,
  Id,
  Levels,
  Millimetres,
  NotNegative,
  PinCurrent,
  PinId,
  Pitches,
  PlainFunction,
  Source,
  Text,
} from './common.ts'
import { Channel, Content, GivenController, Inner } from './innerSchema.ts'
import { Mode, PartPin, Signal, Tie, TieTarget, When } from './signalSchema.ts'

/** What a part file can say. See `docs/adding-a-part.md` for the same in words. */

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
  /** Words of makers that stand for an amount: `lipo` for the volts of a cell. */
  words: v.optional(v.record(Text, Amount)),
  /** A jumper on the module, which the maker sets as the plan needs it; other options say what a part is. */
  isJumper: v.optional(v.boolean(), false),
  usual: v.union([v.string(), v.number()]),
  /** What is usual instead while another option says so: a large capacitor is an electrolytic one. */
  usualWhen: v.optional(v.strictObject({ when: When, usual: v.union([v.string(), v.number()]) })),
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
  /** Inputs each of which stands for an equal share of both currents: the relays of a row. One without a wire takes none. */
  sharedBy: v.optional(v.array(PinId), []),
  /** Supply that the part's logic runs at when a regulator sits between, in volts. */
  logicVolts: v.optional(NotNegative),
  /** False where the part also works without it: a charger on its cell. */
  required: v.optional(v.boolean(), true),
  /** Supply and ground may change places: the ends of a potentiometer. */
  either: v.optional(v.boolean(), false),
  /** With its pin on ground the part is fed through its own line: parasite power on a 1-Wire line. */
  byLine: v.optional(v.boolean(), false),
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
  /** Volts of the motor supply that two outputs of a bridge keep for themselves at a usual current. */
  keeps: v.optional(NotNegative),
  /** Pin to which a diode inside leads from each of these pins: it must lie on the supply of the loads. */
  clamp: v.optional(PinId),
  /** What they do from power-up to the first word of the program: whatever they like where it is `any`. */
  starts: v.optional(v.picklist(['floating', 'high', 'low', 'any'])),
  /** What such a pin costs in comfort: "read over the bus, a few hundred microseconds". */
  note: v.optional(Text),
  when: v.optional(When),
})

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
    /** It plugs over the rails at one end of a breadboard, and chooses for each side which of its outputs feeds the plus rail. */
    overRails: v.optional(v.strictObject({ plus: v.array(PinId), minus: PinId })),
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

/** Something that programs ask for besides pin, bus, address and rate: an order, a figure, a word. */
export const Ask = v.strictObject({
  what: Text,
  /** Pins in the order in which they are asked for; those that have no wire are left out. */
  pins: v.optional(v.array(PinId)),
  /** Every library takes these pins in this order. */
  everywhere: v.optional(v.boolean(), false),
  /** The pins also go into one list constant, by this name after the reference. */
  list: v.optional(Id),
  /** A figure in base units, or the option that holds it. */
  amount: v.optional(v.union([Amount, v.strictObject({ option: Id })])),
  unit: v.optional(Text),
  /** The figure also becomes a constant, by this name after the reference. */
  name: v.optional(Id),
  /** What to write, or to know. */
  say: v.optional(Text),
  when: v.optional(When),
})
export type Ask = v.InferOutput<typeof Ask>

/** A driver of the operating system that is the standard way to a part, for boards of these families. */
export const PartSetting = v.strictObject({
  families: v.array(Id),
  /** Line for the boot configuration; `{PIN}` is the number of the pin on which that signal lies. */
  line: Text,
  /** What it brings, and where programs find it. */
  gives: Text,
  /** The part cannot be used well without it; else programs may also speak to the part themselves. */
  needed: v.optional(v.boolean(), false),
})

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
  /**
   * Three legs of which two may serve as a resistor: wired so (a leg free, or joined with the tap, and a lamp or another
   * resistor on one side), the option has this value without being set.
   */
  rheostat: v.optional(v.strictObject({ tap: PinId, ends: v.tuple([PinId, PinId]), option: Id, value: Text })),
  /** A transistor that serves as a channel of a level shifter with its gate on a supply: the weaker side comes first. */
  passes: v.optional(v.strictObject({ gate: PinId, between: v.tuple([PinId, PinId]) })),
  /**
   * A transistor that lies backwards in one lead of a supply, so that a supply turned round feeds nothing: the side of the
   * supply comes first. Its gate rests at `on`.
   */
  guards: v.optional(
    v.strictObject({ gate: PinId, between: v.tuple([PinId, PinId]), on: v.picklist(['high', 'low']) }),
  ),
  provides: v.optional(v.array(Provided), []),
  /** Given pins in the order in which programs count them, from 0. */
  counts: v.optional(v.array(PinId), []),
  asks: v.optional(v.array(Ask), []),
  settings: v.optional(v.array(PartSetting), []),
  channels: v.optional(v.array(Channel), []),
  rails: v.optional(v.array(GivenRail), []),
  /** Most current of all its rails together, in milliamperes. */
  railsTogether: v.optional(NotNegative),
  controllers: v.optional(v.array(GivenController), []),
  /** What the chip does with levels by itself, for the rehearsal of a program. */
  behaves: v.optional(Behaviour),
  /** Contacts that a hand closes, between two pins of signals that say so: for the rehearsal, as is `behaves`. */
  presses: v.optional(v.array(v.tuple([PinId, PinId])), []),
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
  /**
   * Outline of a module on one row of posts, in millimetres: its length along the row, its depth across it, and how far
   * before the first post it begins (the row stands in the middle when left out). Of a common make; others differ a little.
   */
  outline: v.optional(v.strictObject({ along: Millimetres, across: Millimetres, first: v.optional(Millimetres) })),
  /** How it is built where an option says so: legs in another order, another edge. The first that holds. */
  footprints: v.optional(v.array(v.strictObject({ when: When, footprint: Footprint })), []),
  notes: v.optional(v.array(Text), []),
})

export type Part = v.InferOutput<typeof Part>
