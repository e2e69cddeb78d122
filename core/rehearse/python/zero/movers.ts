import { type Named, Native, nativeClass, property } from '../native.ts'
import type { PinCalls } from '../pinCalls.ts'
import { asNumber } from '../protocols.ts'
import { Float, type Py, type PyClass, PyTuple } from '../values.ts'
import type { ZeroKit } from './kit.ts'

/** Pulses of figures: shortest and longest where a program says nothing, in seconds, and how often a second. */
const SHORTEST = 0.001
const LONGEST = 0.002
const FIGURE_HERTZ = 50

/** What moves: figures, motors on a bridge, and two of them under one vehicle. */
export function moverClasses(calls: PinCalls, { startOut, made, setShare }: ZeroKit): [string, PyClass][] {
  const { arg, write } = calls
  /** Brings a figure to a value of its range. */
  const figure = (self: Native, to: number): null => {
    const [[short, long], [from, until]] = [self.attrs.get('_pulse'), self.attrs.get('_range')]
    self.attrs.set('_at', to)
    const share = Math.min(1, Math.max(0, (to - from) / (until - from)))
    return setShare(self, (short + share * (long - short)) * FIGURE_HERTZ)
  }
  /** A figure: its range of pulses, and of what programs say of it. */
  const startFigure =
    (least: number, most: number, angled: boolean) =>
    (self: Native, args: readonly Py[], names: Named): void => {
      startOut(self, [args[0]], names)
      self.hertz = FIGURE_HERTZ
      const named = (name: string, usual: number): number => asNumber(names.get(name) ?? new Float(usual))
      self.attrs
        .set('_pulse', [named('min_pulse_width', SHORTEST), named('max_pulse_width', LONGEST)])
        .set('_range', angled ? [named('min_angle', least), named('max_angle', most)] : [least, most])
      const [from, to] = self.attrs.get('_range')
      const first = arg(args, names, 1, angled ? 'initial_angle' : 'initial_value')
      if (first !== null) figure(self, first === undefined ? (angled ? 0 : (from + to) / 2) : asNumber(first))
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

  const bridge = (self: Native, forward: Py, backward: Py): Native => {
    self.attrs.set('_legs', [made(forward, 'out'), made(backward, 'out')])
    return self
  }
  /** Forward and backward by two pins of a bridge, as fast as the share says. */
  const turning = (self: Native, share: number): null => {
    const [forward, backward] = self.attrs.get('_legs') as [Native, Native]
    self.attrs.set('_at', share)
    setShare(forward, Math.max(0, share))
    return setShare(backward, Math.max(0, -share))
  }
  const shareOf = (self: Native): number => self.attrs.get('_at') ?? 0
  const speed = (args: readonly Py[], names: Named): number => asNumber(arg(args, names, 0, 'speed') ?? 1)
  const Motor = nativeClass(
    'Motor',
    (self, args, names) => void bridge(self, arg(args, names, 0, 'forward'), arg(args, names, 1, 'backward')),
    {
      forward: (self, args, names) => turning(self, speed(args, names)),
      backward: (self, args, names) => turning(self, -speed(args, names)),
      reverse: (self) => turning(self, -shareOf(self)),
      stop: (self) => turning(self, 0),
      close: () => null,
    },
  )
  property(
    Motor,
    'value',
    (self) => new Float(shareOf(self)),
    (self, value) => void turning(self, asNumber(value)),
  )

  const driving =
    (left: number, right: number) =>
    (self: Native, args: readonly Py[], names: Named): null => {
      const [one, other] = self.attrs.get('_motors') as [Native, Native]
      const fast = speed(args, names)
      turning(one, left * fast)
      return turning(other, right * fast)
    }
  const Robot = nativeClass(
    'Robot',
    (self, args, names) => {
      const motors = ['left', 'right'].map((name, at) => {
        const given = arg(args, names, at, name)
        return given instanceof PyTuple ? bridge(new Native(Motor), given.items[0], given.items[1]) : given
      })
      self.attrs.set('_motors', motors)
    },
    {
      forward: driving(1, 1),
      backward: driving(-1, -1),
      left: driving(-1, 1),
      right: driving(1, -1),
      stop: driving(0, 0),
      reverse: (self) => {
        for (const one of self.attrs.get('_motors')) turning(one, -shareOf(one))
        return null
      },
      close: () => null,
    },
  )
  return [
    ['Servo', Servo],
    ['AngularServo', AngularServo],
    ['Motor', Motor],
    ['Robot', Robot],
  ]
}
