import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../../testing/plans.ts'
import { resolve } from '../../wiring/resolve.ts'
import { rehearseTogether } from '../together.ts'

/** Two boards with programs of their own; what HERE has printed, and what was found. */
function talk(
  plan: Short,
  programs: Readonly<Record<string, { name: string; text: string }>>,
  seconds = 1,
): { printed: string[]; found: string[] } {
  const wiring = resolve(planOf(plan), catalog)
  const players = Object.entries(programs).map(([ref, file]) => ({
    board: wiring.boards.find((one) => one.ref === ref)!,
    files: [file],
  }))
  const { runs } = rehearseTogether(wiring, players, { seconds, script: undefined })
  const printed = runs.get('HERE')!.printed.flatMap(({ line, text }) => (/^(UART|Serial1)/.test(line) ? [] : [text]))
  return { printed, found: [...runs.values()].flatMap(({ findings }) => findings.map(({ kind }) => kind)) }
}
const py = (text: string) => ({ name: 'main.py', text })
const echo = (baud: number) => ({
  name: 'a.ino',
  text: `void setup() { Serial1.begin(${baud}); }\nvoid loop() { if (Serial1.available()) { String line = Serial1.readStringUntil('\\n'); Serial1.print(line); Serial1.print(" there\\n"); } }`,
})
const pico: Short = {
  boards: { HERE: { board: 'pico' }, THERE: { board: 'pico' } },
  parts: {},
  wires: 'HERE.GND THERE.GND, HERE.GP0 THERE.GP1, HERE.GP1 THERE.GP0',
}

describe('a serial line in Python', () => {
  it('speaks with another board over its usual pins, and says nothing where nothing has come', () => {
    const text =
      'from machine import UART\nimport time\nu = UART(0, 9600)\nprint(u.read(), u.any())\nu.write("hello\\n")\ntime.sleep_ms(100)\nprint(u.any())\nprint(u.readline())\n'
    expect(talk(pico, { HERE: py(text), THERE: echo(9600) }).printed).toEqual(['None 0', '12', "b'hello there\\n'"])
  })
  it('on the pins that it names, which the plan has wired or not', () => {
    const text = (tx: number, rx: number): string =>
      `from machine import UART, Pin\nimport time\nu = UART(1, baudrate=9600, tx=Pin(${tx}), rx=Pin(${rx}))\nu.write(b"hi\\n")\ntime.sleep(0.1)\nprint(u.any())\n`
    const moved: Short = { ...pico, wires: 'HERE.GND THERE.GND, HERE.GP8 THERE.GP1, HERE.GP9 THERE.GP0' }
    expect(talk(moved, { HERE: py(text(8, 9)), THERE: echo(9600) }).printed).toEqual(['9'])
    expect(talk(moved, { HERE: py(text(4, 5)), THERE: echo(9600) }).printed).toEqual(['0'])
  })
  it('gives one line after the other', () => {
    const both = {
      name: 'a.ino',
      text: 'void setup() { Serial1.begin(9600); delay(20); Serial1.print("a\\nbc\\nd"); }\nvoid loop() { delay(10); }',
    }
    const text =
      'from machine import UART\nimport time\nu = UART(0, 9600)\ntime.sleep(0.2)\nprint(u.readline(), u.readline(), u.readline(), u.readline())\n'
    expect(talk(pico, { HERE: py(text), THERE: both }).printed).toEqual(["b'a\\n' b'bc\\n' b'd' None"])
  })
  it('hears nothing of what another board says over its USB socket', () => {
    const plan: Short = {
      boards: { HERE: { board: 'pico' }, THERE: { board: 'leonardo-32u4' } },
      parts: {},
      wires: 'HERE.GND THERE.GND, HERE.GP1 THERE.D1',
    }
    const there = (line: string) => ({
      name: 'a.ino',
      text: `void setup() { ${line}.begin(9600); delay(20); ${line}.print("a"); }\nvoid loop() { delay(10); }`,
    })
    const text = 'from machine import UART\nimport time\nu = UART(0, 9600)\ntime.sleep(0.2)\nprint(u.read())\n'
    expect(talk(plan, { HERE: py(text), THERE: there('Serial') }).printed).toEqual(['None'])
    expect(talk(plan, { HERE: py(text), THERE: there('Serial1') }).printed).toEqual(["b'a'"])
  })
  it('waits as long as it is told, and for another speed in vain', () => {
    const text =
      'from machine import UART\nimport time\nu = UART(0, 9600, timeout=300)\nu.write("hello\\n")\nfrom time import ticks_ms\nt = ticks_ms()\ngot = u.read(12)\nprint(got)\nprint(ticks_ms() - t < 100)\n'
    expect(talk(pico, { HERE: py(text), THERE: echo(9600) }).printed).toEqual(["b'hello there\\n'", 'True'])
    const other = talk(pico, { HERE: py(text), THERE: echo(19200) })
    expect(other.printed.at(-1)).toBe('False')
    expect(other.found).toContain('other-baud')
  })
  it('as boards with named pins have it', () => {
    const text =
      'import board, busio\nu = busio.UART(board.GP0, board.GP1, baudrate=9600, timeout=0.2)\nu.write(b"one\\n")\nprint(u.readline())\nprint(u.readline())\nprint(u.in_waiting)\n'
    expect(talk(pico, { HERE: py(text), THERE: echo(9600) }, 2).printed).toEqual(["b'one there\\n'", 'None', '0'])
  })
  it('of a single-board computer, by the path of its device', () => {
    const pi: Short = {
      boards: { HERE: { board: 'pi-40' }, THERE: { board: 'pico' } },
      parts: {},
      wires: 'HERE.GND THERE.GND, HERE.GPIO14 THERE.GP1, HERE.GPIO15 THERE.GP0',
    }
    const text =
      'import serial\nline = serial.Serial("/dev/serial0", 9600, timeout=0.5)\nline.write(b"two\\n")\nprint(line.readline().decode().strip())\nprint(line.read(3))\n'
    expect(talk(pi, { HERE: py(text), THERE: echo(9600) }, 2).printed).toEqual(['two there', "b''"])
    const usb = text.replace('serial0', 'ttyUSB0')
    expect(talk(pi, { HERE: py(usb), THERE: echo(9600) }, 2).printed.slice(-2)).toEqual(['', "b''"])
  })
})
