import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../../../testing/plans.ts'
import { resolve } from '../../../wiring/resolve.ts'
import { type RunResult, rehearse } from '../../run.ts'
import { readScript } from '../../script.ts'

const said = ({ printed }: RunResult): string[] => printed.map(({ text }) => text)
const run = (plan: Short, text: string, seconds = 2, steps = '  []'): RunResult => {
  const wiring = resolve(planOf(plan), catalog)
  const script = readScript(`rehearsal: 1\nsteps:\n${steps}`, 'x')
  if (!script.ok) throw new Error('the script cannot be read')
  return rehearse(wiring, wiring.boards[0]!, [{ name: 'main.py', text }], { seconds, script: script.value })
}
const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
const lit = ({ shown }: RunResult, ref = 'L'): [number, boolean][] =>
  shown[ref]!.map(({ at, words }): [number, boolean] => [Math.round(at / 100_000), words.startsWith('on')])

describe('what hangs on a single-board computer', () => {
  const desk = (parts: Short['parts'], wires: string): Short => ({ mcu: 'pi-40', parts, wires })
  const lamp = desk({ L: 'led', R: ohms(330) }, 'L.A R.1, R.2 MCU.27, L.K MCU.GND')
  it('blinks as often as asked, before the program goes on or beside it, until somebody switches it', () => {
    const zero = (calls: string): string =>
      `from gpiozero import LED\nfrom time import sleep\nled = LED(27)\n${calls}\n`
    const often = run(lamp, zero('led.blink(on_time=0.2, off_time=0.3, n=2, background=False)\nprint("over")'))
    expect(lit(often)).toEqual([
      [0, false],
      [0, true],
      [2, false],
      [5, true],
      [7, false],
    ])
    expect(often.printed[0]!.at / 1e6).toBeCloseTo(1, 1)
    const beside = run(lamp, zero('led.blink(0.2, 0.3)\nsleep(0.6)\nled.off()\nsleep(1)'))
    expect(lit(beside)).toEqual([
      [0, false],
      [0, true],
      [2, false],
      [5, true],
      [6, false],
    ])
  })
  it('has numbers by its pins, or by their places on the header', () => {
    const text = (mode: string, pin: number): string =>
      `import RPi.GPIO as GPIO\nGPIO.setmode(GPIO.${mode})\nGPIO.setup(${pin}, GPIO.OUT)\nGPIO.output(${pin}, GPIO.HIGH)\n`
    expect(run(lamp, text('BCM', 27), 1).shows.L).toMatch(/^on/)
    expect(run(lamp, text('BOARD', 13), 1).shows.L).toMatch(/^on/)
    expect(run(lamp, text('BOARD', 27), 1).shows.L).toBe('off')
  })
  it('measures distances, and sees what moves', () => {
    const plan = desk(
      { U: 'hc-sr04p', P: 'hc-sr501' },
      'U.VCC MCU.3V3, U.GND MCU.GND, U.TRIG MCU.23, U.ECHO MCU.24, P.VCC MCU.5V, P.GND MCU.GND, P.OUT MCU.17',
    )
    const text = `from gpiozero import DistanceSensor, MotionSensor
from time import sleep
far = DistanceSensor(echo=24, trigger=23, max_distance=2)
eye = MotionSensor(17)
eye.when_motion = lambda: print("moves")
eye.when_no_motion = lambda: print("still")
for _ in range(3):
    print(round(far.distance, 2), eye.motion_detected)
    sleep(0.5)
`
    const steps =
      '  - { at: 0.3, set: { U: 120 } }\n  - { at: 0.7, set: { P: high } }\n  - { at: 1.2, set: { P: low } }'
    expect(said(run(plan, text, 2, steps))).toEqual(['0.5 False', '1.19 False', 'moves', '1.19 True', 'still'])
  })
  it('moves figures, motors and colours', () => {
    const plan = desk(
      { S: 'servo-sg90', C: { part: 'rgb-led', options: {} }, A: ohms(330), B: ohms(330), D: ohms(330) },
      'S.VCC MCU.5V, S.GND MCU.GND, S.SIG MCU.18, C.R A.1, A.2 MCU.5, C.G B.1, B.2 MCU.6, C.B D.1, D.2 MCU.13, C.COM MCU.GND',
    )
    const text = `from gpiozero import AngularServo, RGBLED
s = AngularServo(18, min_angle=0, max_angle=180, min_pulse_width=0.0005, max_pulse_width=0.0025)
s.angle = 90
print(s.angle)
c = RGBLED(5, 6, 13)
c.color = (1, 0, 0.5)
print(c.color)
`
    const result = run(plan, text, 1)
    expect(said(result)).toEqual(['90.0', '(1.0, 0.0, 0.5)'])
    expect(result.shows.S).toContain('1.50 ms')
  })
  it('turns a motor both ways, and as fast as asked', () => {
    const plan = desk(
      {
        H: 'l9110s',
        M: { part: 'dc-motor', options: { volts: 6 } },
        B: { part: 'battery-box', options: { volts: 6 } },
      },
      'H.VCC B.+, H.GND B.-, H.GND MCU.GND, H.A-IA MCU.20, H.A-IB MCU.21, H.OA1 M.M1, H.OA2 M.M2',
    )
    const text = (call: string): string =>
      `from gpiozero import Motor\nfrom time import sleep\nm = Motor(forward=20, backward=21)\n${call}\nsleep(1)\n`
    const shows = ['m.forward()', 'm.backward(0.5)', 'm.forward()\nsleep(0.2)\nm.stop()'].map(
      (call) => run(plan, text(call), 1).shows.M,
    )
    expect(new Set(shows).size).toBe(3)
    expect(shows[2]).toBe('rests')
  })
  it('has outputs that are on while their pin is low, from the start', () => {
    const relay = desk({ K: 'relay-1' }, 'K.VCC MCU.5V, K.GND MCU.GND, K.IN MCU.17')
    const text = (call: string): string =>
      `from gpiozero import OutputDevice\nk = OutputDevice(17, active_high=False)\n${call}\nprint(k.value)\n`
    const shows = ['', 'k.on()', 'k.toggle()\nk.toggle()'].map((call) => run(relay, text(call), 1))
    expect(shows.map(said)).toEqual([['0'], ['1'], ['0']])
    expect(shows[0]!.shows.K).toBe(shows[2]!.shows.K)
    expect(shows[1]!.shows.K).not.toBe(shows[0]!.shows.K)
    const first = run(lamp, 'from gpiozero import LED\nled = LED(27, initial_value=True)\n', 1)
    expect(first.shows.L).toMatch(/^on/)
  })
  it('fades up and down as often as asked', () => {
    const text = (call: string): string =>
      `from gpiozero import PWMLED\nled = PWMLED(27)\n${call}\nprint("over", led.value, led.is_lit)\n`
    const result = run(lamp, text('led.pulse(fade_in_time=0.4, fade_out_time=0.2, n=2, background=False)'))
    expect(said(result)).toEqual(['over 0.0 False'])
    expect(result.printed[0]!.at / 1e6).toBeCloseTo(1.2, 1)
    // 25 steps a second, up and down, each brighter or darker than the one before.
    expect(new Set(result.shown.L!.map(({ words }) => words)).size).toBeGreaterThan(8)
    expect(result.findings).toEqual([])
    expect(said(run(lamp, text('led.value = 0.3\nled.toggle()')))).toEqual(['over 0.7 True'])
    const beside = run(lamp, text('led.blink(0.1, 0.1)\nled.off()'))
    expect(beside.shown.L!.every(({ at }) => at < 100_000)).toBe(true)
  })
  const keyed = desk({ B: 'button' }, 'B.1 MCU.4, B.2 MCU.GND')
  const pressed = '  - { at: 0.5, set: { B: pressed } }\n  - { at: 2.7, set: { B: released } }'
  it('waits for a button, and not longer than asked', () => {
    const text = `from gpiozero import Button
b = Button(4)
print(b.wait_for_press(timeout=0.2))
print(b.wait_for_press(1))
print(b.is_pressed)
print(b.wait_for_release())
`
    const result = run(keyed, text, 4, pressed)
    expect(said(result)).toEqual(['False', 'True', 'True', 'True'])
    expect(result.printed.map(({ at }) => Math.round(at / 100_000))).toEqual([2, 5, 5, 27])
  })
  it('tells what is held, once or again and again, and what is let go before that', () => {
    const text = (settings: string): string => `from gpiozero import Button
from signal import pause
b = Button(4, ${settings})
b.when_held = lambda: print("held")
b.when_released = lambda: print("gone")
pause()
`
    expect(said(run(keyed, text('hold_time=1.5'), 4, pressed))).toEqual(['held', 'gone'])
    expect(said(run(keyed, text('hold_time=0.6, hold_repeat=True'), 4, pressed))).toEqual([
      'held',
      'held',
      'held',
      'gone',
    ])
    expect(said(run(keyed, text('hold_time=3'), 4, pressed))).toEqual(['gone'])
  })
  it('drives two motors under one vehicle', () => {
    const plan = desk(
      {
        H: 'l9110s',
        M: { part: 'dc-motor', options: { volts: 6 } },
        N: { part: 'dc-motor', options: { volts: 6 } },
        B: { part: 'battery-box', options: { volts: 6 } },
      },
      'H.VCC B.+, H.GND B.-, H.GND MCU.GND, H.A-IA MCU.20, H.A-IB MCU.21, H.B-IA MCU.19, H.B-IB MCU.26, H.OA1 M.M1, H.OA2 M.M2, H.OB1 N.M1, H.OB2 N.M2',
    )
    const text = (call: string): string =>
      `from gpiozero import Robot, Motor\ncar = Robot(left=(20, 21), right=Motor(19, 26))\n${call}\n`
    const [ahead, round, stopped] = ['car.forward()', 'car.left(0.5)', 'car.backward()\ncar.stop()'].map(
      (call) => run(plan, text(call), 1).shows,
    )
    expect(ahead!.M).toBe(ahead!.N)
    expect(round!.M).not.toBe(round!.N)
    expect([stopped!.M, stopped!.N]).toEqual(['rests', 'rests'])
  })
})
