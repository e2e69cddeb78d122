import type { BusClasses } from './boardModules.ts'
import { fn, type GivenModule, module, Native, nativeClass, type PythonBoard, property, reading } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { asIndex, asNumber, isTrue } from './protocols.ts'
import { Float, objectClass, type Py, type PyBytes, PyClass, PyModule, PyObject, raise } from './values.ts'

/** `board`, `digitalio`, `analogio`, `pwmio` and `busio` as CircuitPython has them. */
export function circuitModules(board: PythonBoard, calls: PinCalls, buses: BusClasses): GivenModule[] {
  const { hardware, machine } = board
  const { arg, pinFrom, Pins, apply, write, read, pulse, analog, bytesOf, ask, fill, scan } = calls
  const [INPUT, OUTPUT] = ['in', 'out'].map((name) => new PyObject(new PyClass(`Direction.${name}`, [objectClass])))
  const [UP, DOWN] = ['up', 'down'].map((name) => new PyObject(new PyClass(`Pull.${name}`, [objectClass])))
  const InOut = nativeClass(
    'DigitalInOut',
    (self, args) => {
      self.pin = pinFrom(args[0])
      apply(self)
    },
    {
      switch_to_output: (self, args, names) => {
        self.settled.mode = 'out'
        hardware.write(self.pin, isTrue(arg(args, names, 0, 'value') ?? false), machine.at)
        apply(self)
        return null
      },
      switch_to_input: (self, args, names) => {
        const pull = arg(args, names, 0, 'pull')
        self.settled = { mode: 'in', pull: pull === UP ? 'up' : pull === DOWN ? 'down' : '' }
        apply(self)
        return null
      },
      deinit: () => null,
    },
  )
  property(
    InOut,
    'direction',
    (self) => (self.settled.mode === 'out' ? OUTPUT : INPUT),
    (self, value) => {
      self.settled.mode = value === OUTPUT ? 'out' : 'in'
      apply(self)
    },
  )
  property(
    InOut,
    'pull',
    (self) => (self.settled.pull === 'up' ? UP : self.settled.pull === 'down' ? DOWN : null),
    (self, value) => {
      self.settled.pull = value === UP ? 'up' : value === DOWN ? 'down' : ''
      apply(self)
    },
  )
  property(
    InOut,
    'value',
    (self) => read(self) === 1,
    (self, value) => {
      if (self.settled.mode !== 'out') raise('AttributeError', 'Cannot set value when direction is input.')
      write(self, value)
    },
    reading,
  )
  const AnalogIn = nativeClass(
    'AnalogIn',
    (self, args) => {
      self.pin = pinFrom(args[0])
    },
    { deinit: () => null },
  )
  property(AnalogIn, 'value', (self) => analog(self, 16), undefined, reading)
  property(AnalogIn, 'reference_voltage', () => new Float(3.3))
  /** Figures that are moved by a pulse of the pin that they are given. */
  const figureClass = (name: string, says: string, least: number, most: number): [string, Py] => {
    const cls = nativeClass(
      name,
      (self, [output], named) => {
        const number = (key: string, usual: number): number => asNumber(named.get(key) ?? usual)
        self.attrs
          .set('_output', output)
          .set('_pulse', [number('min_pulse', 750), number('max_pulse', 2250)])
          .set('_most', says === 'angle' ? number('actuation_range', most) : most)
      },
      { deinit: () => null },
    )
    const put = (self: Native, value: Py): void => {
      const output = self.attrs.get('_output') as Native
      const [short, long] = self.attrs.get('_pulse')
      self.attrs.set('_at', value)
      const share = value === null ? 0 : (asNumber(value) - least) / (self.attrs.get('_most') - least)
      output.duty = value === null ? 0 : ((short + share * (long - short)) * output.hertz) / 1e6
      pulse(output)
    }
    property(cls, says, (self) => self.attrs.get('_at') ?? null, put)
    if (says === 'angle')
      property(
        cls,
        'fraction',
        () => null,
        (self, value) => put(self, new Float(asNumber(value) * self.attrs.get('_most'))),
      )
    return [name, cls]
  }
  const figures = [figureClass('Servo', 'angle', 0, 180), figureClass('ContinuousServo', 'throttle', -1, 1)]
  const TouchIn = nativeClass(
    'TouchIn',
    (self, args) => {
      self.pin = pinFrom(args[0])
    },
    { deinit: () => null },
  )
  property(TouchIn, 'value', (self) => hardware.touched(self.pin, machine.at), undefined, reading)
  property(TouchIn, 'raw_value', (self) => (hardware.touched(self.pin, machine.at) ? 4000 : 1000))
  property(TouchIn, 'threshold', () => 1100)
  const PWMOut = nativeClass(
    'PWMOut',
    (self, args, names) => {
      self.pin = pinFrom(args[0])
      self.hertz = asNumber(names.get('frequency') ?? 500)
      self.duty = asNumber(names.get('duty_cycle') ?? 0) / 65535
      pulse(self)
    },
    { deinit: () => null },
  )
  property(
    PWMOut,
    'duty_cycle',
    (self) => Math.round(self.duty * 65535),
    (self, value) => {
      self.duty = asNumber(value) / 65535
      pulse(self)
    },
  )
  property(
    PWMOut,
    'frequency',
    (self) => Math.round(self.hertz),
    (self, value) => {
      self.hertz = asNumber(value)
      pulse(self)
    },
  )
  const busio = new PyModule(
    'busio',
    new Map<string, Py>([
      [
        'I2C',
        nativeClass(
          'I2C',
          (self, [scl, sda]) => {
            self.bus = 'Wire'
            hardware.bus.begin('Wire', [pinFrom(sda), pinFrom(scl)], machine.at)
          },
          {
            try_lock: () => true,
            unlock: () => null,
            scan,
            writeto: (self, [address, bytes]) => ask(self, asIndex(address), bytesOf(bytes)),
            readfrom_into: (self, [address, into]) => fill(into as PyBytes, self, asIndex(address)),
            writeto_then_readfrom: (self, [address, bytes, into]) => {
              ask(self, asIndex(address), bytesOf(bytes))
              return fill(into as PyBytes, self, asIndex(address))
            },
            deinit: () => null,
          },
        ),
      ],
      ['SPI', buses.spi.circuit],
      ['UART', buses.serial.circuit],
    ]),
  )
  return [
    [
      'board',
      () => {
        const pins = new Pins('board')
        const usual = (): Py => {
          const made = new Native(busio.attrs.get('I2C'))
          made.bus = 'Wire'
          return made
        }
        const usualSpi = (): Py => {
          const made = new Native(busio.attrs.get('SPI'))
          made.bus = 'SPI'
          hardware.spi.begin('SPI', [], machine.at)
          return made
        }
        pins.set('SPI', fn('SPI', usualSpi))
        pins.set('I2C', fn('I2C', usual)).set('STEMMA_I2C', fn('STEMMA_I2C', usual))
        return new PyModule('board', pins)
      },
    ],
    [
      'microcontroller',
      () =>
        new PyModule(
          'microcontroller',
          new Map<string, Py>([
            ['pin', new PyModule('pin', new Pins('microcontroller.pin'))],
            ['reset', fn('reset', () => hardware.sleep.restart('restart'))],
          ]),
        ),
    ],
    module('digitalio', [
      ['DigitalInOut', InOut],
      [
        'Direction',
        new PyModule(
          'Direction',
          new Map([
            ['INPUT', INPUT],
            ['OUTPUT', OUTPUT],
          ]),
        ),
      ],
      [
        'Pull',
        new PyModule(
          'Pull',
          new Map([
            ['UP', UP],
            ['DOWN', DOWN],
          ]),
        ),
      ],
    ]),
    module('analogio', [['AnalogIn', AnalogIn]]),
    module('motor', [['servo', new PyModule('servo', new Map<string, Py>(figures))]]),
    module('touchio', [['TouchIn', TouchIn]]),
    module('pwmio', [['PWMOut', PWMOut]]),
    ['busio', () => busio],
  ]
}
