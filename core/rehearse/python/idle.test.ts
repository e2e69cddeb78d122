import { describe, expect, it } from 'vitest'
import { bench, once, seen } from '../../testing/bothWays.ts'

const pico = bench('pico', (n) => `GP${n}`, 'GP26', '3V3')
const boards = {
  micro: { short: pico, name: 'main.py' },
  circuit: { short: pico, name: 'code.py' },
  desk: { short: bench('pi-40', (n) => `GPIO${n}`, 'GPIO26', '3V3'), name: 'a.py' },
}
type Share = readonly [least: number, most: number]
const MOST: Share = [0.5, 1]
const NONE: Share = [0, 0.05]

const MICRO =
  'from machine import Pin, ADC\nimport time\nlamp = Pin(5, Pin.OUT)\nkey = Pin(2, Pin.IN, Pin.PULL_UP)\nknob = ADC(26)\n'
const CIRCUIT =
  'import board, digitalio, time\nlamp = digitalio.DigitalInOut(board.GP5)\nlamp.direction = digitalio.Direction.OUTPUT\nkey = digitalio.DigitalInOut(board.GP2)\nkey.pull = digitalio.Pull.UP\n'
const DESK =
  'import RPi.GPIO as GPIO\nimport time\nGPIO.setmode(GPIO.BCM)\nGPIO.setup(5, GPIO.OUT)\nGPIO.setup(2, GPIO.IN, pull_up_down=GPIO.PUD_UP)\n'

/** Title, board, program, and the least and the most share of its rounds that can be passed over. */
const programs: readonly (readonly [string, keyof typeof boards, string, Share])[] = [
  ['a lamp that follows a button', 'micro', `${MICRO}while True:\n    lamp.value(not key.value())\n`, MOST],
  [
    'a lamp by the clock',
    'micro',
    `${MICRO}then = time.ticks_ms()\nwhile True:\n    if time.ticks_diff(time.ticks_ms(), then) >= 37:\n        then = time.ticks_ms()\n        lamp.toggle()\n`,
    MOST,
  ],
  [
    'a button that settles, in a function with variables of its own',
    'micro',
    `${MICRO}def main():
    last, level, changed, presses = 1, 1, 0, 0
    while True:
        now = key()
        if now != last:
            changed = time.ticks_ms()
        if time.ticks_diff(time.ticks_ms(), changed) > 20 and now != level:
            level = now
            if not level:
                presses += 1
                print(presses)
                lamp.value(presses & 1)
        last = now
main()
`,
    MOST,
  ],
  [
    'a knob with a limit, by floats, lists and a comprehension',
    'micro',
    `${MICRO}limits = [0.25, 0.5]\nwhile True:\n    share = knob.read_u16() / 65535\n    seen = [share > one for one in limits]\n    lamp.value(all(seen))\n`,
    MOST,
  ],
  [
    'objects that keep a state',
    'micro',
    `${MICRO}class Flap:
    def __init__(self, pin, each):
        self.pin = pin
        self.each = each
        self.since = 0
        self.on = False
    def run(self):
        now = time.ticks_ms()
        if now - self.since >= self.each:
            self.since = now
            self.on = not self.on
            self.pin.value(self.on)
flaps = {'a': Flap(lamp, 23)}
while True:
    for name, flap in flaps.items():
        flap.run()
`,
    MOST,
  ],
  [
    'waits for a press in a loop of its own',
    'micro',
    `${MICRO}while True:\n    while key.value():\n        pass\n    lamp.on()\n    while not key.value():\n        pass\n    lamp.off()\n    print(time.ticks_ms())\n`,
    MOST,
  ],
  [
    'an interrupt changes what a loop asks',
    'micro',
    `${MICRO}edges = 0\ndef edge(pin):\n    global edges\n    edges += 1\nkey.irq(edge)\ntold = 0\nwhile True:\n    if edges != told:\n        told = edges\n        print(told)\n`,
    MOST,
  ],
  [
    'whole seconds of the clock',
    'micro',
    `${MICRO}began = time.time()\nwhile True:\n    if time.time() != began:\n        began = time.time()\n        print(began)\n`,
    MOST,
  ],
  [
    'counts its rounds',
    'micro',
    `${MICRO}n = 0\nwhile True:\n    n += 1\n    if n % 500 == 0:\n        print(n)\n`,
    NONE,
  ],
  [
    'counts in a list of a list',
    'micro',
    `${MICRO}n = [[0]]\nwhile True:\n    n[0][0] += 1\n    if n[0][0] % 500 == 0:\n        print(n)\n`,
    NONE,
  ],
  [
    'counts in what a function keeps',
    'micro',
    `${MICRO}def counter():\n    n = 0\n    def more():\n        nonlocal n\n        n += 1\n        return n\n    return more\nmore = counter()\nwhile True:\n    if more() % 500 == 0:\n        print('so many')\n`,
    NONE,
  ],
  [
    'counts in an argument that is made once',
    'micro',
    `${MICRO}def more(kept=[0]):\n    kept[0] += 1\n    return kept[0]\nwhile True:\n    if more() % 500 == 0:\n        print('so many')\n`,
    NONE,
  ],
  [
    'counts in its class',
    'micro',
    `${MICRO}class Tally:\n    n = 0\n    @classmethod\n    def more(cls):\n        cls.n += 1\n        return cls.n\nwhile True:\n    if Tally.more() % 500 == 0:\n        print(Tally.n)\n`,
    NONE,
  ],
  [
    'counts by a bound method',
    'micro',
    `${MICRO}class Tally:\n    def __init__(self):\n        self.n = 0\n    def more(self):\n        self.n += 1\n        return self.n\nmore = Tally().more\nwhile True:\n    if more() % 500 == 0:\n        print('so many')\n`,
    NONE,
  ],
  [
    'takes the next of a generator',
    'micro',
    `${MICRO}def all_of():\n    n = 0\n    while True:\n        n += 1\n        yield n\nall = all_of()\nwhile True:\n    if next(all) % 500 == 0:\n        print('so many')\n`,
    NONE,
  ],
  [
    'goes on with what it has begun to go through',
    'micro',
    `${MICRO}ways = iter([0, 1] * 400)\nwhile True:\n    for way in ways:\n        lamp.value(way)\n        break\n    else:\n        print('over')\n        ways = iter([0, 1] * 400)\n`,
    NONE,
  ],
  [
    'turns a deque',
    'micro',
    `${MICRO}from collections import deque\nline = deque([1, 2, 3, 4, 5], 5)\nwhile True:\n    line.append(line.popleft())\n    if line[0] == 3 and key.value() == 0:\n        print('three')\n        time.sleep_ms(5)\n`,
    NONE,
  ],
  [
    'draws lots',
    'micro',
    `${MICRO}import random\nwhile True:\n    if random.randint(0, 5000) == 7:\n        print(time.ticks_ms())\n`,
    NONE,
  ],
  [
    'changes two numbers for each other',
    'micro',
    `${MICRO}a, b = 1, 1.0\nwhile True:\n    a, b = b, a\n    if not key.value():\n        print(a)\n        time.sleep_ms(5)\n`,
    NONE,
  ],
  [
    'goes with a pulse that a knob sets',
    'micro',
    `from machine import Pin, ADC, PWM\nknob = ADC(26)\nlamp = PWM(Pin(5), freq=1000)\nwhile True:\n    lamp.duty_u16(knob.read_u16())\n`,
    NONE,
  ],
  [
    'watches the fine clock',
    'micro',
    `${MICRO}then = time.ticks_us()\nwhile True:\n    if time.ticks_diff(time.ticks_us(), then) > 7001:\n        then = time.ticks_us()\n        lamp.toggle()\n`,
    NONE,
  ],
  [
    'by the clock of milliseconds',
    'circuit',
    `${CIRCUIT}told = time.monotonic()\nwhile True:\n    if time.monotonic() - told >= 0.05:\n        told = time.monotonic()\n        lamp.value = not lamp.value\n`,
    MOST,
  ],
  ['a lamp that follows a button', 'circuit', `${CIRCUIT}while True:\n    lamp.value = not key.value\n`, MOST],
  [
    'a lamp that follows a button',
    'desk',
    `${DESK}while True:\n    if GPIO.input(2) == 0:\n        GPIO.output(5, GPIO.HIGH)\n    else:\n        GPIO.output(5, GPIO.LOW)\n`,
    MOST,
  ],
  [
    'a lamp by a class that speaks of it',
    'desk',
    `from gpiozero import LED, Button\nlamp, key = LED(5), Button(2)\nwhile True:\n    if key.is_pressed:\n        lamp.on()\n    else:\n        lamp.off()\n`,
    MOST,
  ],
  [
    'a lamp that blinks beside the program until a button is pressed',
    'desk',
    `from gpiozero import LED, Button\nlamp, key = LED(5), Button(2)\nlamp.blink(0.02, 0.03)\nwhile True:\n    if key.is_pressed:\n        lamp.on()\n`,
    MOST,
  ],
]

describe('rounds in which nothing happens are passed over, and the run is the same, in Python', () => {
  for (const [title, board, text, [least, most]] of programs) {
    it(`${title}, ${board}`, () => {
      const { short, name } = boards[board]
      const seconds = board === 'desk' ? 0.2 : 0.45
      const fast = once(short, text, false, seconds, name)
      expect(seen(fast)).toEqual(seen(once(short, text, true, seconds, name)))
      expect(fast.findings.filter(({ kind }) => kind === 'stopped' || kind === 'not-understood')).toEqual([])
      const share = fast.passed / Math.max(1, fast.statements)
      expect(share).toBeGreaterThanOrEqual(least)
      expect(share).toBeLessThanOrEqual(most)
    })
  }

  it('counts in another file', () => {
    const { short, name } = boards.micro
    const text = `${MICRO}from tally import more\nwhile True:\n    if more() % 500 == 0:\n        print('so many')\n`
    const others = [{ name: 'tally.py', text: 'n = 0\ndef more():\n    global n\n    n += 1\n    return n\n' }]
    const fast = once(short, text, false, 0.45, name, others)
    expect(seen(fast)).toEqual(seen(once(short, text, true, 0.45, name, others)))
    expect(fast.passed).toBe(0)
    expect(fast.printed.length).toBeGreaterThan(2)
  })
})
