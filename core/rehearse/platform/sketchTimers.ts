import type { NativeClass, NativeFunction } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import { Callable, type Value } from '../cpp/values.ts'
import type { Hardware } from './hardware.ts'

/** Something that calls the program again and again, or once. */
interface Clock {
  /** Counted up whenever it is set anew or stopped: what was due before does nothing then. */
  round: number
  isOn: boolean
  /** Microseconds from one call to the next. */
  each: number
  call: (() => void) | undefined
}

/** Counts of a full pulse, as the library of the timer has them. */
const FULL_DUTY = 1023

/** Timers by which sketches let something be called: one of a number, and the first one of the small boards. */
export function timerClasses(
  hardware: Hardware,
  { bool, ulong }: Readonly<Record<'bool' | 'ulong', Type>>,
): readonly [string, NativeClass][] {
  const make = (): Clock => ({ round: 0, isOn: false, each: 1_000_000, call: undefined })
  const stop = (self: Clock): void => {
    self.round += 1
    self.isOn = false
  }
  const start = (self: Clock, repeats: boolean): void => {
    stop(self)
    self.isOn = true
    const { round } = self
    const tick = (): void => {
      if (self.round !== round) return
      if (repeats) hardware.later(self.each, tick)
      else self.isOn = false
      self.call?.()
    }
    hardware.later(self.each, tick)
  }
  const calling = (handler: Value, rest: readonly Value[]): (() => void) | undefined =>
    handler instanceof Callable ? () => void handler.call([...rest]) : undefined
  const set = (unit: number, repeats: boolean): NativeFunction<never> => ({
    params: ['any', 'any', 'any'],
    least: 2,
    returns: VOID,
    run: (self: Clock, [time, handler, ...rest]) => {
      self.each = Math.max(1, Number(time) * unit)
      self.call = calling(handler, rest)
      start(self, repeats)
    },
  })
  const stopping: NativeFunction<never> = { params: [], returns: VOID, run: stop }
  const starting: NativeFunction<never> = { params: [], returns: VOID, run: (self: Clock) => start(self, true) }
  const period = (self: Clock, time: Value): void => {
    if (time !== undefined) self.each = Math.max(1, Number(time))
    if (self.isOn) start(self, true)
  }
  return [
    [
      'Ticker',
      {
        make,
        methods: {
          attach: set(1e6, true),
          attach_ms: set(1000, true),
          once: set(1e6, false),
          once_ms: set(1000, false),
          detach: stopping,
          active: { params: [], returns: bool, run: (self: Clock) => (self.isOn ? 1 : 0) },
        },
      },
    ],
    [
      'TimerOne',
      {
        make,
        methods: {
          initialize: {
            params: [ulong],
            least: 0,
            returns: VOID,
            run: (self: Clock, [time]) => {
              self.each = Math.max(1, Number(time ?? self.each))
              start(self, true)
            },
          },
          setPeriod: { params: [ulong], returns: VOID, run: (self: Clock, [time]) => period(self, time) },
          attachInterrupt: {
            params: ['any', ulong],
            least: 1,
            returns: VOID,
            run: (self: Clock, [handler, time]) => {
              self.call = calling(handler, [])
              period(self, time)
            },
          },
          detachInterrupt: {
            params: [],
            returns: VOID,
            run: (self: Clock) => {
              self.call = undefined
            },
          },
          start: starting,
          restart: starting,
          resume: starting,
          stop: stopping,
          pwm: {
            params: ['any', 'any', ulong],
            least: 2,
            returns: VOID,
            run: (self: Clock, [pin, duty, time], _types, at) => {
              period(self, time)
              hardware.pulse(Number(pin), Number(duty) / FULL_DUTY, 1e6 / self.each, at)
            },
          },
        },
      },
    ],
  ]
}
