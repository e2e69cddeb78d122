import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../../testing/plans.ts'
import { resolve } from '../../wiring/resolve.ts'
import { type RunResult, rehearse } from '../run.ts'
import { readScript } from '../script.ts'
import { checkOf } from '../stage/oneWire.ts'

function run(plan: Short, text: string, steps = '  []'): RunResult {
  const wiring = resolve(planOf(plan), catalog)
  const read = readScript(`rehearsal: 1\nseconds: 4\nsteps:\n${steps}`, 'x')
  if (!read.ok) throw new Error(read.problems.map(({ message }) => message).join('; '))
  return rehearse(wiring, wiring.boards[0]!, [{ name: 'main.py', text }], { script: read.value })
}
const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind, line }) => `${kind} ${line}`)
const lines = ({ printed }: RunResult): string[] => printed.map(({ text }) => text)

const sensor = (ref: string): string => `${ref}.VDD MCU.3V3, ${ref}.GND MCU.GND, ${ref}.DQ MCU.GP16`
const pond: Short = {
  mcu: 'pico',
  parts: { POND: 'ds18b20', AIR: 'ds18b20-probe', R1: { part: 'resistor', options: { ohms: 4700 } } },
  wires: `${sensor('POND')}, ${sensor('AIR')}, R1.1 POND.DQ, R1.2 MCU.3V3`,
}
const begin = (pin = 16): string => `import time
from machine import Pin
import onewire, ds18x20
line = onewire.OneWire(Pin(${pin}))
meters = ds18x20.DS18X20(line)
`
const steps = '  - { at: 0, set: { POND: -3.5, AIR: 85 } }'

describe('thermometers on one line', () => {
  it('are found by their numbers and read one by one', () => {
    const program = `${begin()}roms = meters.scan()
print(len(roms), [rom[0] for rom in roms], onewire.OneWire.crc8(line, roms[0]))
meters.convert_temp()
time.sleep_ms(750)
for rom in roms:
    print(meters.read_temp(rom))
`
    const result = run(pond, program, steps)
    expect([lines(result), kinds(result)]).toEqual([['2 [40, 40] 0', '-3.5', '85.0'], []])
  })
  it('give what they had before to a program that does not wait, and that is said', () => {
    const program = `${begin()}rom = meters.scan()[0]
meters.convert_temp()
time.sleep_ms(100)
print(meters.read_temp(rom))
time.sleep_ms(700)
print(meters.read_temp(rom))
`
    const result = run(pond, program, steps)
    expect([lines(result), kinds(result)]).toEqual([['85.0', '-3.5'], ['asked-too-soon 9']])
  })
  it('answer byte by byte: one that is chosen, all that are not, one that measures', () => {
    const program = `${begin()}rom = line.scan()[0]
line.select_rom(rom)
line.writebyte(0x44)
print(line.readbyte())
time.sleep(1)
print(line.readbyte())
line.select_rom(rom)
line.write(b"\\xbe")
pad = bytearray(9)
line.readinto(pad)
print(pad[0] | pad[1] << 8, line.crc8(pad), line.readbyte())
line.reset()
line.writebyte(0xcc)
line.writebyte(0xbe)
print(line.readbyte())
`
    // -3.5 °C is -56 sixteenths, 0xFFC8; 0xC8 and that of 85 °C, 0x50, together are 0x40.
    expect(lines(run(pond, program, steps))).toEqual(['0', '255', `${0xffc8} 0 255`, String(0xc8 & 0x50)])
  })
  it('at another pin are not there, and the plan says where', () => {
    const result = run(pond, `${begin(17)}print(meters.scan(), line.reset())\nmeters.convert_temp()\n`, steps)
    expect([lines(result)[0], kinds(result)]).toEqual(['[] False', ['other-pin 4', 'stopped 7']])
  })
  it('that are missing end in an error that a program may catch', () => {
    const text = `${begin(17)}try:\n    meters.convert_temp()\nexcept onewire.OneWireError:\n    print("nobody")\n`
    expect(lines(run(pond, text, steps))).toEqual(['nobody'])
  })
  it('without their supply do not answer', () => {
    const dry = { ...pond, wires: 'POND.DQ MCU.GP16, AIR.DQ MCU.GP16, R1.1 POND.DQ, R1.2 MCU.3V3' }
    expect(lines(run(dry, `${begin()}print(meters.scan())\n`))).toEqual(['[]'])
  })
})

it('the check byte is that of the data sheet of the line', () => {
  // A number of the application note on the line's check bytes: its last byte is the check of the seven before.
  expect(checkOf([0x02, 0x1c, 0xb8, 0x01, 0x00, 0x00, 0x00])).toBe(0xa2)
  expect(checkOf([0x02, 0x1c, 0xb8, 0x01, 0x00, 0x00, 0x00, 0xa2])).toBe(0)
})
