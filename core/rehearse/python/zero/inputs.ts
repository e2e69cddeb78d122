import { Callable } from '../../cpp/values.ts'
import { type Named, type Native, nativeClass, type PythonBoard, property, reading } from '../native.ts'
import type { PinCalls } from '../pinCalls.ts'
import { asNumber, isTrue } from '../protocols.ts'
import { Float, type Py, type PyClass } from '../values.ts'
import { handle, type ZeroKit } from './kit.ts'

/** Microseconds after which an echo is no longer waited for, and centimetres that sound goes to and fro in one. */
const ECHO_TIMEOUT = 40_000
const TO_AND_FRO = 0.0343 / 2
/** Microseconds between two looks at a line that is waited for. */
const LOOK = 1000

/** Names by which a class says that something is on, has come and has gone. */
interface Words {
  readonly is: string
  readonly when: readonly [on: string, off: string]
  readonly wait: readonly [on: string, off: string]
}

/** What listens: buttons, whatever is on or off, distances by sound. */
export function inputClasses(board: PythonBoard, calls: PinCalls, { made }: ZeroKit): [string, PyClass][] {
  const { hardware, machine } = board
  const { wait, arg, pinFrom, apply, read } = calls
  /** True where a line is low while its thing is on. */
  const isTurned = (self: Native): boolean => self.attrs.get('_turned')
  const isOn = (self: Native): boolean => (read(self) === 1) !== isTurned(self)
  const isOnNow = (self: Native): boolean => hardware.read(self.pin, machine.at) !== isTurned(self)
  /** Waits until something is on or off, or a time in seconds is over. */
  const until =
    (on: boolean) =>
    (self: Native, args: readonly Py[], names: Named): Py => {
      const most = arg(args, names, 0, 'timeout') ?? null
      const end = most === null ? Number.POSITIVE_INFINITY : machine.now + asNumber(most) * 1e6
      while (isOn(self) !== on) {
        if (machine.now >= end) return false
        wait(LOOK)
      }
      return true
    }
  /** Calls what is to be done while something stays on, once or again and again. */
  const holding = (self: Native): void => {
    const own = (self.attrs.get('_times') ?? 0) + 1
    self.attrs.set('_times', own)
    const again = (): void => {
      if (self.attrs.get('_times') !== own || !isOnNow(self)) return
      handle(self.attrs.get('_held'), self)
      if (self.attrs.get('_repeats')) board.later(self.attrs.get('_hold') * 1e6, again)
    }
    board.later(self.attrs.get('_hold') * 1e6, again)
  }
  const input = (name: string, { is, when, wait }: Words, start: (self: Native, pull: Py) => void): PyClass => {
    const cls = nativeClass(
      name,
      (self, args, names) => {
        self.pin = pinFrom(args[0])
        start(self, arg(args, names, 1, 'pull_up'))
        self.attrs
          .set('_hold', asNumber(names.get('hold_time') ?? 1))
          .set('_repeats', isTrue(names.get('hold_repeat') ?? false))
        apply(self)
      },
      { [`wait_for_${wait[0]}`]: until(true), [`wait_for_${wait[1]}`]: until(false), close: () => null },
    )
    property(cls, is, isOn, undefined, reading)
    property(cls, 'value', (self) => (isOn(self) ? 1 : 0), undefined, reading)
    const handler = (word: string, key: string): void =>
      property(
        cls,
        `when_${word}`,
        (self) => self.attrs.get(key) ?? null,
        (self, value) => {
          self.attrs.set(key, value)
          // One watch serves all: which of them is meant, the level tells.
          const turned = (): Py => {
            const on = isOnNow(self)
            if (on && self.attrs.get('_held')) holding(self)
            return handle(self.attrs.get(on ? '_came' : '_went'), self)
          }
          hardware.onEdge(self.pin, 'change', new Callable(`when_${word}`, turned), machine.at)
        },
      )
    handler(when[0], '_came')
    handler(when[1], '_went')
    handler('held', '_held')
    return cls
  }
  const Button = input(
    'Button',
    { is: 'is_pressed', when: ['pressed', 'released'], wait: ['press', 'release'] },
    (self, pull) => {
      self.settled = { mode: 'in', pull: pull === undefined || isTrue(pull) ? 'up' : pull === null ? '' : 'down' }
      self.attrs.set('_turned', self.settled.pull !== 'down')
    },
  )
  const watching = (name: string, words: Words, turned: boolean): [string, PyClass] => [
    name,
    input(name, words, (self, pull) => {
      const given = pull ?? null
      self.settled = { mode: 'in', pull: given === null ? '' : isTrue(given) ? 'up' : 'down' }
      self.attrs.set('_turned', given === null ? turned : isTrue(given) !== turned)
    }),
  ]
  const seen = (one: string, is: string): Words => ({ is, when: [one, `no_${one}`], wait: [one, `no_${one}`] })

  const DistanceSensor = nativeClass(
    'DistanceSensor',
    (self, args, names) => {
      self.attrs
        .set('_echo', made(arg(args, names, 0, 'echo'), 'in'))
        .set('_trigger', made(arg(args, names, 1, 'trigger'), 'out'))
        .set('_most', asNumber(names.get('max_distance') ?? 1))
    },
    { close: () => null },
  )
  property(DistanceSensor, 'distance', (self) => {
    const [echo, trigger, most] = ['_echo', '_trigger', '_most'].map((name) => self.attrs.get(name))
    hardware.write(trigger.pin, true, machine.at)
    wait(10)
    hardware.write(trigger.pin, false, machine.at)
    const micros = hardware.pulseIn(echo.pin, true, ECHO_TIMEOUT, machine.at)
    return new Float(micros === 0 ? most : Math.min(most, Number(((micros * TO_AND_FRO) / 100).toPrecision(4))))
  })
  return [
    ['Button', Button],
    watching('MotionSensor', seen('motion', 'motion_detected'), false),
    watching('LineSensor', seen('line', 'line_detected'), true),
    watching(
      'DigitalInputDevice',
      { is: 'is_active', when: ['activated', 'deactivated'], wait: ['active', 'inactive'] },
      false,
    ),
    ['DistanceSensor', DistanceSensor],
  ]
}
