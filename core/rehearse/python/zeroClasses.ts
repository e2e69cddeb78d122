import { Callable } from '../cpp/values.ts'
import { invoke } from './attributes.ts'
import { type Named, Native, nativeClass, type PythonBoard, property } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asIndex, asNumber, Float, isTrue, type Py, type PyClass, PyFunction, PyTuple } from './values.ts'

/** Microseconds after which an echo is no longer waited for, and centimetres that sound goes to and fro in one. */
const ECHO_TIMEOUT = 40_000
const TO_AND_FRO = 0.0343 / 2
/** Pulses of figures: shortest and longest where a program says nothing, in seconds, and how often a second. */
const SHORTEST = 0.001
const LONGEST = 0.002
const FIGURE_HERTZ = 50

/** Classes by which programs of single-board computers speak of what hangs on their pins, as their documentation has them. */
export function zeroClasses(board: PythonBoard, calls: PinCalls): [string, PyClass][] {
  const { hardware, machine } = board
  const { wait, arg, pinFrom, apply, write, read, pulse } = calls
  const out = (self: Native, on: boolean): null => {
    self.on = on
    self.attrs.set('_round', (self.attrs.get('_round') ?? 0) + 1)
    return write(self, on)
  }
  const setShare = (self: Native, share: number): null => {
    self.duty = Math.min(1, Math.max(0, share))
    return pulse(self)
  }
  const pinClass = nativeClass('Pin', () => undefined, {})
  const made = (pin: Py, mode: 'out' | 'in'): Native => {
    const one = new Native(pinClass)
    one.pin = pinFrom(pin)
    one.settled.mode = mode
    apply(one)
    return one
  }
  /** Turns something on and off, `n` times or for ever, beside the program or before it goes on. */
  const blinking =
    (turn: (self: Native, on: boolean) => void) =>
    (self: Native, args: readonly Py[], names: Named): null => {
      const [on, off] = [asNumber(arg(args, names, 0, 'on_time') ?? 1), asNumber(arg(args, names, 1, 'off_time') ?? 1)]
      const times = names.get('n') ?? null
      const isBeside = isTrue(names.get('background') ?? true)
      let left = times === null ? Number.POSITIVE_INFINITY : asIndex(times)
      if (!isBeside) {
        for (; left > 0; left -= 1) {
          turn(self, true)
          wait(on * 1e6)
          turn(self, false)
          wait(off * 1e6)
        }
        return null
      }
      turn(self, true)
      let isOn = true
      const round = self.attrs.get('_round')
      let own = round
      const next = (): void => {
        // Somebody has switched it since.
        if (self.attrs.get('_round') !== own) return
        isOn = !isOn
        if (!isOn) left -= 1
        if (isOn && left <= 0) return
        turn(self, isOn)
        own = self.attrs.get('_round')
        board.later((isOn ? on : off) * 1e6, next)
      }
      board.later(on * 1e6, next)
      return null
    }
  const lamp = {
    on: (self: Native) => out(self, true),
    off: (self: Native) => out(self, false),
    toggle: (self: Native) => out(self, !self.on),
    close: () => null,
  }
  const startOut = (self: Native, args: readonly Py[]): void => {
    self.pin = pinFrom(args[0])
    self.settled.mode = 'out'
    apply(self)
  }
  const LED = nativeClass('LED', startOut, {
    ...lamp,
    blink: blinking(out),
  })
  property(
    LED,
    'value',
    (self) => (self.on ? 1 : 0),
    (self, value) => void out(self, isTrue(value)),
  )
  property(LED, 'is_lit', (self) => self.on)
  const PWMLED = nativeClass('PWMLED', startOut, {
    on: (self) => setShare(self, 1),
    off: (self) => setShare(self, 0),
    blink: blinking((self, on) => void setShare(self, on ? 1 : 0)),
    close: () => null,
  })
  property(
    PWMLED,
    'value',
    (self) => new Float(self.duty),
    (self, value) => {
      self.hertz = 100
      self.duty = asNumber(value)
      pulse(self)
    },
  )
  const Button = nativeClass(
    'Button',
    (self, args, names) => {
      self.pin = pinFrom(args[0])
      const up = names.get('pull_up')
      self.settled = { mode: 'in', pull: up === undefined || isTrue(up) ? 'up' : up === null ? '' : 'down' }
      self.on = self.settled.pull !== 'down'
      apply(self)
    },
    {
      wait_for_press: (self) => {
        while (read(self) === (self.on ? 1 : 0)) wait(1000)
        return null
      },
      wait_for_release: (self) => {
        while (read(self) !== (self.on ? 1 : 0)) wait(1000)
        return null
      },
      close: () => null,
    },
  )
  property(Button, 'is_pressed', (self) => read(self) === (self.on ? 0 : 1))
  property(Button, 'value', (self) => (read(self) === (self.on ? 0 : 1) ? 1 : 0))
  const whenButton = (name: string): void =>
    property(
      Button,
      name,
      (self) => self.attrs.get(`_${name}`) ?? null,
      (self, handler) => {
        self.attrs.set(`_${name}`, handler)
        // One watch serves both: which of them is meant, the level tells.
        const turned = (): Py => {
          const isPressed = hardware.read(self.pin, machine.at) !== self.on
          const wanted = self.attrs.get(isPressed ? '_when_pressed' : '_when_released')
          // A handler that asks for something is given the button.
          return wanted ? invoke(wanted, wanted instanceof PyFunction && wanted.wants > 0 ? [self] : []) : null
        }
        hardware.onEdge(self.pin, 'change', new Callable(name, turned), machine.at)
      },
    )
  whenButton('when_pressed')
  whenButton('when_released')
  const RGBLED = nativeClass(
    'RGBLED',
    (self, args, names) => {
      const legs = ['red', 'green', 'blue'].map((name, at) => made(arg(args, names, at, name), 'out'))
      self.attrs.set('_legs', legs).set('_turned', !isTrue(names.get('active_high') ?? true))
    },
    { on: (self) => coloured(self, [1, 1, 1]), off: (self) => coloured(self, [0, 0, 0]), close: () => null },
  )
  function coloured(self: Native, shares: readonly number[]): null {
    self.attrs.set('_shares', shares)
    for (const [at, leg] of (self.attrs.get('_legs') as Native[]).entries())
      setShare(leg, self.attrs.get('_turned') ? 1 - shares[at]! : shares[at]!)
    return null
  }
  for (const name of ['color', 'value'])
    property(
      RGBLED,
      name,
      (self) => new PyTuple((self.attrs.get('_shares') ?? [0, 0, 0]).map((share: number) => new Float(share))),
      (self, value) => void coloured(self, (value as PyTuple).items.map(asNumber)),
    )
  /** A figure: its range of pulses, and of what programs say of it. */
  const startFigure =
    (least: number, most: number, angled: boolean) =>
    (self: Native, args: readonly Py[], names: Named): void => {
      startOut(self, args)
      self.hertz = FIGURE_HERTZ
      const seconds = (name: string, usual: number): number => asNumber(names.get(name) ?? new Float(usual))
      self.attrs
        .set('_pulse', [seconds('min_pulse_width', SHORTEST), seconds('max_pulse_width', LONGEST)])
        .set('_range', angled ? [seconds('min_angle', least), seconds('max_angle', most)] : [least, most])
      const [from, to] = self.attrs.get('_range')
      const first = names.get(angled ? 'initial_angle' : 'initial_value')
      if (first !== null) figure(self, first === undefined ? (angled ? 0 : (from + to) / 2) : asNumber(first))
    }
  function figure(self: Native, to: number): null {
    const [[short, long], [from, until]] = [self.attrs.get('_pulse'), self.attrs.get('_range')]
    self.attrs.set('_at', to)
    const share = Math.min(1, Math.max(0, (to - from) / (until - from)))
    return setShare(self, (short + share * (long - short)) * FIGURE_HERTZ)
  }
  const moved = {
    min: (self: Native) => figure(self, self.attrs.get('_range')[0]),
    max: (self: Native) => figure(self, self.attrs.get('_range')[1]),
    mid: (self: Native) => figure(self, (self.attrs.get('_range')[0] + self.attrs.get('_range')[1]) / 2),
    detach: (self: Native) => write(self, false),
    close: () => null,
  }
  const position = (cls: PyClass, name: string): void =>
    property(
      cls,
      name,
      (self) => new Float(self.attrs.get('_at') ?? 0),
      (self, value) => void (value === null ? write(self, false) : figure(self, asNumber(value))),
    )
  const Servo = nativeClass('Servo', startFigure(-1, 1, false), moved)
  position(Servo, 'value')
  const AngularServo = nativeClass('AngularServo', startFigure(-90, 90, true), moved)
  position(AngularServo, 'angle')
  /** Forward and backward by two pins of a bridge, as fast as the share says. */
  const turning = (self: Native, share: number): null => {
    const [forward, backward] = self.attrs.get('_legs') as [Native, Native]
    self.attrs.set('_at', share)
    setShare(forward, Math.max(0, share))
    return setShare(backward, Math.max(0, -share))
  }
  const speed = (args: readonly Py[], names: Named): number => asNumber(arg(args, names, 0, 'speed') ?? 1)
  const Motor = nativeClass(
    'Motor',
    (self, args, names) => {
      self.attrs.set('_legs', [
        made(arg(args, names, 0, 'forward'), 'out'),
        made(arg(args, names, 1, 'backward'), 'out'),
      ])
    },
    {
      forward: (self, args, names) => turning(self, speed(args, names)),
      backward: (self, args, names) => turning(self, -speed(args, names)),
      reverse: (self) => turning(self, -(self.attrs.get('_at') ?? 0)),
      stop: (self) => turning(self, 0),
      close: () => null,
    },
  )
  property(
    Motor,
    'value',
    (self) => new Float(self.attrs.get('_at') ?? 0),
    (self, value) => void turning(self, asNumber(value)),
  )
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
  /** Inputs that are on while their line is high, or where `turned` while it is low. */
  const watching = (name: string, is: string, came: string, went: string, turned: boolean): PyClass => {
    const isOn = (self: Native): boolean => (read(self) === 1) !== turned
    const cls = nativeClass(
      name,
      (self, args, names) => {
        self.pin = pinFrom(args[0])
        const up = names.get('pull_up')
        self.settled = { mode: 'in', pull: up === undefined || up === null ? '' : isTrue(up) ? 'up' : 'down' }
        apply(self)
      },
      {
        [`wait_for_${came}`]: (self) => {
          while (!isOn(self)) wait(1000)
          return null
        },
        [`wait_for_no_${came}`]: (self) => {
          while (isOn(self)) wait(1000)
          return null
        },
        close: () => null,
      },
    )
    property(cls, is, isOn)
    property(cls, 'value', (self) => (isOn(self) ? 1 : 0))
    for (const when of [came, went])
      property(
        cls,
        `when_${when}`,
        (self) => self.attrs.get(when) ?? null,
        (self, handler) => {
          self.attrs.set(when, handler)
          const turnedRound = (): Py => {
            const wanted = self.attrs.get((hardware.read(self.pin, machine.at) !== turned) === true ? came : went)
            return wanted ? invoke(wanted, wanted instanceof PyFunction && wanted.wants > 0 ? [self] : []) : null
          }
          hardware.onEdge(self.pin, 'change', new Callable(when, turnedRound), machine.at)
        },
      )
    return cls
  }
  return [
    ['LED', LED],
    ['PWMLED', PWMLED],
    ['PWMOutputDevice', PWMLED],
    ['RGBLED', RGBLED],
    ['Buzzer', LED],
    ['DigitalOutputDevice', LED],
    ['OutputDevice', LED],
    ['Button', Button],
    ['Servo', Servo],
    ['AngularServo', AngularServo],
    ['Motor', Motor],
    ['DistanceSensor', DistanceSensor],
    ['MotionSensor', watching('MotionSensor', 'motion_detected', 'motion', 'no_motion', false)],
    ['LineSensor', watching('LineSensor', 'line_detected', 'line', 'no_line', true)],
    ['DigitalInputDevice', watching('DigitalInputDevice', 'is_active', 'activated', 'deactivated', false)],
  ]
}
