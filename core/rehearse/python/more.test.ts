import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../../testing/plans.ts'
import { resolve } from '../../wiring/resolve.ts'
import { type RunResult, rehearse } from '../run.ts'
import { readScript } from '../script.ts'

const said = ({ printed }: RunResult): string[] => printed.map(({ text }) => text)
const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind }) => kind)
const run = (plan: Short, text: string, seconds = 2, steps = '  []', name = 'main.py'): RunResult => {
  const wiring = resolve(planOf(plan), catalog)
  const script = readScript(`rehearsal: 1\nsteps:\n${steps}`, 'x')
  if (!script.ok) throw new Error('the script cannot be read')
  return rehearse(wiring, wiring.boards[0]!, [{ name, text }], { seconds, script: script.value })
}
const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
const pico: Short = { mcu: 'pico', parts: { L: 'led' }, wires: '' }
const lit = ({ shown }: RunResult, ref = 'L'): [number, boolean][] =>
  shown[ref]!.map(({ at, words }): [number, boolean] => [Math.round(at / 100_000), words.startsWith('on')])

describe('files of a board', () => {
  it('keep what is written, in pieces and line by line', () => {
    const text = `import os
with open("log.csv", "w") as f:
    f.write("a,1\\n")
    f.write("b,2\\n")
with open("log.csv", "a") as f:
    print(f.write("c,3\\n"))
with open("log.csv") as f:
    for line in f:
        print(line.strip().split(","))
f = open("/log.csv")
print(repr(f.readline()), repr(f.read(3)), f.tell(), repr(f.read()), repr(f.read()))
f.seek(0)
print(len(f.readlines()))
f.close()
print(os.listdir(), os.stat("log.csv")[6])
open("b.bin", "wb").write(bytes([1, 255]))
print(list(open("b.bin", "rb").read()))
os.rename("b.bin", "c.bin")
os.remove("log.csv")
print(os.listdir("/"))
`
    const result = run(pico, text)
    expect(said(result)).toEqual([
      '4',
      "['a', '1']",
      "['b', '2']",
      "['c', '3']",
      "'a,1\\n' 'b,2' 7 '\\nc,3\\n' ''",
      '3',
      "['log.csv'] 12",
      '[1, 255]',
      "['c.bin']",
    ])
    expect(kinds(result)).toEqual([])
  })
  it('are missing, closed or only read where they are', () => {
    const text = `def tried(run):
    try:
        run()
    except OSError as e:
        print("error", e.args[0])
tried(lambda: open("none.txt"))
f = open("x.txt", "w")
f.close()
tried(lambda: f.write("late"))
tried(lambda: open("x.txt").write("only read"))
`
    expect(said(run(pico, text))).toEqual(['error 2', 'error 9', 'error 9'])
  })
})

describe('tasks that take turns', () => {
  it('wait for events, locks, rows and each other, and no longer than asked', () => {
    const text = `import asyncio
lock, event, row = asyncio.Lock(), asyncio.Event(), asyncio.Queue(1)
async def giver():
    for i in range(3):
        await row.put(i)
        print("put", i)
async def taker():
    while True:
        await asyncio.sleep(0.1)
        print("got", await row.get())
async def careful(name, seconds):
    async with lock:
        print(name, "in")
        await asyncio.sleep(seconds)
        print(name, "out")
async def waiter():
    await event.wait()
    return "called"
async def main():
    asyncio.create_task(taker())
    await asyncio.gather(giver(), careful("a", 0.3), careful("b", 0.1))
    w = asyncio.create_task(waiter())
    event.set()
    print(await w, event.is_set(), lock.locked())
    try:
        await asyncio.wait_for(asyncio.sleep(5), 0.2)
    except asyncio.TimeoutError:
        print("too late")
    t = asyncio.create_task(asyncio.sleep(60))
    t.cancel()
    print(t.done())
asyncio.run(main())
`
    const lines = said(run(pico, text, 4))
    expect(lines.filter((line) => /^[ab] /.test(line))).toEqual(['a in', 'a out', 'b in', 'b out'])
    expect(lines.filter((line) => /^(put|got)/.test(line))).toEqual([
      'put 0',
      'got 0',
      'put 1',
      'got 1',
      'put 2',
      'got 2',
    ])
    expect(lines.slice(-3)).toEqual(['called True False', 'too late', 'True'])
  })
})

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
})

describe('figures on a board', () => {
  it('are set by their angle, whatever word stands before the module', () => {
    const plan: Short = {
      mcu: 'pico',
      parts: { S: 'servo-sg90' },
      wires: 'S.VCC MCU.VBUS, S.GND MCU.GND, S.SIG MCU.GP16',
    }
    const text = (call: string): string =>
      `import board, pwmio\nfrom maker_motor import servo\npwm = pwmio.PWMOut(board.GP16, duty_cycle=0, frequency=50)\ns = servo.Servo(pwm, min_pulse=500, max_pulse=2500)\n${call}\n`
    expect(run(plan, text('s.angle = 45'), 1, '  []', 'code.py').shows.S).toContain('1.00 ms')
    expect(run(plan, text('s.fraction = 0.75'), 1, '  []', 'code.py').shows.S).toContain('2.00 ms')
  })
})
