import { calendarDay, daysSinceEpoch } from '../../base/calendar.ts'
import type { StartCause } from '../platform/hardware.ts'
import { fn, type GivenModule, module, type Native, nativeClass, type PythonBoard } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asNumber, isTrue, listed } from './protocols.ts'
import { type Py, PyBytes, PyModule, PyObject, PyTuple } from './values.ts'

/** Numbers of MicroPython for why a program began, and for what woke the board. */
const RESETS: Readonly<Record<StartCause, number>> = { power: 1, restart: 5, watchdog: 3, time: 4, pin: 4 }
const WAKES: Readonly<Record<StartCause, number>> = { power: 0, restart: 0, watchdog: 0, time: 4, pin: 2 }
const RESET_NAMES = { PWRON_RESET: 1, HARD_RESET: 2, WDT_RESET: 3, DEEPSLEEP_RESET: 4, SOFT_RESET: 5 }
const WAKE_NAMES = { PIN_WAKE: 2, EXT0_WAKE: 2, EXT1_WAKE: 3, TIMER_WAKE: 4, TOUCHPAD_WAKE: 5, ULP_WAKE: 6 }

/** Seconds of a day; the first of 1970 was a Thursday, counted from Monday as nought. */
const DAY = 86_400
const THURSDAY = 3

/** Bytes of memory that outlasts a sleep. */
const LASTING = 2048

/** Sleeping, waking and beginning anew, as the firmwares of Python have them; what they keep outlasts each start. */
export function sleepModules(
  { hardware, machine }: PythonBoard,
  { pinFrom, bytesOf }: PinCalls,
): { readonly machine: [string, Py][]; readonly others: readonly GivenModule[] } {
  const { sleep } = hardware
  const none = (name: string, run: (args: readonly Py[]) => void): [string, Py] => [
    name,
    fn(name, (args) => {
      run(args)
      return null
    }),
  ]
  const whenMs = ([ms]: readonly Py[]): void =>
    sleep.after(ms === undefined || ms === null ? undefined : asNumber(ms) * 1000)
  let memory = new PyBytes([], false)
  const lasting = new PyBytes(new Array(LASTING).fill(0), true)
  const guard = nativeClass(
    'WDT',
    (_self, args, named) => sleep.guard(asNumber(named.get('timeout') ?? args[1] ?? 5000) * 1000),
    {
      feed: () => {
        sleep.feed()
        return null
      },
    },
  )
  /** Seconds since 1970 at which power came, by the clock; until it is set, the first of 2026. */
  let began = daysSinceEpoch({ year: 2026, month: 1, day: 1 }) * DAY
  const clock = nativeClass('RTC', () => undefined, {
    memory: (_self, [bytes]) => {
      if (bytes === undefined) return memory
      memory = new PyBytes(bytesOf(bytes), false)
      return null
    },
    datetime: (_self, [to]) => {
      if (to !== undefined) {
        const [year, month, day, , hours = 0, minutes = 0, seconds = 0] = listed(to).map(asNumber)
        const days = daysSinceEpoch({ year: year!, month: month!, day: day! })
        began = days * DAY + hours * 3600 + minutes * 60 + seconds - machine.now / 1e6
        return null
      }
      const all = Math.floor(began + machine.now / 1e6)
      const days = Math.floor(all / DAY)
      const { year, month, day } = calendarDay(days)
      const rest = all - days * DAY
      return new PyTuple([
        ...[year, month, day, (days + THURSDAY) % 7],
        ...[Math.floor(rest / 3600), Math.floor(rest / 60) % 60, rest % 60, 0],
      ])
    },
    init: () => null,
  })
  const named = (names: Readonly<Record<string, number>>): [string, Py][] => Object.entries(names)
  const micro: [string, Py][] = [
    none('deepsleep', (args) => {
      if (args.length > 0) whenMs(args)
      sleep.deep(machine.at)
    }),
    none('lightsleep', (args) => {
      whenMs(args)
      sleep.light(machine.at, { served: true })
      sleep.after(undefined)
    }),
    none('reset', () => sleep.restart('restart')),
    none('soft_reset', () => sleep.restart('restart')),
    ['reset_cause', fn('reset_cause', () => RESETS[sleep.cause])],
    ['wake_reason', fn('wake_reason', () => (sleep.cause === 'pin' ? sleep.wokenAs : undefined) ?? WAKES[sleep.cause])],
    ['WDT', guard],
    ['RTC', clock],
    ...named(RESET_NAMES),
    ...named(WAKE_NAMES),
  ]
  /** Each of these takes the place of what woke before. */
  const wakeOn = (pins: readonly Py[], level: Py, as: number): null => {
    const high = isTrue(level)
    sleep.onPins(undefined)
    sleep.onPins({ numbers: pins.map((pin) => pinFrom(pin)), high, all: as === WAKE_NAMES.EXT1_WAKE && !high, as })
    return null
  }
  const esp: GivenModule = module('esp32', [
    [
      'wake_on_ext0',
      fn('wake_on_ext0', (args, given) =>
        wakeOn([given.get('pin') ?? args[0]], given.get('level') ?? args[1], WAKE_NAMES.EXT0_WAKE),
      ),
    ],
    [
      'wake_on_ext1',
      fn('wake_on_ext1', (args, given) =>
        wakeOn(listed(given.get('pins') ?? args[0]), given.get('level') ?? args[1], WAKE_NAMES.EXT1_WAKE),
      ),
    ],
    ['WAKEUP_ALL_LOW', false],
    ['WAKEUP_ANY_HIGH', true],
  ])
  return { machine: micro, others: [esp, ['alarm', alarms]] }

  /** Alarms of CircuitPython. */
  function alarms(): PyModule {
    const dues = new Map<PyObject, { readonly moment?: number; readonly pin?: number; readonly high?: boolean }>()
    const timeAlarm = nativeClass(
      'TimeAlarm',
      (self: Native, args, given) => {
        const at = given.get('monotonic_time') ?? args[0]
        const epoch = given.get('epoch_time')
        // Seconds of the program's own clock, or of the one that goes on.
        dues.set(self, { moment: asNumber(at ?? epoch) * 1e6 + (epoch === undefined ? machine.born : 0) })
      },
      {},
    )
    const pinAlarm = nativeClass(
      'PinAlarm',
      (self: Native, args, given) => {
        const number = pinFrom(given.get('pin') ?? args[0])
        if (isTrue(given.get('pull') ?? false))
          hardware.setting(number, isTrue(given.get('value') ?? false) ? 'pull-down' : 'pull-up', machine.at)
        dues.set(self, { pin: number, high: isTrue(given.get('value') ?? args[1]) })
      },
      {},
    )
    const set = (args: readonly Py[]): void => {
      sleep.after(undefined)
      sleep.onPins(undefined)
      for (const one of args) {
        const due = one instanceof PyObject ? dues.get(one) : undefined
        if (due?.moment !== undefined) sleep.after(Math.max(0, due.moment - machine.now))
        if (due?.pin !== undefined) sleep.onPins({ numbers: [due.pin], high: due.high === true })
      }
    }
    const wokenBy = sleep.cause === 'time' ? timeAlarm : sleep.cause === 'pin' ? pinAlarm : undefined
    return new PyModule(
      'alarm',
      new Map<string, Py>([
        ['time', new PyModule('alarm.time', new Map([['TimeAlarm', timeAlarm]]))],
        ['pin', new PyModule('alarm.pin', new Map([['PinAlarm', pinAlarm]]))],
        ['wake_alarm', wokenBy ? new PyObject(wokenBy) : null],
        ['sleep_memory', lasting],
        none('exit_and_deep_sleep_until_alarms', (args) => {
          set(args)
          sleep.deep(machine.at)
        }),
        none('light_sleep_until_alarms', (args) => {
          set(args)
          sleep.light(machine.at)
        }),
      ]),
    )
  }
}
