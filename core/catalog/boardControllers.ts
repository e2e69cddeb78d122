import * as v from 'valibot'
import { Amount, BusKindSchema, Id, NotNegative, PinId, Text } from './common.ts'

const PinBySignal = v.record(v.string(), PinId)

/**
 * What the operating system must be told so that an interface is there. Texts may hold `{sda}`, `{cs0}` … for the number
 * of the pin on which that line lies, and `{hertz}` for the clock of the bus.
 */
export const ControllerSetting = v.strictObject({
  /** Lines for the boot configuration; none where the interface is always there. */
  lines: v.optional(v.array(Text), []),
  /** What a line ends with when the clock of the bus is not the usual one, or a line of its own. */
  clock: v.optional(Text),
  /** By number of selects, where lines differ with it: from one select on. */
  bySelects: v.optional(v.array(Text), []),
  /** What follows for a select that lies elsewhere, from the first: `,cs0_pin={cs0}`; and its usual pins. */
  selects: v.optional(v.array(v.strictObject({ usual: PinId, option: Text })), []),
  /** Path under which programs find it. */
  device: Text,
  /** The same in words. */
  step: Text,
})
export type ControllerSetting = v.InferOutput<typeof ControllerSetting>

export const Controller = v.strictObject({
  /** As the platform numbers it: `i2c0`, `spi3`, `uart1`. */
  id: Id,
  kind: BusKindSchema,
  title: Text,
  /** Each signal on any of its listed pins, freely combined. */
  pins: v.optional(v.record(v.string(), v.array(PinId))),
  /** Sets of pins that move together. */
  groups: v.optional(v.array(PinBySignal)),
  /** Signals that a matrix takes to any pin with the needed direction; `prefer` names the fixed pins. */
  matrix: v.optional(v.record(v.string(), v.picklist(['in', 'out', 'both']))),
  prefer: v.optional(v.strictObject({ pins: PinBySignal, why: Text })),
  /**
   * What a controller that is switched on makes of pins that the bus may not use: `in` forces an input, `out` must stay
   * an output, `whole` drives the pin itself.
   */
  takes: v.optional(v.record(v.string(), v.picklist(['in', 'out', 'whole']))),
  /** Highest clock or rate in hertz or baud. */
  most: v.optional(NotNegative),
  /** Order in which automatic assignment takes controllers of one kind; smaller first. */
  rank: v.optional(v.number(), 0),
  setting: v.optional(ControllerSetting),
  note: v.optional(Text),
})
export type Controller = v.InferOutput<typeof Controller>

export const Timer = v.strictObject({
  id: Id,
  bits: v.number(),
  /** Channel name to pin. */
  channels: v.optional(v.record(v.string(), v.array(PinId)), {}),
  note: v.optional(Text),
})

export const AnalogUnit = v.strictObject({
  id: Id,
  bits: v.number(),
  pins: v.array(PinId),
  /** Range in volts that converts well. */
  least: Amount,
  most: Amount,
  /** References inside the chip that a program can take for full scale, as it writes them: volts. */
  references: v.optional(v.record(Text, Amount), {}),
  note: v.optional(Text),
})
export type AnalogUnit = v.InferOutput<typeof AnalogUnit>
