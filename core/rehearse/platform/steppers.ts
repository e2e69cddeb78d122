import type { NativeClass, NativeFunction } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import type { Hardware } from './hardware.ts'

/** How two, four and eight phases of the coils' pins follow each other, the first pin the lowest bit. */
const TWO_PINS = [0b10, 0b11, 0b01, 0b00]
const FULL_STEPS = [0b0101, 0b0110, 0b1010, 0b1001]
const HALF_STEPS = [0b0001, 0b0101, 0b0100, 0b0110, 0b0010, 0b1010, 0b1000, 0b1001]
/** Kinds of wiring as programs number them. */
const KINDS: Readonly<Record<number, { readonly phases: readonly number[]; readonly pins: number }>> = {
  2: { phases: TWO_PINS, pins: 2 },
  4: { phases: FULL_STEPS, pins: 4 },
  8: { phases: HALF_STEPS, pins: 4 },
}
const DRIVER = 1
/** First interval of a ramp against the one of its formula, by D. Austin, "Generate stepper-motor speed profiles", 2005. */
const FIRST = 0.676
/** Microseconds of a step pulse where the program says none. */
const PULSE = 1

interface Turner {
  pins: number[]
  phases: readonly number[]
  at: number
  enabled: boolean
}

/** Classes that turn a motor by the pins of its coils or by pulses: what comes of it the windings say. */
export function stepperClasses(
  hardware: Hardware,
  now: () => number,
  { types }: { readonly types: ReadonlyMap<string, Type> },
): [string, NativeClass][] {
  const [long, float, bool] = ['long', 'float', 'bool'].map((name) => types.get(name)!) as [Type, Type, Type]
  const int = types.get('int')!
  const put = ({ pins, phases }: Turner, position: number, at: number): void => {
    const mask = phases[((position % phases.length) + phases.length) % phases.length]!
    for (const [bit, pin] of pins.entries()) hardware.write(pin, ((mask >> bit) & 1) === 1, at)
  }
  const outputs = ({ pins }: Turner, at: number): void => {
    for (const pin of pins) hardware.setting(pin, 'out', at)
  }

  interface Plain extends Turner {
    steps: number
    each: number
    last: number
  }
  const plain: NativeClass = {
    params: [int, int, int, int, int],
    make: (args, _, at): Plain => {
      const [steps = 200, ...pins] = args.map(Number)
      const made: Plain = {
        pins,
        phases: pins.length === 2 ? TWO_PINS : FULL_STEPS,
        at: 0,
        enabled: true,
        steps,
        each: 0,
        last: 0,
      }
      outputs(made, at)
      return made
    },
    methods: {
      setSpeed: method([long], VOID, (self: Plain, [rounds = 0]) => {
        self.each = rounds > 0 ? 60e6 / (self.steps * rounds) : 0
      }),
      // It waits until all steps are done.
      step: method([int], VOID, (self: Plain, [steps = 0], at) => {
        for (let left = Math.abs(steps); left > 0; left -= 1) {
          hardware.wait(Math.max(0, self.last + self.each - now()), at)
          self.last = now()
          self.at += Math.sign(steps)
          put(self, ((self.at % self.steps) + self.steps) % self.steps, at)
        }
      }),
      version: method([], int, () => 5),
    },
  }

  interface Ramped extends Turner {
    kind: number
    most: number
    /** Steps a second for each second. */
    gains: number
    /** Steps a second, positive to the right. */
    speed: number
    target: number
    last: number
    pulse: number
    inverted: boolean[]
  }
  const stepOnce = (self: Ramped, way: number, at: number): void => {
    self.at += way
    self.last = now()
    if (self.kind !== DRIVER) {
      put(self, self.at, at)
      return
    }
    const [step, direction] = self.pins as [number, number]
    const [turned = false, low = false] = self.inverted
    hardware.write(direction, way > 0 !== turned, at)
    hardware.write(step, !low, at)
    hardware.wait(self.pulse, at)
    hardware.write(step, low, at)
  }
  /** The speed of the next step: faster as long as what is left is enough to stop in. */
  const ramp = (self: Ramped): void => {
    const left = self.target - self.at
    const speed = Math.abs(self.speed)
    const way = Math.sign(self.speed)
    const toStop = (speed * speed) / (2 * self.gains)
    if (left === 0 && toStop <= 1) self.speed = 0
    else if (speed === 0) self.speed = Math.sign(left) * Math.min(self.most, 1 / (FIRST * Math.sqrt(2 / self.gains)))
    else if (Math.sign(left) !== way || Math.abs(left) <= toStop) {
      const slower = Math.sqrt(Math.max(0, speed * speed - 2 * self.gains))
      self.speed =
        slower < 1 ? (left === 0 ? 0 : Math.sign(left) * Math.min(self.most, Math.sqrt(2 * self.gains))) : way * slower
    } else self.speed = way * Math.min(self.most, Math.sqrt(speed * speed + 2 * self.gains))
  }
  const isDue = (self: Ramped): boolean => self.speed !== 0 && now() - self.last >= 1e6 / Math.abs(self.speed)
  const run = (self: Ramped, at: number): number => {
    if (self.speed === 0) ramp(self)
    if (isDue(self)) {
      stepOnce(self, Math.sign(self.speed), at)
      ramp(self)
    }
    return self.speed !== 0 || self.target !== self.at ? 1 : 0
  }
  /** Runs until it is there; each look takes a moment, as on the board. */
  const runAll = (self: Ramped, at: number): void => {
    while (run(self, at))
      hardware.wait(Math.max(4, self.speed === 0 ? 0 : self.last + 1e6 / Math.abs(self.speed) - now()), at)
  }
  const aim = (self: Ramped, target: number): void => {
    self.target = target
    if (self.speed === 0) ramp(self)
  }
  const runSpeed = (self: Ramped, at: number): number => {
    if (!isDue(self)) return 0
    stepOnce(self, Math.sign(self.speed), at)
    return 1
  }
  const ramped: NativeClass = {
    params: [int, int, int, int, int, bool],
    make: (args, _, at): Ramped => {
      const [kind = 4, ...rest] = args.map(Number)
      const wired = KINDS[kind]
      const count = kind === DRIVER ? 2 : (wired?.pins ?? 4)
      const pins = Array.from({ length: count }, (_one, index) => rest[index] ?? index + 2)
      const made: Ramped = {
        pins,
        phases: wired?.phases ?? FULL_STEPS,
        at: 0,
        enabled: rest[4] !== 0,
        kind,
        most: 1,
        gains: 1,
        speed: 0,
        target: 0,
        last: 0,
        pulse: PULSE,
        inverted: [],
      }
      if (made.enabled) outputs(made, at)
      return made
    },
    methods: {
      setMaxSpeed: method([float], VOID, (self: Ramped, [most = 1]) => {
        self.most = Math.abs(most)
      }),
      maxSpeed: method([], float, (self: Ramped) => self.most),
      setAcceleration: method([float], VOID, (self: Ramped, [gains = 1]) => {
        if (gains !== 0) self.gains = Math.abs(gains)
      }),
      setSpeed: method([float], VOID, (self: Ramped, [speed = 0]) => {
        self.speed = Math.max(-self.most, Math.min(self.most, speed))
      }),
      speed: method([], float, (self: Ramped) => self.speed),
      moveTo: method([long], VOID, (self: Ramped, [target = 0]) => aim(self, target)),
      move: method([long], VOID, (self: Ramped, [by = 0]) => aim(self, self.at + by)),
      run: method([], bool, (self: Ramped, _, at) => run(self, at)),
      runSpeed: method([], bool, (self: Ramped, _, at) => runSpeed(self, at)),
      runSpeedToPosition: method([], bool, (self: Ramped, _, at) => {
        if (self.target === self.at) return 0
        self.speed = Math.sign(self.target - self.at) * Math.abs(self.speed)
        return runSpeed(self, at)
      }),
      runToPosition: method([], VOID, (self: Ramped, _, at) => runAll(self, at)),
      runToNewPosition: method([long], VOID, (self: Ramped, [target = 0], at) => {
        aim(self, target)
        runAll(self, at)
      }),
      distanceToGo: method([], long, (self: Ramped) => self.target - self.at),
      targetPosition: method([], long, (self: Ramped) => self.target),
      currentPosition: method([], long, (self: Ramped) => self.at),
      setCurrentPosition: method([long], VOID, (self: Ramped, [position = 0]) => {
        self.at = position
        self.target = position
        self.speed = 0
      }),
      stop: method([], VOID, (self: Ramped) => {
        const toStop = Math.round(self.speed ** 2 / (2 * self.gains)) + 1
        if (self.speed !== 0) self.target = self.at + Math.sign(self.speed) * toStop
      }),
      isRunning: method([], bool, (self: Ramped) => (self.speed === 0 && self.target === self.at ? 0 : 1)),
      enableOutputs: method([], VOID, (self: Ramped, _, at) => outputs(self, at)),
      disableOutputs: method([], VOID, (self: Ramped, _, at) => {
        for (const pin of self.pins) hardware.write(pin, false, at)
      }),
      setMinPulseWidth: method([int], VOID, (self: Ramped, [least = PULSE]) => {
        self.pulse = least
      }),
      setPinsInverted: method(
        [bool, bool, bool],
        VOID,
        (self: Ramped, [direction = 0, step = 0]) => {
          self.inverted = [direction !== 0, step !== 0]
        },
        0,
      ),
    },
  }
  return [
    ['Stepper', plain],
    ['AccelStepper', ramped],
  ]
}

function method<Self>(
  params: readonly Type[],
  returns: Type,
  run: (self: Self, args: readonly number[], at: number) => unknown,
  least = params.length,
): NativeFunction<never> {
  return { params, returns, least, run: (self: Self, args, _types, at) => run(self, args.map(Number), at) }
}
