import { Callable } from '../cpp/values.ts'
import { invoke } from './attributes.ts'
import type { BusClasses } from './boardModules.ts'
import { fn, type GivenModule, module, Native, nativeClass, type PythonBoard, reading } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asIndex, asNumber, isTrue } from './protocols.ts'
import { objectClass, type Py, PyClass, PyList, PyModule, PyTuple } from './values.ts'
import { zeroClasses } from './zero/classes.ts'

/** Modules by which single-board computers reach their pins. */
export function deskModules(board: PythonBoard, calls: PinCalls, buses: BusClasses): GivenModule[] {
  const { hardware, machine } = board
  const { wait, pinFrom, apply, write, read, softPulse, ask, answer, register, bytesOf } = calls
  const pinClass = new PyClass('Pin', [objectClass])
  const gpio = new Map<number, Native>()
  /** Pins are numbered by their places on the header. */
  let byPlace = false
  const gpioPin = (number: Py): Native => {
    const pin = pinFrom(byPlace ? `#${asIndex(number)}` : number)
    let known = gpio.get(pin)
    if (!known) {
      known = new Native(pinClass)
      known.pin = pin
      gpio.set(pin, known)
    }
    return known
  }
  const each = (pins: Py, run: (pin: Native) => void): null => {
    for (const one of pins instanceof PyList || pins instanceof PyTuple ? pins.items : [pins]) run(gpioPin(one))
    return null
  }
  const setShare = (self: Native, [share]: readonly Py[]): null => {
    self.duty = asNumber(share) / 100
    return softPulse(self)
  }
  const rpi = (): PyModule =>
    new PyModule(
      'RPi.GPIO',
      new Map<string, Py>([
        ['BCM', 11],
        ['BOARD', 10],
        ['OUT', 0],
        ['IN', 1],
        ['HIGH', 1],
        ['LOW', 0],
        ['PUD_OFF', 20],
        ['PUD_DOWN', 21],
        ['PUD_UP', 22],
        ['RISING', 31],
        ['FALLING', 32],
        ['BOTH', 33],
        [
          'setmode',
          fn('setmode', ([mode]) => {
            byPlace = mode === 10
            return null
          }),
        ],
        ['setwarnings', fn('setwarnings', () => null)],
        [
          'cleanup',
          // Back to inputs, those that the program has set up.
          fn('cleanup', ([pins]) => {
            const free = (pin: Native): void => {
              pin.settled = { mode: 'in', pull: '' }
              apply(pin)
            }
            if (pins === undefined) for (const pin of gpio.values()) free(pin)
            else each(pins, free)
            return null
          }),
        ],
        [
          'setup',
          fn('setup', ([pins, how], names) =>
            each(pins, (pin) => {
              pin.settled = {
                mode: how === 0 ? 'out' : 'in',
                pull: names.get('pull_up_down') === 22 ? 'up' : names.get('pull_up_down') === 21 ? 'down' : '',
              }
              if (names.has('initial')) hardware.write(pin.pin, isTrue(names.get('initial')), machine.at)
              apply(pin)
            }),
          ),
        ],
        ['output', reading('output', ([pins, value]) => each(pins, (pin) => write(pin, value)))],
        ['input', reading('input', ([pin]) => read(gpioPin(pin)))],
        [
          'add_event_detect',
          fn('add_event_detect', ([pin, edge], names) => {
            const handler = names.get('callback')
            const one = gpioPin(pin)
            hardware.onEdge(
              one.pin,
              edge === 31 ? 'rising' : edge === 32 ? 'falling' : 'change',
              new Callable('event', () => (handler ? invoke(handler, [pin]) : null)),
              machine.at,
            )
            return null
          }),
        ],
        [
          'PWM',
          nativeClass(
            'PWM',
            (self, [pin, hertz]) => {
              self.pin = gpioPin(pin).pin
              self.hertz = asNumber(hertz)
            },
            {
              start: setShare,
              ChangeDutyCycle: setShare,
              ChangeFrequency: (self, [hertz]) => {
                self.hertz = asNumber(hertz)
                return softPulse(self)
              },
              stop: (self) => {
                hardware.write(self.pin, false, machine.at)
                return null
              },
            },
          ),
        ],
      ]),
    )
  const SMBus = nativeClass(
    'SMBus',
    (self) => {
      self.bus = 'Wire'
    },
    {
      write_byte: (self, [address, byte]) => ask(self, asIndex(address), [asIndex(byte)]),
      write_quick: (self, [address]) => ask(self, asIndex(address), []),
      write_byte_data: (self, [address, from, byte]) => ask(self, asIndex(address), [asIndex(from), asIndex(byte)]),
      write_i2c_block_data: (self, [address, from, bytes]) =>
        ask(self, asIndex(address), [asIndex(from), ...bytesOf(bytes)]),
      read_byte: (self, [address]) => answer(self, asIndex(address), 1).bytes[0],
      read_byte_data: (self, [address, from]) => register(self, address, from, 1)[0],
      // The lower byte comes first on this kind of bus.
      read_word_data: (self, [address, from]) => {
        const [low = 0, high = 0] = register(self, address, from, 2)
        return low + 256 * high
      },
      write_word_data: (self, [address, from, word]) =>
        ask(self, asIndex(address), [asIndex(from), asIndex(word) & 255, (asIndex(word) >> 8) & 255]),
      read_i2c_block_data: (self, [address, from, count]) => new PyList(register(self, address, from, asIndex(count))),
      close: () => null,
    },
  )
  return [
    ['RPi.GPIO', rpi],
    ['RPi', () => new PyModule('RPi', new Map<string, Py>([['GPIO', rpi()]]))],
    module('gpiozero', [...zeroClasses(board, calls), ['MCP3008', buses.spi.converter]]),
    module('serial', [['Serial', buses.serial.desk]]),
    module('spidev', [['SpiDev', buses.spi.desk]]),
    module('smbus', [['SMBus', SMBus]]),
    module('smbus2', [['SMBus', SMBus]]),
    module('signal', [
      [
        'pause',
        fn('pause', () => {
          for (;;) wait(100_000)
        }),
      ],
    ]),
  ]
}
