import type { ProgramCase } from './case.ts'

/** Programs in MicroPython, for boards of several families. */
export const micropythonPrograms: readonly ProgramCase[] = [
  {
    title: 'a car in a module and a class, with its numbers in a third file',
    plan: {
      mcu: 'pico-w',
      parts: { DRIVE: 'l298n', LEFT: 'dc-motor', RIGHT: 'dc-motor', FRONT: { part: 'hc-sr04p', title: 'Front' } },
      wires:
        'DRIVE.ENA MCU.GP10, DRIVE.IN1 MCU.GP11, DRIVE.IN2 MCU.GP12, DRIVE.IN3 MCU.GP13, DRIVE.IN4 MCU.GP14, DRIVE.ENB MCU.GP15, FRONT.TRIG MCU.GP2, FRONT.ECHO MCU.GP3',
    },
    language: 'micropython',
    files: [
      [
        'main.py',
        `from machine import Pin, time_pulse_us
import pins
from drive import Motor

left = Motor(pins.ENA, pins.IN1, pins.IN2)
right = Motor(pins.ENB, pins.IN3, pins.IN4)
trig = Pin(pins.TRIG, Pin.OUT)
echo = Pin(pins.ECHO, Pin.IN)
while True:
    trig.on()
    trig.off()
    if time_pulse_us(echo, 1, 30000) < 900:
        left.go(0)
`,
      ],
      [
        'drive.py',
        `from machine import Pin, PWM


class Motor:
    def __init__(self, enable, a, b):
        self.pwm = PWM(Pin(enable), freq=1000)
        self.a = Pin(a, Pin.OUT)
        self.b = Pin(b, Pin.OUT)

    def go(self, speed):
        self.a.value(speed > 0)
        self.b.value(speed < 0)
        self.pwm.duty_u16(abs(speed))
`,
      ],
      ['pins.py', 'ENA, IN1, IN2 = 10, 11, 12\nIN3, IN4, ENB = 13, 14, 15\nTRIG = 2\nECHO = 3\n'],
    ],
    changes: [
      ['TRIG = 2\nECHO = 3', 'TRIG = 3\nECHO = 2', ['exchanged FRONT.TRIG FRONT.ECHO']],
      ['10, 11, 12', '10, 12, 11', ['exchanged DRIVE.IN1 DRIVE.IN2']],
      ['IN3, IN4, ENB = 13, 14, 15', 'IN3, IN4, ENB = 13, 14, 16', ['differs DRIVE.ENB']],
      ['Pin(pins.ECHO, Pin.IN)', 'Pin(pins.ECHO, Pin.OUT)', ['mode FRONT.ECHO']],
      ['ECHO = 3', 'ECHO = 23', ['differs FRONT.ECHO']],
      ['import pins\n', 'import pins as pins\n', []],
    ],
  },
  {
    title: 'two I2C buses, one by software',
    plan: {
      mcu: 'esp32-devkit-30',
      parts: { TILT: { part: 'mpu6050', title: 'Tilt' }, FACE: { part: 'ssd1306', title: 'Face' } },
      wires: 'TILT.SDA MCU.GPIO21, TILT.SCL MCU.GPIO22, FACE.SDA MCU.GPIO32, FACE.SCL MCU.GPIO33',
    },
    language: 'micropython',
    files: [
      [
        'main.py',
        `from machine import I2C, SoftI2C, Pin

inside = I2C(0, scl=Pin(22), sda=Pin(21), freq=400000)
outside = SoftI2C(scl=Pin(33), sda=Pin(32))
face = Screen(128, 64, outside, addr=0x3C)
inside.writeto_mem(0x68, 0x6B, b"\\x00")
print(inside.readfrom_mem(0x68, 0x3B, 6))
`,
      ],
    ],
    changes: [
      ['scl=Pin(22), sda=Pin(21)', 'scl=Pin(21), sda=Pin(22)', ['exchanged TILT']],
      ['scl=Pin(33), sda=Pin(32)', 'scl=Pin(25), sda=Pin(32)', ['bus FACE']],
      ['0x68, 0x6B', '0x69, 0x6B', ['address']],
      ['addr=0x3C', 'addr=0x3D', ['address FACE']],
    ],
  },
  {
    title: 'a dictionary of pins and a loop over it',
    plan: {
      mcu: 'pico',
      parts: {
        RED: { part: 'led', title: 'Stop' },
        AMBER: { part: 'led', title: 'Wait', options: { colour: 'yellow' } },
        GREEN: { part: 'led', title: 'Go', options: { colour: 'green' } },
        R1: 'resistor',
        R2: 'resistor',
        R3: 'resistor',
        CROSS: { part: 'button', title: 'Crossing request' },
      },
      wires:
        'RED.A R1.1, R1.2 MCU.GP6, RED.K MCU.GND, AMBER.A R2.1, R2.2 MCU.GP7, AMBER.K MCU.GND, GREEN.A R3.1, R3.2 MCU.GP8, GREEN.K MCU.GND, CROSS.1 MCU.GP9, CROSS.2 MCU.GND',
    },
    language: 'micropython',
    files: [
      [
        'lights.py',
        `from machine import Pin

NUMBERS = {"red": 6, "amber": 7, "green": 8}
lamps = {}
for name, number in NUMBERS.items():
    lamps[name] = Pin(number, Pin.OUT, value=0)
cross = Pin(9, Pin.IN, Pin.PULL_UP)
lamps["red"].on()
while cross.value():
    pass
`,
      ],
    ],
    changes: [
      ['"red": 6, "amber": 7', '"red": 7, "amber": 6', ['exchanged RED.A AMBER.A']],
      ['"green": 8', '"green": 10', ['differs GREEN.A']],
      ['Pin.PULL_UP', 'None', ['pull CROSS.1']],
      ['cross = Pin(9, Pin.IN, Pin.PULL_UP)', 'cross = Pin("GP9", Pin.IN, Pin.PULL_UP)', []],
      ['cross = Pin(9,', 'cross = Pin(12,', ['numbering CROSS.1']],
      ['cross = Pin(9,', 'cross = Pin(13,', ['differs CROSS.1']],
      ['"amber": 7', '"amber": 10', ['numbering AMBER.A']],
    ],
  },
  {
    title: 'converter channels, pulses and a step down the list',
    plan: {
      mcu: 'esp32-c3-supermini',
      parts: {
        SOIL: { part: 'soil-capacitive', title: 'Soil' },
        HATCH: { part: 'servo-sg90', title: 'Hatch' },
        PROBE: { part: 'ds18b20-probe', title: 'Bed' },
      },
      wires: 'SOIL.AOUT MCU.GPIO3, HATCH.SIG MCU.GPIO5, PROBE.DQ MCU.GPIO10',
    },
    language: 'micropython',
    files: [
      [
        'bed.py',
        `import machine
import onewire
import ds18x20

SOIL, HATCH, PROBE = 3, 5, 10
soil = machine.ADC(machine.Pin(SOIL), atten=machine.ADC.ATTN_11DB)
hatch = machine.PWM(machine.Pin(HATCH), freq=50, duty_u16=4915)
bus = ds18x20.DS18X20(onewire.OneWire(machine.Pin(PROBE)))
print(soil.read_u16(), bus.scan())
`,
      ],
    ],
    changes: [
      ['3, 5, 10', '5, 3, 10', ['exchanged SOIL.AOUT HATCH.SIG']],
      ['3, 5, 10', '3, 5, 9', ['differs PROBE.DQ']],
      ['3, 5, 10', '3, 5, 18', ['differs PROBE.DQ']],
      [
        'machine.ADC(machine.Pin(SOIL), atten=machine.ADC.ATTN_11DB)',
        'machine.Pin(SOIL, machine.Pin.OUT)',
        ['mode SOIL.AOUT'],
      ],
    ],
  },
  {
    title: 'serial lines with chosen pins',
    plan: {
      mcu: 'pico',
      parts: { DUST: { part: 'sds011', title: 'Dust' }, RADIO: { part: 'hc-12', title: 'Link' } },
      wires: 'DUST.T MCU.GP5, DUST.R MCU.GP4, RADIO.TXD MCU.GP1, RADIO.RXD MCU.GP0',
    },
    language: 'micropython',
    files: [
      [
        'air.py',
        `from machine import UART, Pin
dust = UART(1, 9600, tx=Pin(4), rx=Pin(5))
radio = UART(0, baudrate=9600, tx=Pin(0), rx=Pin(1))
while True:
    if dust.any():
        radio.write(dust.read())
`,
      ],
    ],
    changes: [
      ['tx=Pin(4), rx=Pin(5)', 'tx=Pin(5), rx=Pin(4)', ['exchanged DUST']],
      ['tx=Pin(0), rx=Pin(1)', 'tx=Pin(12), rx=Pin(13)', ['bus RADIO']],
      ['UART(1, 9600', 'UART(1, 115200', ['baud DUST']],
      ['baudrate=9600', 'baudrate=9600 * 2', ['baud RADIO']],
    ],
  },
  {
    title: 'a card reader on SPI with its select and reset',
    plan: {
      mcu: 'esp32-devkit-38',
      parts: { GATE: { part: 'rc522', title: 'Gate reader' }, BOLT: { part: 'relay-1', title: 'Bolt' } },
      wires:
        'GATE.SCK MCU.GPIO18, GATE.MOSI MCU.GPIO23, GATE.MISO MCU.GPIO19, GATE.SDA MCU.GPIO5, GATE.RST MCU.GPIO27, BOLT.IN MCU.GPIO26',
    },
    language: 'micropython',
    files: [
      [
        'gate.py',
        `from machine import SPI, Pin
from reader import Reader

spi = SPI(2, baudrate=1_000_000, sck=Pin(18), mosi=Pin(23), miso=Pin(19))
gate = Reader(spi, Pin(5, Pin.OUT), rst=Pin(27, Pin.OUT))
bolt = Pin(26, Pin.OUT, value=1)
if gate.request():
    bolt.value(0)
`,
      ],
      [
        'reader.py',
        'class Reader:\n    def __init__(self, spi, cs, rst):\n        self.spi, self.cs, self.rst = spi, cs, rst\n        self.rst.on()\n\n    def request(self):\n        self.cs.off()\n        return False\n',
      ],
    ],
    changes: [
      ['sck=Pin(18), mosi=Pin(23), miso=Pin(19)', 'sck=Pin(18), mosi=Pin(19), miso=Pin(23)', ['exchanged GATE']],
      ['Pin(26, Pin.OUT, value=1)', 'Pin(25, Pin.OUT, value=1)', ['differs BOLT.IN']],
      ['rst=Pin(27, Pin.OUT)', 'rst=Pin(22, Pin.OUT)', ['differs GATE.RST']],
      ['bolt = Pin(26, Pin.OUT, value=1)', 'bolt = Pin(26, Pin.IN)', ['mode BOLT.IN']],
    ],
  },
  {
    title: 'an interrupt with a handler, and a touch pin',
    plan: {
      mcu: 'esp32-devkit-30',
      parts: { RAIN: { part: 'reed-switch', title: 'Rain bucket' }, PUMP: { part: 'nmos', title: 'Pump' } },
      wires: 'RAIN.1 MCU.GPIO27, RAIN.2 MCU.GND, PUMP.G MCU.GPIO26',
    },
    language: 'micropython',
    files: [
      [
        'rain.py',
        `from machine import Pin, PWM

RAIN_PIN = 27
tips = 0


def tipped(pin):
    global tips
    tips += 1


rain = Pin(RAIN_PIN, mode=Pin.IN, pull=Pin.PULL_UP)
rain.irq(handler=tipped, trigger=Pin.IRQ_FALLING)
pump = PWM(Pin(26), freq=200, duty=0)
`,
      ],
    ],
    changes: [
      ['RAIN_PIN = 27', 'RAIN_PIN = 25', ['differs RAIN.1']],
      ['pull=Pin.PULL_UP', 'pull=None', ['pull RAIN.1']],
      ['PWM(Pin(26), freq=200, duty=0)', 'PWM(Pin(34), freq=200, duty=0)', ['differs PUMP.G']],
      ['RAIN_PIN = 27', 'RAIN_PIN = 26 + 1', []],
    ],
  },
  {
    title: 'pins of a small board by their names',
    plan: {
      mcu: 'microbit-v2',
      parts: {
        BEEP: { part: 'buzzer-passive', title: 'Beep' },
        DIAL: { part: 'potentiometer', title: 'Dial' },
        DOOR: { part: 'limit-switch', title: 'Door' },
      },
      wires: 'BEEP.+ MCU.P0, DIAL.W MCU.P1, DOOR.C MCU.P8',
    },
    language: 'micropython',
    files: [
      [
        'safe.py',
        `from microbit import *

beep, dial, door = pin0, pin1, pin8
while True:
    if door.read_digital():
        beep.write_analog(dial.read_analog())
`,
      ],
    ],
    changes: [
      ['pin0, pin1, pin8', 'pin1, pin0, pin8', ['exchanged DIAL.W BEEP.+']],
      ['pin0, pin1, pin8', 'pin0, pin1, pin12', ['differs DOOR.C']],
      ['door.read_digital()', 'door.write_digital(1)', ['mode DOOR.C']],
    ],
  },
  {
    title: 'ports of the chip as text',
    plan: {
      mcu: 'stm32f411-blackpill',
      parts: { SHOW: { part: 'tm1637', title: 'Clock face' }, TURN: 'rotary-encoder' },
      wires: 'SHOW.CLK MCU.PB6, SHOW.DIO MCU.PB7, TURN.CLK MCU.PA0, TURN.DT MCU.PA1, TURN.SW MCU.PA2',
    },
    language: 'micropython',
    files: [
      [
        'timer.py',
        `from machine import Pin

clk = Pin("B6", Pin.OUT)
dio = Pin("B7", Pin.OPEN_DRAIN)
turn_clk = Pin(Pin.cpu.A0, Pin.IN, Pin.PULL_UP)
turn_dt = Pin(Pin.cpu.A1, Pin.IN, Pin.PULL_UP)
turn_sw = Pin(Pin.cpu.A2, Pin.IN, Pin.PULL_UP)
`,
      ],
    ],
    changes: [
      ['turn_clk = Pin(Pin.cpu.A0', 'turn_clk = Pin(Pin.cpu.A3', ['differs TURN.CLK']],
      ['Pin("B6", Pin.OUT)\ndio = Pin("B7"', 'Pin("B7", Pin.OUT)\ndio = Pin("B6"', ['exchanged SHOW.CLK SHOW.DIO']],
      ['Pin(Pin.cpu.A2, Pin.IN, Pin.PULL_UP)', 'Pin(Pin.cpu.A2, Pin.OUT)', ['mode TURN.SW']],
    ],
  },
  {
    title: 'a matrix of keys by two lists',
    plan: {
      mcu: 'pico',
      parts: { KEYS: 'keypad-4x3' },
      wires:
        'KEYS.R1 MCU.GP2, KEYS.R2 MCU.GP3, KEYS.R3 MCU.GP4, KEYS.R4 MCU.GP5, KEYS.C1 MCU.GP6, KEYS.C2 MCU.GP7, KEYS.C3 MCU.GP8',
    },
    language: 'micropython',
    files: [
      [
        'keys.py',
        `from machine import Pin

rows = [Pin(n, Pin.OUT) for n in (2, 3, 4, 5)]
cols = [Pin(n, Pin.IN, Pin.PULL_DOWN) for n in range(6, 9)]


def scan():
    for r, row in enumerate(rows):
        row.on()
        for c, col in enumerate(cols):
            if col.value():
                return r, c
        row.off()
`,
      ],
    ],
    changes: [
      ['(2, 3, 4, 5)', '(2, 3, 4, 9)', ['unknown', 'missing KEYS.R4']],
      ['range(6, 9)', 'range(6, 8)', ['missing KEYS.C3']],
      ['range(6, 9)', 'range(7, 10)', ['unknown', 'missing KEYS.C1']],
    ],
  },
  {
    title: 'a dictionary that is made item by item',
    plan: {
      mcu: 'pico',
      parts: {
        HEAT: { part: 'relay-1', title: 'Heat' },
        LIGHT: { part: 'relay-1', title: 'Light' },
        DOOR: { part: 'limit-switch', title: 'Door' },
      },
      wires: 'HEAT.IN MCU.GP18, LIGHT.IN MCU.GP19, DOOR.C MCU.GP20',
    },
    language: 'micropython',
    files: [
      [
        'oven.py',
        `from machine import Pin

NUMBERS = {"heat": 18, "light": 19}
relays = {name: Pin(number, Pin.OUT, value=1) for name, number in NUMBERS.items()}
door = Pin(20, Pin.IN, Pin.PULL_UP)
relays["heat"].value(door.value())
`,
      ],
    ],
    changes: [
      ['"heat": 18, "light": 19', '"heat": 19, "light": 18', ['exchanged HEAT.IN LIGHT.IN']],
      ['"light": 19', '"light": 21', ['differs LIGHT.IN']],
      ['Pin.OUT, value=1', 'Pin.IN', ['mode LIGHT.IN']],
    ],
  },
]
