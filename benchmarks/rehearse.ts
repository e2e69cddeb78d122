/**
 * How fast programs run on the planned wiring: virtual seconds, and statements, by a second of this machine. The programs
 * of the sample plans in every language, and simple ones as beginners write them. Numbers only. `npm run bench:rehearse`.
 */
import { readdirSync, readFileSync } from 'node:fs'
import type { Plan } from '../core/plan/planSchema.ts'
import { readPlan } from '../core/plan/readPlan.ts'
import { keptPrograms, keptScript } from '../core/rehearse/kept.ts'
import { rehearse } from '../core/rehearse/run.ts'
import { catalog, type Short, wiringOf } from '../core/testing/plans.ts'
import type { Wiring } from '../core/wiring/model.ts'
import { resolve } from '../core/wiring/resolve.ts'

interface Case {
  readonly title: string
  readonly wiring: Wiring
  readonly board: string
  readonly files: readonly { readonly name: string; readonly text: string }[]
  readonly plan?: Plan
  readonly seconds: number
}

const samples = readdirSync('demo')
  .filter((name) => name.endsWith('.yaml'))
  .flatMap((name) => {
    const read = readPlan(readFileSync(`demo/${name}`, 'utf8'), name, catalog)
    return read.ok ? [{ plan: read.value, wiring: resolve(read.value, catalog) }] : []
  })
const kept: Case[] = samples.flatMap(({ plan, wiring }) =>
  Object.entries(keptPrograms(plan)).map(([board, files]) => ({
    title: `${plan.title}: ${files.map(({ name }) => name).join(', ')}`,
    wiring,
    board,
    files,
    plan,
    seconds: keptScript(plan)?.seconds ?? 10,
  })),
)
/** By the beginning of a file's name the sample whose wiring it is for. */
const others: Readonly<Record<string, number>> = { hive: 0, kiln: 2, gauge: 3, weather: 4 }
const translated: Case[] = readdirSync('demo/programs').flatMap((name) => {
  const at = others[name.split('_')[0] ?? '']
  const sample = at === undefined ? undefined : samples[at]
  const board = sample?.wiring.boards[0]?.ref
  if (!sample || board === undefined) return []
  const files = [{ name, text: readFileSync(`demo/programs/${name}`, 'utf8') }]
  return [{ title: `${sample.plan.title}: ${name}`, ...sample, board, files, seconds: 10 }]
})

const lamp: Short = {
  mcu: 'uno-r3',
  parts: {
    L: { part: 'led', options: { colour: 'red' } },
    R: { part: 'resistor', options: { ohms: 330 } },
    B: 'button',
  },
  wires: 'R.1 MCU.5, R.2 L.A, L.K MCU.GND, B.1 MCU.2, B.2 MCU.GND',
}
const simple = (title: string, text: string, short: Short = lamp, name = 'a.ino'): Case => ({
  title,
  wiring: wiringOf(short),
  board: 'MCU',
  files: [{ name, text }],
  seconds: 60,
})
const simples: Case[] = [
  simple(
    'a lamp that blinks with waits',
    'void setup() { pinMode(5, OUTPUT); }\nvoid loop() { digitalWrite(5, HIGH); delay(500); digitalWrite(5, LOW); delay(500); }',
  ),
  simple(
    'a lamp that blinks by the clock, without a wait',
    'unsigned long then = 0; bool on = false;\nvoid setup() { pinMode(5, OUTPUT); }\nvoid loop() { if (millis() - then >= 500) { then = millis(); on = !on; digitalWrite(5, on); } }',
  ),
  simple(
    'a lamp that follows a button, without a wait',
    'void setup() { pinMode(5, OUTPUT); pinMode(2, INPUT_PULLUP); }\nvoid loop() { digitalWrite(5, !digitalRead(2)); }',
  ),
  simple(
    'a lamp that fades',
    'void setup() { pinMode(5, OUTPUT); }\nvoid loop() { for (int i = 0; i < 256; i++) { analogWrite(5, i); delay(5); } }',
  ),
  simple(
    'a lamp that follows a button, in MicroPython',
    'from machine import Pin\nfrom time import sleep_ms\nlamp = Pin(5, Pin.OUT)\nkey = Pin(4, Pin.IN, Pin.PULL_UP)\nwhile True:\n    lamp.value(not key.value())\n    sleep_ms(10)\n',
    {
      ...lamp,
      mcu: 'pico',
      wires: 'R.1 MCU.GP5, R.2 L.A, L.K MCU.GND, B.1 MCU.GP4, B.2 MCU.GND',
    },
    'main.py',
  ),
  ...(
    [
      [
        'MicroPython',
        'pico',
        'GP',
        'main.py',
        'from machine import Pin\nlamp = Pin(5, Pin.OUT)\nkey = Pin(4, Pin.IN, Pin.PULL_UP)\nwhile True:\n    lamp.value(not key.value())\n',
      ],
      [
        'CircuitPython',
        'pico',
        'GP',
        'code.py',
        'import board, digitalio\nlamp = digitalio.DigitalInOut(board.GP5)\nlamp.direction = digitalio.Direction.OUTPUT\nkey = digitalio.DigitalInOut(board.GP4)\nkey.pull = digitalio.Pull.UP\nwhile True:\n    lamp.value = not key.value\n',
      ],
      [
        'Python on a single-board computer',
        'pi-40',
        'GPIO',
        'a.py',
        'from gpiozero import LED, Button\nlamp, key = LED(5), Button(4)\nwhile True:\n    if key.is_pressed:\n        lamp.on()\n    else:\n        lamp.off()\n',
      ],
    ] as const
  ).map(([language, mcu, pin, name, text]) =>
    simple(
      `a lamp that follows a button, in ${language}, without a wait`,
      text,
      { ...lamp, mcu, wires: `R.1 MCU.${pin}5, R.2 L.A, L.K MCU.GND, B.1 MCU.${pin}4, B.2 MCU.GND` },
      name,
    ),
  ),
  simple(
    'numbers alone',
    'volatile long sum = 0;\nvoid setup() { }\nvoid loop() { for (long i = 0; i < 100000; i++) { sum += i % 7; } delay(1); }',
  ),
]

console.log('| program | virtual seconds | times real time | statements a second |\n| --- | --- | --- | --- |')
for (const { title, wiring, board, files, plan, seconds } of [...simples, ...kept, ...translated]) {
  const owner = wiring.boards.find(({ ref }) => ref === board)
  if (!owner) throw new Error(`${title} has no board ${board}`)
  const script = plan && keptScript(plan)
  const run = () => rehearse(wiring, owner, files, { seconds, ...(script ? { script } : {}) })
  run()
  const from = performance.now()
  const { seconds: virtual, statements } = run()
  const took = (performance.now() - from) / 1000
  console.log(
    `| ${title} | ${virtual.toFixed(0)} | ${(virtual / took).toFixed(0)} | ${Math.round(statements / took)} |`,
  )
}
