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
const pico: Short = { mcu: 'pico', parts: { L: 'led' }, wires: '' }

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
