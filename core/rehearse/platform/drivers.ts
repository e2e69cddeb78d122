import type { Machine } from '../cpp/machine.ts'
import type { NativeClass, NativeFunction } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import type { Hardware } from './hardware.ts'
import { keypadClass } from './keypad.ts'
import { stepperClasses } from './steppers.ts'

/** Shortest and longest pulse of a servo in microseconds where the program says none, by the platform's reference. */
const SHORTEST = 544
const LONGEST = 2400
const FRAME_HERTZ = 50

/** Classes that speak to parts through the pins alone: what comes of it the wiring says. */
export function driverClasses(
  hardware: Hardware,
  machine: Machine,
  given: { readonly types: ReadonlyMap<string, Type> },
): [string, NativeClass][] {
  const { types } = given
  const now = (): number => machine.now
  const int = types.get('int')!
  const bool = types.get('bool')!
  interface Servo {
    pin: number | undefined
    least: number
    most: number
    micros: number
  }
  const put = (self: Servo, at: number): void => {
    if (self.pin !== undefined) hardware.pulse(self.pin, (self.micros * FRAME_HERTZ) / 1e6, FRAME_HERTZ, at, 'library')
  }
  const method = (
    params: readonly (Type | 'any')[],
    returns: Type,
    run: (self: Servo, args: readonly number[], at: number) => unknown,
    least = params.length,
  ): NativeFunction<never> => ({
    params,
    returns,
    least,
    run: (self: Servo, args, _types, at) => run(self, args, at),
  })
  const servo: NativeClass = {
    make: (): Servo => ({ pin: undefined, least: SHORTEST, most: LONGEST, micros: 1500 }),
    methods: {
      attach: method(
        [int, int, int],
        int,
        (self, [pin, least = SHORTEST, most = LONGEST], at) => {
          self.pin = pin
          self.least = least
          self.most = most
          hardware.takesTimers('servo-library', at)
          put(self, at)
          return 1
        },
        1,
      ),
      write: method([int], VOID, (self, [angle = 0], at) => {
        // Numbers from the shortest pulse on are microseconds.
        self.micros =
          angle >= SHORTEST ? angle : self.least + (Math.min(180, Math.max(0, angle)) / 180) * (self.most - self.least)
        put(self, at)
      }),
      writeMicroseconds: method([int], VOID, (self, [micros = 1500], at) => {
        self.micros = micros
        put(self, at)
      }),
      read: method([], int, (self) => Math.round(((self.micros - self.least) / (self.most - self.least)) * 180)),
      readMicroseconds: method([], int, (self) => Math.round(self.micros)),
      attached: method([], bool, (self) => (self.pin === undefined ? 0 : 1)),
      setPeriodHertz: method([int], VOID, () => undefined),
      detach: method([], VOID, (self, _, at) => {
        if (self.pin !== undefined) hardware.write(self.pin, false, at)
        self.pin = undefined
      }),
    },
  }
  return [['Servo', servo], keypadClass(hardware, now, given), ...stepperClasses(hardware, now, given)]
}
