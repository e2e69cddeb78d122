import type { ProgramCase } from './case.ts'

/** Programs in CircuitPython. */
export const circuitpythonPrograms: readonly ProgramCase[] = [
  {
    title: 'a greenhouse with its sensors on the usual bus',
    plan: {
      mcu: 'nrf52840-feather',
      parts: {
        AIR: { part: 'sht31', title: 'Air' },
        FAN: { part: 'nmos', title: 'Fan' },
        LID: { part: 'reed-switch', title: 'Lid' },
      },
      wires: 'AIR.SDA MCU.SDA, AIR.SCL MCU.SCL, FAN.G MCU.D5, LID.1 MCU.D6, LID.2 MCU.GND',
    },
    language: 'circuitpython',
    files: [
      [
        'code.py',
        `import board
import busio
import digitalio
import pwmio
import sht31x

i2c = busio.I2C(board.SCL, board.SDA)
air = sht31x.SHT31(i2c, address=0x44)
fan = pwmio.PWMOut(board.D5, frequency=1000)
lid = digitalio.DigitalInOut(board.D6)
lid.direction = digitalio.Direction.INPUT
lid.pull = digitalio.Pull.UP
while True:
    fan.duty_cycle = 65535 if not lid.value else 0
`,
      ],
    ],
    changes: [
      ['busio.I2C(board.SCL, board.SDA)', 'busio.I2C(board.SDA, board.SCL)', ['exchanged AIR']],
      ['PWMOut(board.D5', 'PWMOut(board.D9', ['differs FAN.G']],
      ['lid.pull = digitalio.Pull.UP\n', '', ['pull LID.1']],
      ['address=0x44', 'address=0x45', ['address AIR']],
      ['DigitalInOut(board.D6)', 'DigitalInOut(board.D4)', ['differs LID.1']],
    ],
  },
  {
    title: 'a strip, a knob and lists of keys',
    plan: {
      mcu: 'pico',
      parts: {
        PADS: { part: 'ttp223', title: 'Left pad' },
        PADT: { part: 'ttp223', title: 'Right pad' },
        GLOW: { part: 'ws2812-strip', title: 'Glow' },
        SPIN: 'rotary-encoder',
      },
      wires: 'PADS.IO MCU.GP14, PADT.IO MCU.GP15, GLOW.DIN MCU.GP28, SPIN.CLK MCU.GP10, SPIN.DT MCU.GP11',
    },
    language: 'circuitpython',
    files: [
      [
        'code.py',
        `import board
import digitalio
import neopixel
import rotaryio

pads = []
for pin in (board.GP14, board.GP15):
    pad = digitalio.DigitalInOut(pin)
    pad.switch_to_input()
    pads.append(pad)
glow = neopixel.NeoPixel(board.GP28, 30, brightness=0.2)
spin = rotaryio.IncrementalEncoder(board.GP10, board.GP11)
`,
      ],
    ],
    changes: [
      [
        'IncrementalEncoder(board.GP10, board.GP11)',
        'IncrementalEncoder(board.GP12, board.GP11)',
        ['differs SPIN.CLK'],
      ],
      ['NeoPixel(board.GP28', 'NeoPixel(board.GP27', ['differs GLOW.DIN']],
      ['(board.GP14, board.GP15)', '(board.GP14, board.GP16)', ['differs PADT.IO']],
      ['pad.switch_to_input()', 'pad.switch_to_output()', ['mode PADS.IO', 'mode PADT.IO']],
      ['board.GP28, 30', 'board.A2, 30', []],
    ],
  },
  {
    title: 'a card and a converter on one SPI bus',
    plan: {
      mcu: 'xiao-samd21',
      parts: { LOG: { part: 'microsd', title: 'Log' }, OVENS: { part: 'max31855', title: 'Oven' } },
      wires:
        'LOG.SCK MCU.D8, LOG.MISO MCU.D9, LOG.MOSI MCU.D10, LOG.CS MCU.D2, OVENS.CLK MCU.D8, OVENS.DO MCU.D9, OVENS.CS MCU.D3',
    },
    language: 'circuitpython',
    files: [
      [
        'code.py',
        `import board
import busio
import digitalio
import sdcardio

spi = busio.SPI(board.D8, MOSI=board.D10, MISO=board.D9)
log = sdcardio.SDCard(spi, board.D2)
oven_cs = digitalio.DigitalInOut(board.D3)
oven_cs.switch_to_output(value=True)
`,
      ],
    ],
    changes: [
      ['MOSI=board.D10, MISO=board.D9', 'MOSI=board.D9, MISO=board.D10', ['exchanged LOG OVENS']],
      ['DigitalInOut(board.D3)', 'DigitalInOut(board.D4)', ['differs OVENS.CS']],
      ['SDCard(spi, board.D2)', 'SDCard(spi, board.D1)', ['differs LOG.CS']],
    ],
  },
  {
    title: 'a class of its own and a function that makes inputs',
    plan: {
      mcu: 'teensy-4-1',
      parts: {
        HORN: { part: 'buzzer-active', title: 'Horn' },
        FRONT: { part: 'limit-switch', title: 'Front bumper' },
        BACK: { part: 'limit-switch', title: 'Back bumper' },
      },
      wires: 'HORN.+ MCU.D9, FRONT.C MCU.D2, BACK.C MCU.D3',
    },
    language: 'circuitpython',
    files: [
      [
        'code.py',
        `import board
from digitalio import DigitalInOut, Direction, Pull


def bumper(pin):
    made = DigitalInOut(pin)
    made.direction = Direction.INPUT
    made.pull = Pull.UP
    return made


class Horn:
    PIN = board.D9

    def __init__(self):
        self.out = DigitalInOut(self.PIN)
        self.out.direction = Direction.OUTPUT

    def blow(self, on):
        self.out.value = on


front = bumper(board.D2)
back = bumper(board.D3)
horn = Horn()
while True:
    horn.blow(not front.value or not back.value)
`,
      ],
    ],
    changes: [
      [
        'front = bumper(board.D2)\nback = bumper(board.D3)',
        'front = bumper(board.D3)\nback = bumper(board.D2)',
        ['exchanged FRONT.C BACK.C'],
      ],
      ['PIN = board.D9', 'PIN = board.D10', ['differs HORN.+']],
      ['PIN = board.D9', 'PIN = board.D99', ['differs HORN.+']],
    ],
  },
  {
    title: 'a serial line and a converter',
    plan: {
      mcu: 'pico-w',
      parts: { WHERE: { part: 'gps-uart', title: 'Position' }, FUEL: { part: 'potentiometer', title: 'Fuel gauge' } },
      wires: 'WHERE.TX MCU.GP9, WHERE.RX MCU.GP8, FUEL.W MCU.GP27',
    },
    language: 'circuitpython',
    files: [
      [
        'code.py',
        `import analogio
import board
import busio

uart = busio.UART(board.GP8, board.GP9, baudrate=9600)
fuel = analogio.AnalogIn(board.GP27)
print(uart.readline(), fuel.value)
`,
      ],
    ],
    changes: [
      ['busio.UART(board.GP8, board.GP9', 'busio.UART(board.GP9, board.GP8', ['exchanged WHERE']],
      ['baudrate=9600', 'baudrate=4800', ['baud WHERE']],
      ['AnalogIn(board.GP27)', 'AnalogIn(board.GP26)', ['differs FUEL.W']],
      ['AnalogIn(board.GP27)', 'AnalogIn(board.A1)', []],
    ],
  },
  {
    title: 'chip names where the board has none',
    plan: {
      mcu: 'esp32-s3-devkitc-1',
      parts: { LAMP: { part: 'led', title: 'Lamp' }, R1: 'resistor', PUSH: { part: 'button', title: 'Push' } },
      wires: 'LAMP.A R1.1, R1.2 MCU.GPIO5, LAMP.K MCU.GND, PUSH.1 MCU.GPIO6, PUSH.2 MCU.GND',
    },
    language: 'circuitpython',
    files: [
      [
        'code.py',
        `import digitalio
import microcontroller

lamp = digitalio.DigitalInOut(microcontroller.pin.GPIO5)
lamp.switch_to_output()
push = digitalio.DigitalInOut(microcontroller.pin.GPIO6)
push.switch_to_input(digitalio.Pull.UP)
lamp.value = push.value
`,
      ],
    ],
    changes: [
      ['microcontroller.pin.GPIO5)', 'microcontroller.pin.GPIO7)', ['differs LAMP.A']],
      ['push.switch_to_input(digitalio.Pull.UP)', 'push.switch_to_input()', ['pull PUSH.1']],
      ['pin.GPIO6', 'pin.GPIO99', ['differs PUSH.1']],
    ],
  },
]
