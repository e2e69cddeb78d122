import type { BusKind } from '../../catalog/common.ts'
import type { Doing, PinUse } from './uses.ts'

/** Which argument of a call is a pin, and what is done with it. */
export interface Slot {
  readonly at?: number
  readonly names?: readonly string[]
  readonly doing: Doing
  readonly signal?: string
  readonly counts?: PinUse['counts']
}

export const slot = (at: number, doing: Doing, more: Partial<Slot> = {}): Slot => ({ at, doing, ...more })

/** Functions and methods of the platforms that take pins: which argument is one, and what is done with it. */
export const cppFunctions: Readonly<Record<string, readonly Slot[]>> = {
  pinMode: [slot(0, 'input')],
  digitalWrite: [slot(0, 'output')],
  digitalToggle: [slot(0, 'output')],
  digitalRead: [slot(0, 'input')],
  analogRead: [slot(0, 'analog-in', { counts: 'analog' })],
  analogReadMilliVolts: [slot(0, 'analog-in')],
  analogWrite: [slot(0, 'pwm')],
  ledcAttachPin: [slot(0, 'pwm')],
  ledcAttach: [slot(0, 'pwm')],
  ledcAttachChannel: [slot(0, 'pwm')],
  dacWrite: [slot(0, 'analog-out')],
  tone: [slot(0, 'output')],
  noTone: [slot(0, 'output')],
  pulseIn: [slot(0, 'input')],
  pulseInLong: [slot(0, 'input')],
  shiftOut: [slot(0, 'output'), slot(1, 'output')],
  shiftIn: [slot(0, 'input'), slot(1, 'output')],
  attachInterrupt: [slot(0, 'interrupt', { counts: 'interrupt' })],
  digitalPinToInterrupt: [slot(0, 'interrupt')],
  touchRead: [slot(0, 'touch')],
  gpio_set_direction: [slot(0, 'input')],
  gpio_set_level: [slot(0, 'output')],
  gpio_get_level: [slot(0, 'input')],
}

export const pythonFunctions: Readonly<Record<string, readonly Slot[]>> = {
  'machine.Pin': [slot(0, 'input')],
  'machine.PWM': [slot(0, 'pwm')],
  'machine.ADC': [slot(0, 'analog-in')],
  'machine.DAC': [slot(0, 'analog-out')],
  'machine.TouchPad': [slot(0, 'touch')],
  'machine.time_pulse_us': [slot(0, 'input')],
  'digitalio.DigitalInOut': [slot(0, 'input')],
  'analogio.AnalogIn': [slot(0, 'analog-in')],
  'analogio.AnalogOut': [slot(0, 'analog-out')],
  'pwmio.PWMOut': [slot(0, 'pwm')],
  'touchio.TouchIn': [slot(0, 'touch')],
  'pulseio.PulseIn': [slot(0, 'input')],
  'pulseio.PulseOut': [slot(0, 'output')],
  'countio.Counter': [slot(0, 'input')],
  'rotaryio.IncrementalEncoder': [slot(0, 'input'), slot(1, 'input')],
  'GPIO.setup': [slot(0, 'input')],
  'GPIO.output': [slot(0, 'output')],
  'GPIO.input': [slot(0, 'input')],
  'GPIO.PWM': [slot(0, 'pwm')],
  'GPIO.add_event_detect': [slot(0, 'interrupt')],
  'GPIO.wait_for_edge': [slot(0, 'interrupt')],
  'lgpio.gpio_claim_output': [slot(1, 'output')],
  'lgpio.gpio_claim_input': [slot(1, 'input')],
  'lgpio.gpio_write': [slot(1, 'output')],
  'lgpio.gpio_read': [slot(1, 'input')],
}

const gpiozeroOut = 'LED PWMLED Buzzer TonalBuzzer OutputDevice DigitalOutputDevice PWMOutputDevice Servo AngularServo'
const gpiozeroIn = 'Button MotionSensor LineSensor LightSensor InputDevice DigitalInputDevice SmoothedInputDevice'

export const gpiozero: Readonly<Record<string, readonly Slot[]>> = {
  ...Object.fromEntries(
    gpiozeroOut.split(' ').map((name) => [name, [{ at: 0, names: ['pin'], doing: 'output' as const }]]),
  ),
  ...Object.fromEntries(
    gpiozeroIn.split(' ').map((name) => [name, [{ at: 0, names: ['pin'], doing: 'input' as const }]]),
  ),
  RGBLED: ['red', 'green', 'blue'].map((name, at) => ({ at, names: [name], doing: 'output' as const })),
  Motor: ['forward', 'backward'].map((name, at) => ({ at, names: [name], doing: 'output' as const })),
  PhaseEnableMotor: ['phase', 'enable'].map((name, at) => ({ at, names: [name], doing: 'output' as const })),
  DistanceSensor: [
    { at: 0, names: ['echo'], doing: 'input' },
    { at: 1, names: ['trigger'], doing: 'output' },
  ],
  RotaryEncoder: ['a', 'b'].map((name, at) => ({ at, names: [name], doing: 'input' as const })),
}

/** Methods of the object that speaks to the pins of the processor over its own service. */
export const pigpioMethods: Readonly<Record<string, readonly Slot[]>> = {
  set_mode: [slot(0, 'input')],
  write: [slot(0, 'output')],
  read: [slot(0, 'input')],
  set_pull_up_down: [slot(0, 'input')],
  set_servo_pulsewidth: [slot(0, 'pwm')],
  set_PWM_dutycycle: [slot(0, 'pwm')],
  callback: [slot(0, 'interrupt')],
}

const busLines = (
  kind: BusKind,
  ...lines: readonly (readonly [string, number | undefined, string])[]
): { kind: BusKind; slots: Slot[] } => ({
  kind,
  slots: lines.map(([signal, at, names]) => ({
    ...(at === undefined ? {} : { at }),
    names: names.split(' '),
    doing: 'bus',
    signal,
  })),
})

export const pythonBuses: Readonly<Record<string, { kind: BusKind; slots: Slot[] }>> = {
  'machine.I2C': busLines('i2c', ['scl', undefined, 'scl'], ['sda', undefined, 'sda']),
  'machine.SoftI2C': busLines('i2c', ['scl', 0, 'scl'], ['sda', 1, 'sda']),
  'machine.SPI': busLines('spi', ['sck', undefined, 'sck'], ['mosi', undefined, 'mosi'], ['miso', undefined, 'miso']),
  'machine.SoftSPI': busLines(
    'spi',
    ['sck', undefined, 'sck'],
    ['mosi', undefined, 'mosi'],
    ['miso', undefined, 'miso'],
  ),
  'machine.UART': busLines('uart', ['tx', undefined, 'tx'], ['rx', undefined, 'rx']),
  'machine.I2S': busLines('i2s', ['bck', undefined, 'sck'], ['ws', undefined, 'ws'], ['dout', undefined, 'sd']),
  'busio.I2C': busLines('i2c', ['scl', 0, 'scl'], ['sda', 1, 'sda']),
  'bitbangio.I2C': busLines('i2c', ['scl', 0, 'scl'], ['sda', 1, 'sda']),
  'busio.SPI': busLines('spi', ['sck', 0, 'clock'], ['mosi', 1, 'MOSI'], ['miso', 2, 'MISO']),
  'busio.UART': busLines('uart', ['tx', 0, 'tx'], ['rx', 1, 'rx']),
}

export const setters: Readonly<Record<string, readonly [BusKind, string]>> = {
  setSDA: ['i2c', 'sda'],
  setSCL: ['i2c', 'scl'],
  setSCK: ['spi', 'sck'],
  setMOSI: ['spi', 'mosi'],
  setMISO: ['spi', 'miso'],
  setCS: ['spi', 'cs'],
  setTX: ['uart', 'tx'],
  setRX: ['uart', 'rx'],
}

export const addressMethods = new Set(
  'beginTransmission requestFrom writeto readfrom readfrom_into writeto_mem readfrom_mem readfrom_mem_into read_byte_data write_byte_data read_word_data write_word_data read_i2c_block_data write_i2c_block_data write_byte read_byte'.split(
    ' ',
  ),
)

/** Methods by which libraries take pins, addresses and buses. */
export const takers = new Set('begin attach init setup setPins setup_pins addLeds setPin'.split(' '))
