import { type Named, type Native, nativeClass, property, reading } from '../native.ts'
import type { PinCalls } from '../pinCalls.ts'
import { asNumber, isTrue } from '../protocols.ts'
import { Float, type Py, type PyClass, PyTuple } from '../values.ts'
import type { Step, ZeroKit } from './kit.ts'

/** Steps a second of what fades. */
const FADE_STEPS = 25

/** What is on or off, or on to a share: lamps, buzzers, relays, lamps of three colours. */
export function lampClasses(calls: PinCalls, kit: ZeroKit): [string, PyClass][] {
  const { arg } = calls
  const { startOut, made, setOn, setShare, halt, play, seconds } = kit
  const switched = (self: Native, on: boolean): null => {
    halt(self)
    return setOn(self, on)
  }
  const blink = (self: Native, args: readonly Py[], names: Named): null =>
    play(
      self,
      [
        [1, seconds(args, names, 0, 'on_time', 1)],
        [0, seconds(args, names, 1, 'off_time', 1)],
      ],
      names,
      (value) => setOn(self, value === 1),
    )
  const lamp = (name: string, flash: string): PyClass => {
    const cls = nativeClass(
      name,
      (self, args, names) => {
        startOut(self, args, names)
        const first = arg(args, names, 2, 'initial_value') ?? false
        if (isTrue(first) || kit.isTurned(self)) setOn(self, isTrue(first))
      },
      {
        on: (self) => switched(self, true),
        off: (self) => switched(self, false),
        toggle: (self) => switched(self, !self.on),
        [flash]: blink,
        close: () => null,
      },
      {},
      ['on', 'off', 'toggle'],
    )
    property(
      cls,
      'value',
      (self) => (self.on ? 1 : 0),
      (self, value) => void switched(self, isTrue(value)),
      reading,
    )
    for (const is of ['is_lit', 'is_active']) property(cls, is, (self) => self.on, undefined, reading)
    return cls
  }

  /** Up, on, down and off again; every time in seconds. */
  const fades = (on: number, off: number, rise: number, fall: number): Step[] => {
    const ramp = (long: number): number[] =>
      Array.from({ length: Math.floor(FADE_STEPS * long) }, (_, at) => at / FADE_STEPS / long)
    return [
      ...ramp(rise).map((share): Step => [share, 1 / FADE_STEPS]),
      [1, on],
      ...ramp(fall).map((share): Step => [1 - share, 1 / FADE_STEPS]),
      [0, off],
    ]
  }
  /** `blink` and `pulse` of something that `set` brings to a share. */
  const fading = (set: (self: Native, share: number, names: Named) => void) => ({
    blink: (self: Native, args: readonly Py[], names: Named) =>
      play(
        self,
        fades(
          seconds(args, names, 0, 'on_time', 1),
          seconds(args, names, 1, 'off_time', 1),
          seconds(args, names, 2, 'fade_in_time', 0),
          seconds(args, names, 3, 'fade_out_time', 0),
        ),
        names,
        (value) => set(self, value, names),
      ),
    pulse: (self: Native, args: readonly Py[], names: Named) =>
      play(
        self,
        fades(0, 0, seconds(args, names, 0, 'fade_in_time', 1), seconds(args, names, 1, 'fade_out_time', 1)),
        names,
        (value) => set(self, value, names),
      ),
  })

  const dim = (self: Native, share: number): null => {
    self.attrs.set('_share', share)
    return setShare(self, share)
  }
  const shareOf = (self: Native): number => self.attrs.get('_share') ?? 0
  const dimmed = (self: Native, share: number): null => {
    halt(self)
    return dim(self, share)
  }
  const PWMLED = nativeClass(
    'PWMLED',
    (self, args, names) => {
      startOut(self, args, names)
      self.hertz = asNumber(arg(args, names, 3, 'frequency') ?? 100)
      const first = asNumber(arg(args, names, 2, 'initial_value') ?? 0)
      if (first > 0 || kit.isTurned(self)) dim(self, first)
    },
    {
      on: (self) => dimmed(self, 1),
      off: (self) => dimmed(self, 0),
      toggle: (self) => dimmed(self, 1 - shareOf(self)),
      ...fading(dim),
      close: () => null,
    },
  )
  property(
    PWMLED,
    'value',
    (self) => new Float(shareOf(self)),
    (self, value) => void dimmed(self, asNumber(value)),
  )
  for (const is of ['is_lit', 'is_active']) property(PWMLED, is, (self) => shareOf(self) > 0)

  const colour = (self: Native, shares: readonly number[]): null => {
    self.attrs.set('_shares', shares)
    for (const [at, leg] of (self.attrs.get('_legs') as Native[]).entries()) setShare(leg, shares[at]!)
    return null
  }
  const coloured = (self: Native, shares: readonly number[]): null => {
    halt(self)
    return colour(self, shares)
  }
  const sharesOf = (value: Py): number[] => (value as PyTuple).items.map(asNumber)
  const between = (self: Native, share: number, names: Named): void => {
    const [from, to] = [names.get('off_color'), names.get('on_color')]
    const [dark, bright] = [from ? sharesOf(from) : [0, 0, 0], to ? sharesOf(to) : [1, 1, 1]]
    colour(
      self,
      dark.map((one, at) => one + share * (bright[at]! - one)),
    )
  }
  const RGBLED = nativeClass(
    'RGBLED',
    (self, args, names) => {
      const legs = ['red', 'green', 'blue'].map((name, at) => made(arg(args, names, at, name), 'out'))
      const isTurned = !isTrue(arg(args, names, 3, 'active_high') ?? true)
      for (const leg of legs) leg.attrs.set('_turned', isTurned)
      self.attrs.set('_legs', legs)
      const first = arg(args, names, 4, 'initial_value')
      if (first || isTurned) colour(self, first ? sharesOf(first) : [0, 0, 0])
    },
    {
      on: (self) => coloured(self, [1, 1, 1]),
      off: (self) => coloured(self, [0, 0, 0]),
      ...fading(between),
      close: () => null,
    },
  )
  for (const name of ['color', 'value'])
    property(
      RGBLED,
      name,
      (self) => new PyTuple((self.attrs.get('_shares') ?? [0, 0, 0]).map((share: number) => new Float(share))),
      (self, value) => void coloured(self, sharesOf(value)),
    )
  const LED = lamp('LED', 'blink')
  return [
    ['LED', LED],
    ['DigitalOutputDevice', LED],
    ['OutputDevice', LED],
    ['Buzzer', lamp('Buzzer', 'beep')],
    ['PWMLED', PWMLED],
    ['PWMOutputDevice', PWMLED],
    ['RGBLED', RGBLED],
  ]
}
