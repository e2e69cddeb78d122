import type { ProgramCase } from './case.ts'

/** Programs for single-board computers. */
export const pythonPrograms: readonly ProgramCase[] = [
  {
    title: 'a robot arm over the service of pins',
    plan: {
      boards: { PI: { board: 'pi-40' } },
      parts: {
        BASE: { part: 'servo-sg90', title: 'Base' },
        GRIP: { part: 'servo-sg90', title: 'Grip' },
        STOP: { part: 'button', title: 'Stop key' },
      },
      wires: 'BASE.SIG PI.GPIO12, GRIP.SIG PI.GPIO13, STOP.1 PI.GPIO16, STOP.2 PI.GND',
    },
    language: 'python',
    files: [
      [
        'arm.py',
        `import pigpio

BASE, GRIP, STOP = 12, 13, 16
pi = pigpio.pi()
pi.set_mode(STOP, pigpio.INPUT)
pi.set_pull_up_down(STOP, pigpio.PUD_UP)
pi.set_servo_pulsewidth(BASE, 1500)
pi.set_servo_pulsewidth(GRIP, 1000)
while pi.read(STOP):
    pass
`,
      ],
    ],
    changes: [
      ['12, 13, 16', '13, 12, 16', ['exchanged BASE.SIG GRIP.SIG']],
      ['12, 13, 16', '12, 13, 20', ['differs STOP.1']],
      ['12, 13, 16', '32, 33, 36', ['numbering BASE.SIG', 'numbering GRIP.SIG', 'numbering STOP.1']],
      ['pi.set_mode(STOP, pigpio.INPUT)', 'pi.set_mode(STOP, pigpio.OUTPUT)', ['mode STOP.1']],
    ],
  },
  {
    title: 'objects for everything, with names and keyword arguments',
    plan: {
      boards: { PI: { board: 'pi-40' } },
      parts: {
        HALL: { part: 'hc-sr501', title: 'Hall' },
        FRONT: { part: 'hc-sr04p', title: 'Front' },
        SIREN: { part: 'buzzer-active', title: 'Siren' },
        MOOD: { part: 'rgb-led', title: 'Mood' },
      },
      wires:
        'HALL.OUT PI.GPIO4, FRONT.TRIG PI.GPIO23, FRONT.ECHO PI.GPIO24, SIREN.+ PI.GPIO18, MOOD.R PI.GPIO17, MOOD.G PI.GPIO27, MOOD.B PI.GPIO22',
    },
    language: 'python',
    files: [
      [
        'guard.py',
        `from gpiozero import RGBLED, Buzzer, DistanceSensor, MotionSensor

hall = MotionSensor(4)
front = DistanceSensor(echo=24, trigger=23, max_distance=2)
siren = Buzzer(18)
mood = RGBLED(17, 27, 22)
hall.when_motion = siren.on
`,
      ],
    ],
    changes: [
      ['echo=24, trigger=23', 'echo=23, trigger=24', ['exchanged FRONT.ECHO FRONT.TRIG']],
      ['MotionSensor(4)', 'MotionSensor(7)', ['numbering HALL.OUT']],
      ['MotionSensor(4)', 'MotionSensor("J8:7")', []],
      ['MotionSensor(4)', 'MotionSensor("BOARD11")', ['differs HALL.OUT']],
      ['RGBLED(17, 27, 22)', 'RGBLED(27, 17, 22)', ['exchanged MOOD.R MOOD.G']],
      ['Buzzer(18)', 'Buzzer(25)', ['differs SIREN.+']],
    ],
  },
  {
    title: 'header positions all through, with lists',
    plan: {
      boards: { PI: { board: 'pi-40' } },
      parts: { BANK: { part: 'relay-4', title: 'Sprinklers' }, TANK: { part: 'reed-switch', title: 'Float' } },
      wires:
        'BANK.IN1 PI.GPIO5, BANK.IN2 PI.GPIO6, BANK.IN3 PI.GPIO13, BANK.IN4 PI.GPIO19, TANK.1 PI.GPIO26, TANK.2 PI.GND',
    },
    language: 'python',
    files: [
      [
        'water.py',
        `import RPi.GPIO as GPIO

SPRINKLERS = [29, 31, 33, 35]
FLOAT = 37

GPIO.setmode(GPIO.BOARD)
GPIO.setup(SPRINKLERS, GPIO.OUT, initial=GPIO.HIGH)
GPIO.setup(FLOAT, GPIO.IN, pull_up_down=GPIO.PUD_UP)
for relay in SPRINKLERS:
    GPIO.output(relay, GPIO.LOW)
`,
      ],
    ],
    changes: [
      [
        'GPIO.setmode(GPIO.BOARD)',
        'GPIO.setmode(GPIO.BCM)',
        ['numbering BANK.IN1', 'numbering BANK.IN2', 'numbering BANK.IN3', 'numbering BANK.IN4', 'numbering TANK.1'],
      ],
      ['29, 31, 33, 35', '29, 31, 33, 36', ['unknown', 'missing BANK.IN4']],
      ['FLOAT = 37', 'FLOAT = 38', ['differs TANK.1']],
      ['FLOAT = 37', 'FLOAT = 39', ['differs TANK.1']],
    ],
  },
  {
    title: 'I2C devices by their addresses and an expander',
    plan: {
      boards: { PI: { board: 'pi-40' } },
      parts: { MORE: 'mcp23017', VOLTS: { part: 'ads1115', title: 'Volts' } },
      wires: 'MORE.SDA PI.GPIO2, MORE.SCL PI.GPIO3, VOLTS.SDA PI.GPIO2, VOLTS.SCL PI.GPIO3',
    },
    language: 'python',
    files: [
      [
        'panel.py',
        `from smbus2 import SMBus

MORE = 0x20
VOLTS = 0x48
with SMBus(1) as bus:
    bus.write_byte_data(MORE, 0x00, 0x00)
    print(bus.read_word_data(VOLTS, 0))
`,
      ],
    ],
    changes: [
      ['VOLTS = 0x48', 'VOLTS = 0x49', ['address VOLTS']],
      ['MORE = 0x20', 'MORE = 0x21', ['address MORE']],
      ['MORE = 0x20', 'MORE = 32', []],
    ],
  },
  {
    title: 'lines of the kernel by their numbers',
    plan: {
      boards: { PI: { board: 'pi-40' } },
      parts: { LAMP: { part: 'led', title: 'Lamp' }, R1: 'resistor', DOOR: { part: 'limit-switch', title: 'Door' } },
      wires: 'LAMP.A R1.1, R1.2 PI.GPIO20, LAMP.K PI.GND, DOOR.C PI.GPIO21',
    },
    language: 'python',
    files: [
      [
        'door.py',
        `import lgpio

LAMP = 20
DOOR = 21
chip = lgpio.gpiochip_open(0)
lgpio.gpio_claim_output(chip, LAMP)
lgpio.gpio_claim_input(chip, DOOR, lgpio.SET_PULL_UP)
lgpio.gpio_write(chip, LAMP, lgpio.gpio_read(chip, DOOR))
`,
      ],
    ],
    changes: [
      ['LAMP = 20\nDOOR = 21', 'LAMP = 21\nDOOR = 20', ['exchanged LAMP.A DOOR.C']],
      ['LAMP = 20', 'LAMP = 38', ['numbering LAMP.A']],
      ['DOOR = 21', 'DOOR = 16', ['differs DOOR.C']],
      ['gpio_claim_input(chip, DOOR, lgpio.SET_PULL_UP)', 'gpio_claim_output(chip, DOOR)', ['mode DOOR.C']],
    ],
  },
  {
    title: 'another single-board computer, in a class with a table',
    plan: {
      boards: { JET: { board: 'jetson-nano-40' } },
      parts: { CAMS: { part: 'relay-2', title: 'Camera lights' }, DOOR: { part: 'ttp223', title: 'Hatch' } },
      wires: 'CAMS.IN1 JET.GPIO12, CAMS.IN2 JET.GPIO01, DOOR.IO JET.GPIO11',
    },
    language: 'python',
    files: [
      [
        'hatch.py',
        `import Jetson.GPIO as GPIO


class Lights:
    PINS = {"left": 15, "right": 29}

    def __init__(self):
        for pin in self.PINS.values():
            GPIO.setup(pin, GPIO.OUT)

    def on(self, which):
        GPIO.output(self.PINS[which], GPIO.LOW)


HATCH = 31
GPIO.setmode(GPIO.BOARD)
lights = Lights()
GPIO.setup(HATCH, GPIO.IN)
if GPIO.input(HATCH):
    lights.on("left")
`,
      ],
    ],
    changes: [
      ['"right": 29', '"right": 33', ['differs CAMS.IN2']],
      ['HATCH = 31', 'HATCH = 32', ['differs DOOR.IO']],
      ['GPIO.setup(HATCH, GPIO.IN)', 'GPIO.setup(HATCH, GPIO.OUT)', ['mode DOOR.IO']],
    ],
  },
  {
    title: 'several files, with the numbers in one and a function in another',
    plan: {
      boards: { PI: { board: 'pi-40' } },
      parts: {
        TRAIN: { part: 'l298n', title: 'Train' },
        MOTOR: 'dc-motor',
        HALT: { part: 'hall-a3144', title: 'Station' },
      },
      wires: 'TRAIN.ENA PI.GPIO18, TRAIN.IN1 PI.GPIO23, TRAIN.IN2 PI.GPIO24, HALT.OUT PI.GPIO25',
    },
    language: 'python',
    files: [
      [
        'train.py',
        `import RPi.GPIO as GPIO
from numbers_of import ENA, HALT, IN1, IN2
from rail import prepare

GPIO.setmode(GPIO.BCM)
speed = prepare(ENA, (IN1, IN2))
GPIO.setup(HALT, GPIO.IN, pull_up_down=GPIO.PUD_UP)
GPIO.add_event_detect(HALT, GPIO.FALLING, callback=lambda pin: speed.stop())
`,
      ],
      ['numbers_of.py', 'ENA = 18\nIN1 = 23\nIN2 = 24\nHALT = 25\n'],
      [
        'rail.py',
        'import RPi.GPIO as GPIO\n\n\ndef prepare(enable, directions):\n    for pin in directions:\n        GPIO.setup(pin, GPIO.OUT)\n    GPIO.setup(enable, GPIO.OUT)\n    return GPIO.PWM(enable, 500)\n',
      ],
    ],
    changes: [
      ['IN1 = 23\nIN2 = 24', 'IN1 = 24\nIN2 = 23', ['exchanged TRAIN.IN1 TRAIN.IN2']],
      [
        'ENA = 18\nIN1 = 23\nIN2 = 24\nHALT = 25',
        'ENA = 12\nIN1 = 16\nIN2 = 18\nHALT = 22',
        ['numbering TRAIN.ENA', 'numbering TRAIN.IN1', 'numbering TRAIN.IN2', 'numbering HALT.OUT'],
      ],
      ['HALT = 25', 'HALT = 8', ['differs HALT.OUT']],
      ['GPIO.setup(HALT, GPIO.IN, pull_up_down=GPIO.PUD_UP)\n', 'GPIO.setup(HALT, GPIO.OUT)\n', ['mode HALT.OUT']],
    ],
  },
  {
    title: 'pins of a small chip module from a computer program, in CircuitPython',
    plan: {
      boards: { PI: { board: 'pi-40' } },
      parts: { PANEL: { part: 'max7219', title: 'Panel' }, KEY: { part: 'button', title: 'Key' } },
      wires: 'PANEL.CLK PI.GPIO11, PANEL.DIN PI.GPIO10, PANEL.CS PI.GPIO8, KEY.1 PI.GPIO5, KEY.2 PI.GND',
    },
    language: 'circuitpython',
    files: [
      [
        'panel.py',
        `import board
import busio
import digitalio

spi = busio.SPI(board.D11, MOSI=board.D10)
cs = digitalio.DigitalInOut(board.D8)
cs.switch_to_output(value=True)
key = digitalio.DigitalInOut(board.D5)
key.switch_to_input(pull=digitalio.Pull.UP)
`,
      ],
    ],
    changes: [
      ['busio.SPI(board.D11, MOSI=board.D10)', 'busio.SPI(board.D10, MOSI=board.D11)', ['exchanged PANEL']],
      ['DigitalInOut(board.D8)', 'DigitalInOut(board.D7)', ['differs PANEL.CS']],
      ['key = digitalio.DigitalInOut(board.D5)', 'key = digitalio.DigitalInOut(board.D29)', ['differs KEY.1']],
    ],
  },
]
