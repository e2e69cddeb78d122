import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../../testing/plans.ts'
import { resolve } from '../../wiring/resolve.ts'
import { type RunResult, rehearse } from '../run.ts'
import { readScript } from '../script.ts'

function run(plan: Short, text: string, steps = '  []'): RunResult {
  const wiring = resolve(planOf(plan), catalog)
  const read = readScript(`rehearsal: 1\nseconds: 3\nsteps:\n${steps}`, 'x')
  if (!read.ok) throw new Error(read.problems.map(({ message }) => message).join('; '))
  return rehearse(wiring, wiring.boards[0]!, [{ name: 'main.py', text }], { script: read.value })
}
const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind, line }) => `${kind} ${line}`)
const lines = ({ printed }: RunResult): string[] => printed.map(({ text }) => text)

const air: Short = {
  mcu: 'pico',
  parts: { AIR: 'dht22' },
  wires: 'AIR.VCC MCU.3V3, AIR.GND MCU.GND, AIR.DATA MCU.GP16',
}
const measures = (pin: number): string => `import dht, machine, time
air = dht.DHT22(machine.Pin(${pin}))
time.sleep(2)
air.measure()
print(f"{air.temperature():.1f} {air.humidity():.0f}")
`

describe('climate', () => {
  it('what is set is what the program reads', () => {
    const result = run(air, measures(16), '  - { at: 1, set: { AIR.temperature: -3.5, AIR.humidity: 61 } }')
    expect([lines(result), kinds(result)]).toEqual([['-3.5 61'], []])
  })
  it('a pin to which it is not wired is said, and reading ends in an error', () => {
    expect(kinds(run(air, measures(17)))).toEqual(['other-pin 4', 'stopped 5'])
  })
  it('a plan without the part is said', () => {
    expect(kinds(run({ mcu: 'pico', parts: {}, wires: '' }, measures(16)))).toEqual(['no-such-part 4', 'stopped 5'])
  })
  it('without its supply it does not answer', () => {
    const plan = { ...air, wires: 'AIR.GND MCU.GND, AIR.DATA MCU.GP16' }
    expect(kinds(run(plan, measures(16)))).toEqual(['stopped 5'])
  })
  it('on digitalio boards its values stand there like numbers', () => {
    const plan = { ...air, mcu: 'nrf52840-feather', wires: 'AIR.VCC MCU.3V3, AIR.GND MCU.GND, AIR.DATA MCU.D5' }
    const result = run(plan, 'import board, shed_dht\nair = shed_dht.DHT22(board.D5)\nprint(air.temperature + 1)\n')
    expect([lines(result), kinds(result)]).toEqual([['22.5'], []])
  })
})

describe('strips', () => {
  const strip: Short = {
    mcu: 'pico',
    parts: { GLOW: 'ws2812-strip' },
    wires: 'GLOW.5V MCU.VBUS, GLOW.GND MCU.GND, GLOW.DIN MCU.GP16',
  }
  const program = (last: string): string =>
    `import neopixel\nfrom machine import Pin\nglow = neopixel.NeoPixel(Pin(16), 8)\nglow[0] = (255, 0, 16)\nglow[len(glow) - 1] = (0, 1, 0)\n${last}\n`
  it('shows its colours when they are written, and not before', () => {
    expect(run(strip, program('glow.write()')).shows.GLOW).toBe('2 lit: 0 #ff0010, 7 #000100')
    expect(run(strip, program('pass')).shows.GLOW).toBeUndefined()
    expect(run(strip, program('glow.fill([0, 0, 0])\nglow.write()')).shows.GLOW).toBe('off')
  })
})

it('a described module stands in for a file of its name that comes along', () => {
  const wiring = resolve(planOf(air), catalog)
  const files = [
    {
      name: 'main.py',
      text: 'import dht, helper\nfrom machine import Pin\nprint(helper.half(dht.DHT22(Pin(16)).temperature()))\n',
    },
    { name: 'lib/dht.py', text: 'import registers\nclass DHT22(registers.Base): pass\n' },
    { name: 'helper.py', text: 'def half(x): return x / 2\n' },
  ]
  const result = rehearse(wiring, wiring.boards[0]!, files, { seconds: 1 })
  expect([lines(result), kinds(result)]).toEqual([['10.75'], []])
})

describe('dot displays', () => {
  const door: Short = {
    mcu: 'pico',
    parts: { DOOR: 'ssd1306' },
    wires: 'DOOR.VCC MCU.3V3, DOOR.GND MCU.GND, DOOR.SDA MCU.GP4, DOOR.SCL MCU.GP5',
  }
  const program = (sda: number, scl: number, more = ''): string => `from machine import I2C, Pin
import ssd1306
bus = I2C(0, sda=Pin(${sda}), scl=Pin(${scl}))
door = ssd1306.SSD1306_I2C(128, 64, bus${more})
door.text("open", 0, 0)
door.text("21 C", 0, 8)
door.show()
`
  it('shows its rows', () => {
    const result = run(door, program(4, 5))
    expect([result.shows.DOOR, kinds(result)]).toEqual(['"open ⏎ 21 C"', []])
  })
  it('lines that are exchanged, and an address of another one, are found', () => {
    expect(kinds(run(door, program(5, 4)))).toContain('nobody-answers 5')
    expect(kinds(run(door, program(4, 5, ', addr=0x3D')))).toContain('nobody-answers 5')
    expect(kinds(run(door, program(4, 5, ', 0x3C')))).toEqual([])
  })
})

it('a distance stands there like a number, by pins that have names', () => {
  const plan: Short = {
    mcu: 'nrf52840-feather',
    parts: { EYE: 'hc-sr04p' },
    wires: 'EYE.VCC MCU.3V3, EYE.GND MCU.GND, EYE.TRIG MCU.D5, EYE.ECHO MCU.D6',
  }
  const text = (trigger: string, echo: string): string =>
    `import board, shed_hcsr04\neye = shed_hcsr04.HCSR04(echo_pin=board.${echo}, trigger_pin=board.${trigger})\nimport time\ntime.sleep(1)\nprint(eye.distance)\n`
  const result = run(plan, text('D5', 'D6'), '  - { at: 0.5, set: { EYE: 34 cm } }')
  expect([lines(result), kinds(result)]).toEqual([['34'], []])
  expect(kinds(run(plan, text('D6', 'D5')))).toContain('other-pin 5')
})
