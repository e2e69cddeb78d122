import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../../testing/plans.ts'
import { resolve } from '../../wiring/resolve.ts'
import { type RunResult, rehearse } from '../run.ts'
import { readScript } from '../script.ts'

function run(plan: Short, text: string, steps = '', seconds = 3): RunResult {
  const wiring = resolve(planOf(plan), catalog)
  const read = readScript(`rehearsal: 1\nseconds: ${seconds}\nsteps:\n${steps || '  []'}`, 'x')
  if (!read.ok) throw new Error(read.problems.map(({ message }) => message).join('; '))
  return rehearse(wiring, wiring.boards[0]!, [{ name: 'main.py', text }], { script: read.value })
}

const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind, line }) => `${kind} ${line}`)
const lines = ({ printed }: RunResult): string[] => printed.map(({ text }) => text)

/** A lamp on one pin, a button to ground on another. */
const lamp = (mcu: string, out: string, key: string): Short => ({
  mcu,
  parts: { LAMP: 'led', R1: { part: 'resistor', options: { ohms: 330 } }, KEY: 'button' },
  wires: `LAMP.A R1.1, R1.2 MCU.${out}, LAMP.K MCU.GND, KEY.1 MCU.${key}, KEY.2 MCU.GND`,
})
const pico = lamp('pico', 'GP15', 'GP14')
const pi = lamp('pi-40', 'GPIO17', 'GPIO27')
const feather = lamp('nrf52840-feather', 'D5', 'D6')
const press = '  - { at: 1, set: { KEY: pressed } }\n  - { at: 1.5, set: { KEY: released } }'

/** A mistake, and the same without it: what is found, by kind and line, and that nothing is found. */
const pairs: readonly {
  readonly title: string
  readonly plan: Short
  readonly wrong: string
  readonly right: string
  readonly finds: string
  readonly steps?: string
}[] = [
  {
    title: 'a button without a pull, on machine.Pin',
    plan: pico,
    wrong: 'from machine import Pin\nkey = Pin(14, Pin.IN)\nkey.value()\n',
    right: 'from machine import Pin\nkey = Pin(14, Pin.IN, Pin.PULL_UP)\nkey.value()\n',
    finds: 'read-floating 3',
  },
  {
    title: 'a button without a pull, on digitalio',
    plan: feather,
    wrong: 'import board, digitalio\nkey = digitalio.DigitalInOut(board.D6)\nprint(key.value)\n',
    right:
      'import board, digitalio\nkey = digitalio.DigitalInOut(board.D6)\nkey.switch_to_input(pull=digitalio.Pull.UP)\nprint(key.value)\n',
    finds: 'read-floating 3',
  },
  {
    title: 'a button without a pull, on RPi.GPIO',
    plan: pi,
    wrong: 'import RPi.GPIO as GPIO\nGPIO.setmode(GPIO.BCM)\nGPIO.setup(27, GPIO.IN)\nGPIO.input(27)\n',
    right:
      'import RPi.GPIO as GPIO\nGPIO.setmode(GPIO.BCM)\nGPIO.setup(27, GPIO.IN, pull_up_down=GPIO.PUD_UP)\nGPIO.input(27)\n',
    finds: 'read-floating 4',
  },
  {
    title: 'a pin that the plan has left free',
    plan: pico,
    wrong: 'from machine import Pin\nPin(16, Pin.OUT).on()\n',
    right: 'from machine import Pin\nPin(15, Pin.OUT).on()\n',
    finds: 'nothing-there 2',
  },
  {
    title: 'an error that nothing takes',
    plan: pico,
    wrong: 'scale = [1, 2]\nprint(scale[2])\n',
    right: 'scale = [1, 2]\nprint(scale[1])\n',
    finds: 'stopped 2',
  },
  {
    title: 'a press that falls into a sleep',
    plan: pico,
    wrong:
      'from machine import Pin\nimport time\nkey = Pin(14, Pin.IN, Pin.PULL_UP)\nwhile True:\n  key.value()\n  time.sleep(1.8)\n',
    right:
      'from machine import Pin\nimport time\nkey = Pin(14, Pin.IN, Pin.PULL_UP)\nwhile True:\n  key.value()\n  time.sleep_ms(20)\n',
    finds: 'not-heard 6',
    steps: press,
  },
  {
    title: 'a pin that drives against a button',
    plan: pico,
    wrong: 'from machine import Pin\nkey = Pin(14, Pin.OUT)\nkey.on()\n',
    right: 'from machine import Pin\nkey = Pin(14, Pin.OUT)\nkey.off()\n',
    finds: 'pin-fight 3',
    steps: '  - { at: 1, set: { KEY: pressed } }',
  },
  {
    title: 'an address at which nobody is',
    plan: {
      mcu: 'pico',
      parts: { AIR: 'bme280' },
      wires: 'AIR.VIN MCU.3V3, AIR.GND MCU.GND, AIR.SDA MCU.GP4, AIR.SCL MCU.GP5',
    },
    wrong:
      'from machine import I2C, Pin\nbus = I2C(0, sda=Pin(4), scl=Pin(5))\ntry:\n  bus.writeto(0x29, b"\\x00")\nexcept OSError:\n  pass\n',
    right: 'from machine import I2C, Pin\nbus = I2C(0, sda=Pin(4), scl=Pin(5))\nprint(bus.scan())\n',
    finds: 'nobody-answers 4',
  },
]

describe('a mistake in Python is found, and the same program without it is not blamed', () => {
  it.each(pairs)('$title', ({ plan, wrong, right, finds, steps }) => {
    expect(kinds(run(plan, wrong, steps))).toContain(finds)
    expect(kinds(run(plan, right, steps))).toEqual([])
  })
})

describe('a lamp that follows a button, in each dialect', () => {
  it.each([
    [
      'machine',
      pico,
      'from machine import Pin\nout, key = Pin(15, Pin.OUT), Pin("GP14", Pin.IN, Pin.PULL_UP)\nwhile True:\n  out.value(not key.value())\n',
    ],
    [
      'machine, by interrupt',
      pico,
      'from machine import Pin\nout = Pin(15, Pin.OUT)\nkey = Pin(14, Pin.IN, Pin.PULL_UP)\ndef turned(pin):\n  out.value(1 - pin.value())\nkey.irq(turned)\n',
    ],
    [
      'digitalio',
      feather,
      'import board\nfrom digitalio import DigitalInOut, Direction, Pull\nout = DigitalInOut(board.D5)\nout.direction = Direction.OUTPUT\nkey = DigitalInOut(board.D6)\nkey.pull = Pull.UP\nwhile True:\n  out.value = not key.value\n',
    ],
    [
      'RPi.GPIO',
      pi,
      'import RPi.GPIO as G\nG.setmode(G.BCM)\nG.setup(17, G.OUT)\nG.setup(27, G.IN, pull_up_down=G.PUD_UP)\nwhile True:\n  G.output(17, not G.input(27))\n',
    ],
    [
      'gpiozero',
      pi,
      'from gpiozero import LED, Button\nfrom signal import pause\nout, key = LED(17), Button(27)\nkey.when_pressed = out.on\nkey.when_released = out.off\npause()\n',
    ],
    [
      'gpiozero, handlers that are given the button',
      pi,
      'from gpiozero import LED, Button\nfrom signal import pause\nclass Desk:\n  def __init__(self):\n    self.out, self.key = LED(17), Button(27)\n    self.key.when_pressed = self.pressed\n    self.key.when_released = self.released\n  def pressed(self, key): self.out.value = key.is_pressed\n  def released(self): self.out.off()\ndesk = Desk()\npause()\n',
    ],
    [
      'asyncio',
      pico,
      'import asyncio\nfrom machine import Pin\nasync def watch(out, key):\n  while True:\n    out.value(not key.value())\n    await asyncio.sleep_ms(10)\nasync def main():\n  asyncio.create_task(watch(Pin(15, Pin.OUT), Pin(14, Pin.IN, Pin.PULL_UP)))\n  while True:\n    await asyncio.sleep(1)\nasyncio.run(main())\n',
    ],
  ] as const)('%s', (_, plan, text) => {
    const steps = `${press}
  - { at: 0.9, expect: { LAMP: off } }
  - { at: 1.2, expect: { LAMP: on } }
  - { at: 1.7, expect: { LAMP: off } }`
    const result = run(plan, text, steps)
    expect(kinds(result)).toEqual([])
    expect(result.expectations.map(({ came }) => came)).toEqual([true, true, true])
  })
})

it('a channel of the converter and its pin are the same', () => {
  const text =
    'from machine import ADC, Pin\nprint(ADC(0).read_u16() == ADC(Pin(26)).read_u16() == ADC(26).read_u16())\n'
  const plan: Short = {
    mcu: 'pico',
    parts: { DIAL: 'potentiometer' },
    wires: 'DIAL.1 MCU.GND, DIAL.3 MCU.3V3, DIAL.W MCU.GP26',
  }
  const result = run(plan, text)
  expect([lines(result), kinds(result)]).toEqual([['True'], []])
})

it.each([
  ['machine', pico, 'from machine import Pin\nPin("LED", Pin.OUT).on()\nPin(25, Pin.OUT).on()\n'],
  ['board', pico, 'import board, digitalio\nlamp = digitalio.DigitalInOut(board.LED)\nlamp.switch_to_output(True)\n'],
  [
    'a led on a header',
    lamp('esp32-devkit-30', 'GPIO26', 'GPIO27'),
    'import time, machine\nmachine.Pin(2, machine.Pin.OUT).on()\n',
  ],
] as const)('the LED of the board itself needs no wire: %s', (_, plan, text) => {
  expect(kinds(run(plan, text))).toEqual([])
})

it('a pin that no board of that kind has ends the program', () => {
  const result = run(pico, 'from machine import Pin\nPin(40, Pin.OUT)\n')
  expect(kinds(result)).toEqual(['no-such-pin 2', 'stopped 2'])
})

it('what is typed comes to input(), after its prompt', () => {
  const result = run(pico, 'print(int(input("how many? ")) * 2)\n', '  - { at: 1, type: "21" }')
  expect(lines(result)).toEqual(['how many? 42'])
})

it('a module that nobody has described is said once, and gives nought', () => {
  const result = run(
    pico,
    'import weathervane\nvane = weathervane.Vane(3)\nfor _ in range(2):\n  print(vane.turns + 1, vane.read()[0] > 2)\n',
  )
  expect(kinds(result)).toEqual(['unknown-class 1'])
  expect(lines(result)).toEqual(['1.0 False', '1.0 False'])
})

it('what a described module has besides is said once, with its line', () => {
  const result = run(pico, 'import machine\nwheel = machine.Encoder(0)\nfor _ in range(3):\n  print(wheel.value())\n')
  expect(kinds(result)).toEqual(['unknown-class 2'])
  expect(lines(result)).toEqual(['0.0', '0.0', '0.0'])
})

it('main.py is run, whatever stands before it; what has no such name begins with the first', () => {
  const wiring = resolve(planOf(pico), catalog)
  const file = (name: string, text: string): { name: string; text: string } => ({ name, text })
  const printed = (...files: ReturnType<typeof file>[]): string[] =>
    lines(rehearse(wiring, wiring.boards[0]!, files, { seconds: 1 }))
  const helper = file('bell.py', 'print("bell", __name__)\ntimes = 3\n')
  expect(printed(helper, file('main.py', 'import bell\nprint(bell.times, __name__)\n'))).toEqual([
    'bell bell',
    '3 __main__',
  ])
  expect(printed(helper, file('lib/code.py', 'from bell import times\nprint(times)\n'))).toEqual(['bell bell', '3'])
  expect(printed(helper, file('other.py', 'print("never")\n'))).toEqual(['bell __main__'])
})

it('what a program prints is kept letter by letter, whatever its alphabet', () => {
  expect(lines(run(pico, 'print("21 °C", end=" ")\nprint("größer")'))).toEqual(['21 °C größer'])
})
