import * as v from 'valibot'
import { AnalogUnit, Controller, Timer } from './boardControllers.ts'
import { Feed, Rail } from './boardPower.ts'
import {
  BusKindSchema,
  Id,
  Levels,
  NotNegative,
  PinCurrent,
  PinId,
  Pitches,
  PlainFunction,
  Source,
  Text,
} from './common.ts'

/** What a board file can say. See `docs/adding-a-board.md` for the same in words. */

/** Ids of cautions that a pin can carry. */
export const cautionIds = [
  'boot-strap',
  'input-only',
  'no-pull',
  'fixed-pull-up',
  'fixed-pull-down',
  'onboard-led',
  'onboard-button',
  'usb-serial',
  'serial-console',
  'flash',
  'psram',
  'crystal',
  'boot-output',
  'reset-level',
  'reset-pulse',
  'keep-output',
  'slow',
  'debug-port',
  'false-edge',
] as const

const Level = v.picklist(['high', 'low'])

export const Caution = v.strictObject({
  id: v.picklist(cautionIds),
  text: Text,
  /** boot-strap: level needed at reset for the program to start from flash. */
  needs: v.optional(Level),
  /** boot-strap: what the wrong level does: nothing starts, nothing can be uploaded, or only the boot log changes. */
  matters: v.optional(v.picklist(['start', 'upload', 'log']), 'start'),
  /** boot-strap: what holds that level when nothing is wired. */
  held: v.optional(v.picklist(['pull-up', 'pull-down', 'nothing'])),
  /** Resistance of what holds it, or of the fixed pull, in ohms. */
  heldOhms: v.optional(NotNegative),
  /** onboard-led: an amplifier stands between pin and LED, so that it loads nothing. */
  buffered: v.optional(v.boolean(), false),
  /** reset-level, reset-pulse, boot-output: what the pin does while the board starts. */
  level: v.optional(Level),
  /** Feature (see `features`) that makes this caution matter; always when left out. */
  feature: v.optional(Id),
})
export type Caution = v.InferOutput<typeof Caution>

export const Header = v.strictObject({
  id: PinId,
  title: Text,
  /** What stands at the holes: pins that plug into a breadboard, sockets for a plug, or bare solder pads. */
  posts: v.picklist(['plug', 'socket', 'pads']),
  columns: v.optional(v.picklist([1, 2]), 1),
  /** Side of the drawing; a two-column header has its first column on the left. */
  side: v.picklist(['left', 'right', 'both']),
  /** False where the holes only repeat pins of another header. */
  drawn: v.optional(v.boolean(), true),
  /** What lies beside position 1 and beside the last position, for counting by hand. */
  first: Text,
  last: Text,
  /** Where position 1 lies, in pitches from the board's top left corner, and which way the count goes. */
  at: v.strictObject({ x: Pitches, y: Pitches }),
  step: v.picklist(['down', 'up', 'right', 'left']),
  /** Number of the first position; other than 1 where the count runs on from another row. */
  numberedFrom: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(1000)), 1),
  /** Pin ids in order of position. */
  pins: v.array(PinId),
})
export type Header = v.InferOutput<typeof Header>

export const BoardPin = v.strictObject({
  id: PinId,
  kind: v.picklist(['io', 'supply', 'ground', 'control', 'none']),
  /**
   * What a control pin is: held low, `reset` and `enable` stop the board; `boot` chooses where its program comes from;
   * `upload` resets through a capacitor, for the adapter that uploads.
   */
  control: v.optional(v.picklist(['reset', 'enable', 'boot', 'reference', 'debug', 'upload'])),
  /** Level at which a control pin does so; the board holds it at the other one. */
  acts: v.optional(v.picklist(['low', 'high']), 'low'),
  /** A pin of a rail to which a resistor on the board leads from a reference, in ohms: what takes little may hang there. */
  behind: v.optional(v.strictObject({ pin: PinId, ohms: NotNegative })),
  /** As printed on the board: what fingers use. */
  label: v.optional(Text),
  /** As firmware names it. */
  firmware: v.optional(Text),
  /** As the chip's port is named. */
  port: v.optional(Text),
  /** Analog channel. */
  analog: v.optional(Text),
  aliases: v.optional(v.array(Text), []),
  /** Another pin whose net this hole repeats. */
  joins: v.optional(PinId),
  /** Function sets and plain functions. */
  does: v.optional(v.array(Text), []),
  /** Named level set; the board's `default` when left out. */
  levels: v.optional(Text),
  current: v.optional(PinCurrent),
  cautions: v.optional(v.array(Caution), []),
  /** Reachable only by soldering. */
  solder: v.optional(v.boolean(), false),
  note: v.optional(Text),
})
export type BoardPin = v.InferOutput<typeof BoardPin>

/** How a board with an operating system is set up. */
export const System = v.strictObject({
  /** File that takes the lines. */
  file: v.optional(Text),
  /** Group of users for each kind of interface: `i2c`, `spi`, `uart`, and `gpio` for plain pins. */
  groups: v.record(v.string(), Text),
  /** What gets a login console off a serial line: the feature that it is, and steps in words with their commands. */
  console: v.optional(v.strictObject({ feature: Id, steps: v.array(Text) })),
  /** PWM made by hardware: a line for each pin; `with` is what must go for it. */
  pwm: v.optional(
    v.strictObject({ pins: v.record(PinId, Text), with: v.optional(v.strictObject({ line: Text, why: Text })) }),
  ),
  /** Numbers that lines take are those of programs; what follows from a change. */
  after: Text,
})
export type System = v.InferOutput<typeof System>

export const Feature = v.strictObject({
  id: Id,
  title: Text,
  text: Text,
  /** Switched on in a new plan. */
  usual: v.optional(v.boolean(), false),
  /** Needs for which the feature itself is there, such as `analog-out`; `onewire` stands for 1-Wire lines. */
  serves: v.optional(v.array(Text), []),
  /** Pins that the feature occupies. */
  pins: v.optional(v.array(PinId), []),
  controllers: v.optional(v.array(Id), []),
  timers: v.optional(v.array(Id), []),
  /** Pulses that the feature, a library, makes by its timers on whatever pin is wanted: of servos, or tones. */
  makes: v.optional(v.picklist(['servo', 'tone'])),
  analog: v.optional(v.array(Id), []),
  /** What the board takes at peaks while the feature is in use, in milliamperes: a radio that sends. */
  peak: v.optional(NotNegative),
})
export type Feature = v.InferOutput<typeof Feature>

/** Languages in which a board is programmed. */
export const languages = ['cpp', 'micropython', 'circuitpython', 'python'] as const
export type Language = (typeof languages)[number]

/** What the text of a pin in a program is made of. */
export const pinNameParts: readonly string[] = ['firmware', 'id', 'number', 'port', 'port-bare', 'port-padded']

/** How programs in one language write the board's pins. */
export const Program = v.strictObject({
  as: v.picklist(languages),
  /**
   * A pin as it is written, made of `{firmware}`, `{id}`, `{number}` (digits at the end of the id), `{port}`,
   * `{port-bare}` (without its leading P) and `{port-padded}` (with two digits).
   */
  pin: Text,
  /** Pins that are written otherwise. */
  except: v.optional(v.record(PinId, Text), {}),
  /** Line without which these names are not known. */
  needs: v.optional(Text),
  /** Names that the platform has for pins besides: `A0: GP26`. */
  also: v.optional(v.record(v.string(), PinId), {}),
  /** First number under which analog pins are also known: `14` where A0 is 14 as well. */
  analogFrom: v.optional(v.number()),
  /** Pins behind interrupt numbers, from 0, where those are not the pins' own. */
  interrupts: v.optional(v.array(PinId), []),
  /** Pins that a bus object takes when it is begun without any: `Wire: { sda: GPIO21, scl: GPIO22 }`. */
  begins: v.optional(v.record(v.string(), v.record(v.string(), PinId)), {}),
  /** Names and numbers of what serves the board itself and is not brought out, its LED before all: `25`, `LED`. */
  inside: v.optional(v.array(Text), []),
  /** What a maker must know of this numbering. */
  text: v.optional(Text),
})
export type Program = v.InferOutput<typeof Program>

/** What one model of a board has otherwise than the rest; an item replaces the board's own of the same id, or joins it. */
export const Variant = v.strictObject({
  id: Id,
  title: Text,
  text: v.optional(Text),
  mcu: v.optional(Text),
  /** Current of one pin, where it differs. */
  current: v.optional(PinCurrent),
  headers: v.optional(v.array(Header), []),
  pins: v.optional(v.array(BoardPin), []),
  controllers: v.optional(v.array(Controller), []),
  timers: v.optional(v.array(Timer), []),
  analog: v.optional(v.array(AnalogUnit), []),
  features: v.optional(v.array(Feature), []),
  rails: v.optional(v.array(Rail), []),
  feeds: v.optional(v.array(Feed), []),
  /** In the place of the board's own. */
  streams: v.optional(v.array(Text)),
  /** Controllers of the board that this model does not have. */
  lacks: v.optional(v.array(Id), []),
  notes: v.optional(v.array(Text), []),
})
export type Variant = v.InferOutput<typeof Variant>

export const Board = v.strictObject({
  catalog: v.literal(1),
  id: Id,
  title: Text,
  summary: Text,
  mcu: Text,
  /** Clock of the chip in hertz, where it is not the usual one of its family. */
  hertz: v.optional(NotNegative),
  family: Id,
  keywords: v.array(Text),
  /** The one that most people mean by a general word: comes first in a search. */
  usual: v.optional(v.boolean(), false),
  sources: v.array(Source),
  logicVolts: NotNegative,
  /** Named level sets; `default` is required. */
  levels: v.record(v.string(), Levels),
  current: v.strictObject({
    pin: PinCurrent,
    /** Groups of pins with a limit in common. */
    groups: v.optional(
      v.array(
        v.strictObject({
          title: Text,
          pins: v.array(PinId),
          absolute: NotNegative,
          way: v.picklist(['source', 'sink', 'both']),
        }),
      ),
      [],
    ),
    total: v.optional(v.strictObject({ recommended: v.optional(NotNegative), absolute: v.optional(NotNegative) })),
  }),
  /** Internal pull resistors in ohms. */
  pulls: v.optional(
    v.strictObject({
      upLeast: NotNegative,
      upMost: NotNegative,
      downLeast: v.optional(NotNegative),
      downMost: v.optional(NotNegative),
    }),
  ),
  outline: v.strictObject({
    width: Pitches,
    height: Pitches,
    marks: v.array(v.strictObject({ what: Text, edge: v.picklist(['top', 'bottom', 'left', 'right', 'middle']) })),
  }),
  mounting: v.strictObject({
    way: v.picklist(['breadboard', 'beside']),
    /** Distance between the two rows in pitches. */
    rowsApart: v.optional(Pitches),
    /** Holes left free beside each row on one ordinary breadboard. */
    free: v.optional(v.strictObject({ left: v.number(), right: v.number() })),
    /** End at which its USB cable is plugged in: the board stands with it at that end of a breadboard. */
    cable: v.optional(v.picklist(['top', 'bottom']), 'top'),
    note: v.optional(Text),
  }),
  /** C++ by firmware names where left out. */
  programs: v.optional(v.array(Program), [
    { as: 'cpp', pin: '{firmware}', except: {}, also: {}, interrupts: [], begins: {} },
  ]),
  system: v.optional(System),
  headers: v.array(Header),
  functionSets: v.optional(v.record(v.string(), v.array(PlainFunction)), {}),
  pins: v.array(BoardPin),
  controllers: v.array(Controller),
  timers: v.optional(v.array(Timer), []),
  /** PWM made by a matrix: any `pwm` pin, so many channels on so many timers. */
  pwm: v.optional(
    v.strictObject({
      channels: v.number(),
      timers: v.number(),
      /** The pulses are made by a program: its libraries decide whether each pin has a frequency of its own. */
      bySoftware: v.optional(v.boolean(), false),
      leastHertz: v.optional(NotNegative),
      mostHertz: v.optional(NotNegative),
      note: v.optional(Text),
    }),
  ),
  /** Interrupt lines shared between pins; left out when every pin has its own. */
  interruptLines: v.optional(v.array(v.strictObject({ id: Text, pins: v.array(PinId) })), []),
  analog: v.optional(v.array(AnalogUnit), []),
  features: v.array(Feature),
  /** Buses that programs can make on any pins without a controller, and the highest rate in baud or hertz. */
  software: v.optional(v.array(v.strictObject({ kind: BusKindSchema, most: NotNegative, note: Text })), []),
  /** Largest resistor in ohms that brings an input down again once it was high, on some of the chips; left out where any does. */
  pullDownMostOhms: v.optional(NotNegative),
  /** Why programs cannot time pulses to a few microseconds; left out where they can. */
  noTimeBase: v.optional(Text),
  /** Functions by whose hardware a row of bits leaves a pin all the same: `pwm`, `spi.mosi`. */
  streams: v.optional(v.array(Text), []),
  /** Current in milliamperes that the board takes itself, from what feeds it at a pin. */
  own: v.optional(v.strictObject({ typical: NotNegative, peak: NotNegative, why: Text })),
  rails: v.array(Rail),
  feeds: v.array(Feed),
  /** Level of ordinary pins while the chip is held in reset. */
  /** Posts that a wire has to join, so that the board's own clock can wake it from a deep sleep. */
  wakes: v.optional(v.strictObject({ join: v.tuple([PinId, PinId]) })),
  reset: v.strictObject({ pins: v.picklist(['floating', 'pulled-up', 'pulled-down']), note: v.optional(Text) }),
  /** How firmware gets at the interfaces on this family: notes for the maker. */
  notes: v.optional(v.array(Text), []),
  /** Models that share the header and differ in what is behind it. */
  variants: v.optional(v.array(Variant), []),
})
export type Board = v.InferOutput<typeof Board>
