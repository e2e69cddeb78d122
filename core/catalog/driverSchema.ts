import * as v from 'valibot'
import { languages } from './boardSchema.ts'
import { Id, NotNegative, PinId, Text } from './common.ts'

/** Name as programs write it. */
const Identifier = v.pipe(v.string(), v.regex(/^[A-Za-z_]\w*$/, 'expected a name as programs write it'))
const Place = v.pipe(v.number(), v.integer('expected the number of an argument, from 0'), v.minValue(0), v.maxValue(20))
/** Address of a two-wire bus. */
const Place7 = v.pipe(v.number(), v.integer('expected a whole number'), v.minValue(0), v.maxValue(127))
/** Arguments by their number, from 0, or in Python by their name. */
const PinArguments = v.record(
  v.pipe(v.string(), v.regex(/^(\d+|[a-z_]+)$/, 'expected the number or the name of an argument')),
  PinId,
)

const Call = v.strictObject({
  /** What it does to what the part shows. */
  does: v.optional(
    v.picklist([
      'clear',
      'home',
      'cursor',
      'write',
      'show',
      'light-on',
      'light-off',
      'colour',
      'all-colours',
      'one-colour',
      'brightness',
      'channel-setting',
      'channel-write',
      'channel-read',
      'channel-volts',
      'channel-share',
      'channel-pulse',
      'air-send',
      'air-take',
      'air-waits',
      'line-reset',
      'line-write',
      'line-read',
      'line-count',
      'line-rom',
    ]),
  ),
  /** Type that it returns, as programs write it; nothing where left out. */
  returns: v.optional(Text),
  /** Always the same. */
  gives: v.optional(v.union([v.number(), v.string()])),
  /** What the part senses, times `times`. */
  senses: v.optional(Id),
  times: v.optional(v.number()),
  /** Arguments that name its address, and pins of the part. */
  address: v.optional(Place),
  /** Added to addresses that are written as numbers below 8. */
  addressFrom: v.optional(Place7),
  pins: v.optional(PinArguments),
  /** True where it tells whether the part answers. */
  answers: v.optional(v.boolean()),
  /** True where it is not called: it stands there like a number. */
  property: v.optional(v.boolean(), false),
  /** Microseconds that it takes. */
  takes: v.optional(NotNegative),
})
export type DriverCall = v.InferOutput<typeof Call>

const Byte = v.pipe(v.number(), v.integer('expected a whole number'), v.minValue(0), v.maxValue(255))

/** What a register holds: bytes, or what the part senses as counts, highest byte first. */
const Register = v.strictObject({
  at: Byte,
  is: v.optional(v.array(Byte)),
  senses: v.optional(Id),
  /** Counts for one unit of what is sensed, and those that are added. */
  per: v.optional(v.number(), 1),
  plus: v.optional(v.number(), 0),
  bits: v.optional(v.pipe(v.number(), v.integer(), v.minValue(8), v.maxValue(24)), 16),
  unsigned: v.optional(v.boolean(), false),
  /** Bits by which the counts stand further left. */
  left: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(15)), 0),
  /**
   * Bits of another register that choose the range: they halve the counts, once for each step, or divide them `by` what
   * is said for each; not while the bits of `unless` are set there.
   */
  range: v.optional(
    v.strictObject({
      at: Byte,
      left: v.number(),
      mask: Byte,
      by: v.optional(v.array(v.number())),
      unless: v.optional(Byte),
    }),
  ),
  /** The lowest byte comes first. */
  low: v.optional(v.boolean(), false),
})
export type Register = v.InferOutput<typeof Register>

/** What is said at once: registers without a place. */
const Said = v.array(v.omit(Register, ['at']))
/** A check byte (CRC-8 with the polynomial 0x31) after each of them, or after all; where it begins. */
const Check = v.strictObject({ start: Byte, after: v.picklist(['each', 'all']) })
export type Check = v.InferOutput<typeof Check>

const Ports = v.array(Byte)

/** How parts answer on a two-wire bus byte by byte. */
const Bytes = v.variant('as', [
  /** The first byte sent names a register; each further one goes to the next, or `wide` ones hold several. */
  v.strictObject({
    as: v.literal('registers'),
    parts: v.array(Id),
    wide: v.optional(v.boolean(), false),
    holds: v.array(Register),
    /** While these bits stand as at power-on nothing is sensed. */
    asleep: v.optional(v.strictObject({ at: Byte, mask: Byte })),
    /** Nothing is sensed until one of these bits is set. */
    awake: v.optional(v.strictObject({ at: Byte, mask: Byte })),
    /** Bits of the first byte that name the register. */
    place: v.optional(Byte, 255),
    /** Over four wires: the bit of the first byte that asks to read, and those that name the register. */
    frame: v.optional(v.strictObject({ read: Byte, place: Byte })),
  }),
  /** A converter of several inputs over four wires, asked by a first bit, one for single or between two, three for which. */
  v.strictObject({
    as: v.literal('samples'),
    parts: v.array(Id),
    bits: v.pipe(v.number(), v.integer(), v.minValue(8), v.maxValue(16)),
  }),
  /** Registers of a clock from one on, in two decimal digits each, and others beside them. */
  v.strictObject({
    as: v.literal('clock'),
    parts: v.array(Id),
    from: Byte,
    order: v.array(v.picklist(['seconds', 'minutes', 'hours', 'weekday', 'day', 'month', 'year'])),
    /** Sunday in the register of the day of the week. */
    sunday: v.picklist([0, 1]),
    senses: Id,
    holds: v.optional(v.array(Register), []),
  }),
  /** A display of letters behind a port: its select, read, enable and light at the lower bits, its upper data lines above. */
  v.strictObject({ as: v.literal('letters-behind-port'), parts: v.array(Id) }),
  /** Eight rows or figures over four wires, a register of the row and its bits in sixteen. */
  v.strictObject({ as: v.literal('digits'), parts: v.array(Id) }),
  /** Whatever it is told, this is read. */
  v.strictObject({
    as: v.literal('reply'),
    parts: v.array(Id),
    holds: Said,
    /** Bit after bit, without any between what is held. */
    packed: v.optional(v.boolean(), false),
    check: v.optional(Check),
    /** On a clock and a data line of its own; it has something new every so many microseconds. */
    clocked: v.optional(v.strictObject({ clock: PinId, data: PinId, every: v.number() })),
  }),
  /** The first byte that it was told last says which of several answers is read. */
  v.strictObject({
    as: v.literal('commands'),
    parts: v.array(Id),
    answers: v.array(v.strictObject({ to: v.array(Byte), holds: Said })),
    check: v.optional(Check),
  }),
  /** What it says by itself over a serial line, or when it is asked there. */
  v.strictObject({
    as: v.literal('serial'),
    parts: v.array(Id),
    kind: v.picklist(['position', 'particles', 'dust', 'range', 'carbon']),
  }),
  /** Raw counts of temperature, pressure and humidity, and numbers with which a program reckons. */
  v.strictObject({
    as: v.literal('compensated'),
    parts: v.array(Id),
    kind: v.picklist(['bmp180', 'bmp280', 'bme280']),
  }),
  /** A byte stands at eight of its pins. */
  v.strictObject({ as: v.literal('ports'), parts: v.array(Id) }),
  /** Registers whose bits are its pins, eight each. */
  v.strictObject({
    as: v.literal('port-registers'),
    parts: v.array(Id),
    /** 1 is an input. */
    direction: Ports,
    pull: Ports,
    port: Ports,
    latch: Ports,
  }),
  /**
   * A converter: of sixteen bits in register 1 three choose the pins and three the full scale, in volts; register 0 holds
   * the counts, of so many bits from the left.
   */
  v.strictObject({
    as: v.literal('converter'),
    parts: v.array(Id),
    bits: v.pipe(v.number(), v.integer()),
    /** What stands in register 1 at power-on. */
    usual: v.number(),
    scales: v.pipe(v.array(v.number()), v.length(8)),
    /** Pins counted from 0 whose difference is measured; one alone against ground. */
    choices: v.pipe(v.array(v.pipe(v.array(v.number()), v.minLength(1), v.maxLength(2))), v.length(8)),
  }),
  /** Two bytes name a place; it wraps at its end. */
  v.strictObject({ as: v.literal('memory'), parts: v.array(Id), size: v.pipe(v.number(), v.integer()) }),
])
export type Bytes = v.InferOutput<typeof Bytes>

/**
 * How programs speak to parts through a class that somebody else has written: names of classes and calls are those that
 * programs use, and what they do is said in a few words of ours.
 */
export const Driver = v.strictObject({
  driver: v.literal(1),
  id: Id,
  /** None where programs speak to the part byte by byte alone. */
  classes: v.array(Identifier),
  /** Programs may put a word of whoever wrote it before the name of the class, or of its module: `Word_SSD1306`. */
  prefixed: v.optional(v.boolean(), false),
  /** Parts of the catalogue that it drives. */
  parts: v.array(Id),
  /** Of Python: the module that the classes come from, and where it is used. */
  python: v.optional(v.strictObject({ module: Identifier, in: v.array(v.picklist(languages)) })),
  /** Address that it asks where the program says none. */
  usualAddress: v.optional(Place7),
  /**
   * Headers by which a sketch gets it as text in C++ of our own, made of the classes above; classes and things that the
   * text defines and that programs name.
   */
  headers: v.optional(
    v.array(v.pipe(v.string(), v.regex(/^[\w+]+(?:\.hp?p?)?$/, 'expected the name of a header'))),
    [],
  ),
  defines: v.optional(v.array(Identifier), []),
  text: v.optional(v.string()),
  /** Names that programs write in many ways, as patterns, and what each stands for in the text. */
  patterns: v.optional(
    v.record(v.pipe(v.string(), v.regex(/^[\w()|[\]+\\-]+$/, 'expected a pattern of names')), Text),
    {},
  ),
  /** What a program that includes it must not be taken in by: said once. */
  notice: v.optional(Text),
  /** Feature that a board must have for it. */
  feature: v.optional(Id),
  /** Arguments of its making. */
  make: v.optional(
    v.strictObject({
      pins: v.optional(PinArguments),
      /** Pins where it is made with so many arguments. */
      counted: v.optional(
        v.record(v.pipe(v.string(), v.regex(/^\d+$/, 'expected a number of arguments')), PinArguments),
        {},
      ),
      address: v.optional(Place),
      columns: v.optional(Place),
      rows: v.optional(Place),
      count: v.optional(Place),
      /** Argument that is another object, which knows the pins. */
      through: v.optional(Place),
    }),
    {},
  ),
  /** Text can be printed on it: letters on rows of so many columns, or as it comes. */
  prints: v.optional(v.picklist(['rows', 'free'])),
  /** What it shows is seen only after a call that shows it. */
  buffered: v.optional(v.boolean(), false),
  /** What the part senses: what it stands at usually, and its range. */
  senses: v.optional(
    v.record(Id, v.strictObject({ usual: v.number(), least: v.number(), most: v.number(), unit: Text })),
    {},
  ),
  /** Microseconds from one new value of the part to the next; in between it gives the old one. */
  renews: v.optional(NotNegative),
  /** Numbers behind words that programs use with it. */
  constants: v.optional(v.record(Identifier, v.number()), {}),
  calls: v.record(Identifier, Call),
  bytes: v.optional(v.array(Bytes), []),
  sources: v.optional(v.array(Text), []),
})
export type Driver = v.InferOutput<typeof Driver>
