import * as v from 'valibot'
import { Amount, Id, Need, NotNegative, PinId, Text } from './common.ts'

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
  /** Of what belongs outside: the part sends on it, so that it works against a rail. */
  sends: v.optional(v.boolean(), false),
  /** One of two lines that carry a signal as the difference of their volts: RS-485, CAN. */
  line: v.optional(v.picklist(['plus', 'minus'])),
  /** Least resistance between the two lines, in ohms, against which the part still gives a good difference. */
  lineOhms: v.optional(NotNegative),
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
  /** Could stay open, and is wired as a rule: the switch of a joystick, the further relays of a row. */
  often: v.optional(v.boolean(), false),
  /** Resistor of the module from this pin to its supply, in ohms. */
  pulledOhms: v.optional(NotNegative),
  text: v.optional(Text),
  /** Current with which an open drain still pulls its line to a good low, in milliamperes. */
  sinkMilliamps: v.optional(NotNegative),
  /** Bias that the line needs from the host or from a resistor. */
  pull: v.optional(v.picklist(['up', 'down'])),
  /** Largest pull resistor in ohms with which the line works; a pin's own pull is then too weak. */
  pullMostOhms: v.optional(NotNegative),
  /** Every device on the line has a number of its own, as on 1-Wire: several may share it. */
  numbered: v.optional(v.boolean(), false),
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
  /** Shortest pulse that it must tell from none, in seconds. */
  pulseSeconds: v.optional(NotNegative),
  /** Current that the host pin carries, in milliamperes. */
  milliamps: v.optional(NotNegative),
  /** What leaving it open means. */
  open: v.optional(Text),
  /** Posts of a board that are no signal and to which it belongs, by what they control. */
  posts: v.optional(v.array(v.picklist(['upload'])), []),
  /** Needs pulses timed to a microsecond or better: no expander, no slow link. */
  timing: v.optional(v.boolean(), false),
  /** More volts that it bears through a resistor of so many ohms at least, where its data sheet says so. */
  bears: v.optional(v.strictObject({ volts: NotNegative, through: NotNegative })),
  /** A load that works, if weakly, behind a resistor that keeps to what a pin gives: the option with its own ohms. */
  behindResistor: v.optional(Id),
  /** A load that is run at a share of its time as a rule: dimmed, or slowed down by pulses. */
  graded: v.optional(v.boolean(), false),
  /** A row of bits that hardware of a board can send by itself. */
  stream: v.optional(v.boolean(), false),
  /** Bits one after the other, clocked by edges: over a bus message each, they would take hundreds of times as long. */
  serial: v.optional(v.boolean(), false),
  /** A bit of a number, such as which channel a switch of lines takes: two of them that always say the same tell half as much. */
  bit: v.optional(v.boolean(), false),
  /** Another line of the part that may move with it, though both mean something only while they change. */
  movesWith: v.optional(v.array(PinId), []),
  /** Means something only while it changes: a clock, a trigger. */
  moves: v.optional(v.boolean(), false),
  /** Sound and the like: only its change matters, so that a capacitor in series leads it on. */
  alternates: v.optional(v.boolean(), false),
  /** Held at this level the part does nothing: its reset, or its enable switched off. */
  off: v.optional(v.picklist(['high', 'low'])),
  /** Only this signal of the part does nothing then: the output that an enable switches off. */
  offOf: v.optional(PinId),
  /** Only this of the part does nothing then, in words: `the back light`. */
  offWhat: v.optional(Text),
  /** Off only while that other input is off as well: two select lines of which one combination is sleep. */
  offWith: v.optional(PinId),
  /** The part drives this line as well, unless the pin named is tied to ground: data lines of a display and its read pin. */
  backUnless: v.optional(PinId),
  /** Either this or the pin named is enough: the analog output of a module and that of its threshold. */
  eitherWith: v.optional(PinId),
  /** Part of the wiring only then. */
  when: v.optional(When),
})

export type Signal = v.InferOutput<typeof Signal>

export const TieTarget = v.union([v.literal('supply'), v.literal('ground'), PinId])

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
  /** What leaving it open means, where the part works without it. */
  open: v.optional(Text),
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
      /** Libraries speak to it over a controller: on other pins they find nothing, though a program could make each bit. */
      controllerOnly: v.optional(v.boolean(), false),
      /** Libraries for it make the bits themselves on any pins that a sketch names: no controller is missed. */
      anyPins: v.optional(v.boolean(), false),
      /** Works also while it is selected for good; others take the edges of the select for beginning and end. */
      alwaysOn: v.optional(v.boolean(), false),
      /** Option with the number by which several of the kind tell on one select whom a message is for. */
      numbered: v.optional(Id),
    }),
  ),
  uart: v.optional(v.strictObject({ baud: v.array(NotNegative), levels: v.picklist(['logic', 'rs-232', 'rs-485']) })),
})

export type Mode = v.InferOutput<typeof Mode>
