import * as v from 'valibot'
import { NotNegative, PinId, Text } from './common.ts'

export const Rail = v.strictObject({
  id: PinId,
  volts: NotNegative,
  /** Holes on which the rail is reached. */
  pins: v.array(PinId),
  /** Logic runs from this rail. */
  logic: v.optional(v.boolean(), false),
  /** Another rail of the board that its current comes through, while the board gives that one as well. */
  through: v.optional(PinId),
  /** How it is made of that one: the same current, or the same power over this share. */
  efficiency: v.optional(v.union([v.literal('linear'), v.pipe(v.number(), v.minValue(0.3), v.maxValue(1))]), 'linear'),
  /** Most current for outside loads in milliamperes, by what feeds the board (`usb`, or an accepting pin). */
  limits: v.array(
    v.strictObject({
      feed: v.union([PinId, v.literal('any')]),
      milliamps: NotNegative,
      /** Where the regulator's heat decides: the limit up to so many volts at that feed, lowest first. */
      byInput: v.optional(v.array(v.strictObject({ upTo: NotNegative, milliamps: NotNegative })), []),
      why: Text,
    }),
  ),
  note: v.optional(Text),
})
export type Rail = v.InferOutput<typeof Rail>

export const Feed = v.strictObject({
  id: PinId,
  title: Text,
  /** Pins that take the supply in; empty for a socket. */
  pins: v.optional(v.array(PinId), []),
  least: NotNegative,
  most: NotNegative,
  /** Rails that come alive. */
  rails: v.array(PinId),
  /** Nothing parts it from the board's socket: both at once feed each other. */
  alone: v.optional(v.boolean(), false),
  /** A lithium cell is charged there while the socket is plugged in. */
  charges: v.optional(v.boolean(), false),
  note: v.optional(Text),
})
export type Feed = v.InferOutput<typeof Feed>
