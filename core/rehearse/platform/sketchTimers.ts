import type { NativeClass, NativeFunction } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import { Callable, Ptr, type Value } from '../cpp/values.ts'
import type { Hardware } from './hardware.ts'

/** Ticks a second of the clock from which timers of the ESP32 are divided. */
const ESP_TICKS = 80_000_000

/** A timer of the chip: how often it ticks, and what it does at its alarm. */
interface ChipTimer {
  hertz: number
  /** Ticks from one alarm to the next. */
  ticks: number
  repeats: boolean
  round: number
  call: (() => void) | undefined
}

/**
 * Timers of the ESP32 as both versions of its core document them: `timerBegin` takes a number, a divider and a direction,
 * or ticks a second alone.
 */
export function chipTimers(
  hardware: Hardware,
  { int }: Readonly<Record<'int', Type>>,
): { readonly functions: ReadonlyMap<string, NativeFunction>; readonly types: readonly string[] } {
  const functions = new Map<string, NativeFunction>()
  const made: ChipTimer[] = []
  const timer = (value: Value): ChipTimer | undefined =>
    value instanceof Ptr ? made[Number(value.base[value.at])] : undefined
  const add = (name: string, returns: Type, run: (args: readonly Value[]) => Value): void => {
    functions.set(name, { returns, least: 1, most: 4, run: (_, args) => run(args) })
  }
  const start = (one: ChipTimer): void => {
    one.round += 1
    const { round } = one
    const tick = (): void => {
      if (one.round !== round) return
      if (one.repeats) hardware.later((one.ticks / one.hertz) * 1e6, tick)
      one.call?.()
    }
    hardware.later((one.ticks / one.hertz) * 1e6, tick)
  }
  add('timerBegin', { is: 'pointer', to: int }, (args) => {
    const hertz = args.length === 1 ? Number(args[0]) : ESP_TICKS / Math.max(1, Number(args[1]))
    made.push({ hertz, ticks: hertz, repeats: true, round: 0, call: undefined })
    return new Ptr([made.length - 1], 0)
  })
  add('timerAttachInterrupt', VOID, ([of, handler]) => {
    const one = timer(of)
    if (one) one.call = handler instanceof Callable ? () => void handler.call([]) : undefined
  })
  add('timerAlarmWrite', VOID, ([of, ticks, repeats]) => {
    const one = timer(of)
    if (one) Object.assign(one, { ticks: Number(ticks), repeats: Number(repeats) !== 0 })
  })
  add('timerAlarm', VOID, ([of, ticks, repeats]) => {
    const one = timer(of)
    if (!one) return
    Object.assign(one, { ticks: Number(ticks), repeats: Number(repeats) !== 0 })
    start(one)
  })
  for (const name of ['timerAlarmEnable', 'timerStart', 'timerRestart'])
    add(name, VOID, ([of]) => {
      const one = timer(of)
      if (one) start(one)
    })
  for (const name of ['timerAlarmDisable', 'timerStop', 'timerEnd', 'timerDetachInterrupt'])
    add(name, VOID, ([of]) => {
      const one = timer(of)
      if (one) one.round += 1
    })
  return { functions, types: ['hw_timer_t', 'portMUX_TYPE'] }
}

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
