import { invoke } from '../attributes.ts'
import { type Named, Native, nativeClass, type PythonBoard } from '../native.ts'
import type { PinCalls } from '../pinCalls.ts'
import { asIndex, asNumber, isTrue } from '../protocols.ts'
import { type Py, PyFunction } from '../values.ts'

/** What the classes for things on the pins of single-board computers share. */
export type ZeroKit = ReturnType<typeof zeroKit>

/** A value that something has, and for how many seconds. */
export type Step = readonly [value: number, seconds: number]

export function zeroKit(board: PythonBoard, calls: PinCalls) {
  const { wait, arg, pinFrom, apply, write, softPulse } = calls
  const pinClass = nativeClass('Pin', () => undefined, {})
  /** Settles a pin for an output; one that is on while low lies high until it is switched. */
  const startOut = (self: Native, args: readonly Py[], names: Named): void => {
    self.pin = pinFrom(args[0])
    self.settled.mode = 'out'
    apply(self)
    self.attrs.set('_turned', !isTrue(arg(args, names, 1, 'active_high') ?? true))
  }
  /** True where something is on while its pin is low. */
  const isTurned = (self: Native): boolean => self.attrs.get('_turned') === true
  const made = (pin: Py, mode: 'out' | 'in'): Native => {
    const one = new Native(pinClass)
    one.pin = pinFrom(pin)
    one.settled.mode = mode
    apply(one)
    return one
  }
  const setOn = (self: Native, on: boolean): null => {
    self.on = on
    return write(self, on !== isTurned(self))
  }
  /** Sets how much of the time something is on, 0 to 1. */
  const setShare = (self: Native, share: number): null => {
    const within = Math.min(1, Math.max(0, share))
    self.duty = isTurned(self) ? 1 - within : within
    return softPulse(self)
  }
  const round = (self: Native): number => self.attrs.get('_round') ?? 0
  /** Ends what goes on beside the program with something. */
  const halt = (self: Native): void => {
    if (!self.plays) return
    self.plays = false
    self.attrs.set('_round', round(self) + 1)
  }
  /** Steps one after the other, `n` times or for ever, beside the program or before it goes on. */
  const play = (self: Native, steps: readonly Step[], names: Named, set: (value: number) => void): null => {
    halt(self)
    self.plays = true
    const own = round(self)
    const times = names.get('n') ?? null
    const all = (times === null ? Number.POSITIVE_INFINITY : asIndex(times)) * steps.length
    if (!isTrue(names.get('background') ?? true)) {
      for (let at = 0; at < all; at += 1) {
        const [value, seconds] = steps[at % steps.length]!
        set(value)
        wait(seconds * 1e6)
      }
      return null
    }
    const from = (at: number): void => {
      // Somebody may have switched it since.
      if (at >= all || round(self) !== own) return
      const [value, seconds] = steps[at % steps.length]!
      set(value)
      board.later(seconds * 1e6, () => from(at + 1))
    }
    from(0)
    return null
  }
  const seconds = (args: readonly Py[], names: Named, at: number, name: string, usual: number): number =>
    asNumber(arg(args, names, at, name) ?? usual)
  return { startOut, isTurned, made, setOn, setShare, halt, play, seconds }
}

/** Calls a handler; one that asks for something is given what it hangs on. */
export const handle = (handler: Py, self: Native): Py =>
  handler ? invoke(handler, handler instanceof PyFunction && handler.wants > 0 ? [self] : []) : null
