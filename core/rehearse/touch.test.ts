import { describe, expect, it } from 'vitest'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { type RunResult, rehearse } from './run.ts'
import { readScript } from './script.ts'

const said = ({ printed }: RunResult): string[] => printed.map(({ text }) => text)
const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind }) => kind)
const board = (mcu: string): Short => ({ mcu, parts: { L: 'led' }, wires: '' })
const run = (mcu: string, name: string, text: string, steps = '  []', seconds = 1): RunResult => {
  const wiring = resolve(planOf(board(mcu)), catalog)
  const script = readScript(`rehearsal: 1\nsteps:\n${steps}`, 'x')
  if (!script.ok) throw new Error('the script cannot be read')
  return rehearse(wiring, wiring.boards[0]!, [{ name, text }], { seconds, script: script.value })
}
const finger = (end: string): string => `  - { at: 0.5, set: { ${end}: touched } }`
const sketch = (pin: string, way: string): string =>
  `void setup() { Serial.begin(115200); }\nvoid loop() { delay(300); Serial.println(touchRead(${pin}) ${way} ? "finger" : "free"); }`

describe('touch pins', () => {
  it('fall under a finger, or rise on later chips', () => {
    expect(said(run('esp32-devkit-30', 'a.ino', sketch('T0', '< 40'), finger('MCU.GPIO4')))).toEqual([
      'free',
      'finger',
      'finger',
    ])
    expect(said(run('esp32-s3-devkitc-1', 'a.ino', sketch('T4', '> 40000'), finger('MCU.GPIO4')))).toEqual([
      'free',
      'finger',
      'finger',
    ])
  })
  it('are moved by a handle of their own, and said to be made up', () => {
    const result = run('esp32-devkit-30', 'a.ino', sketch('4', '< 40'))
    expect(result.handles.map(({ name, words }) => [name, words])).toContainEqual(['MCU.GPIO4', ['free', 'touched']])
    expect(kinds(result)).toEqual(['made-up'])
  })
  it('call a handler', () => {
    const text =
      'volatile int n = 0;\nvoid felt() { n++; }\nvoid setup() { Serial.begin(115200); touchAttachInterrupt(T3, felt, 40); }\nvoid loop() { delay(450); Serial.println(n); }'
    expect(said(run('esp32-devkit-30', 'a.ino', text, finger('MCU.GPIO15')))).toEqual(['0', '1'])
  })
  it('are no others, and of no other chip', () => {
    expect(kinds(run('esp32-devkit-30', 'a.ino', sketch('5', '< 40')))).toEqual(['not-able'])
    expect(kinds(run('uno-r3', 'a.ino', sketch('4', '< 40')))).toContain('not-understood')
  })
  it('speak to Python', () => {
    const micro =
      'from machine import Pin, TouchPad\nfrom time import sleep\npad = TouchPad(Pin(4))\nwhile True:\n    sleep(0.3)\n    print(pad.read() < 500)'
    expect(said(run('esp32-devkit-30', 'main.py', micro, finger('MCU.GPIO4')))).toEqual(['False', 'True', 'True'])
    const circuit =
      'import microcontroller, touchio, time\npad = touchio.TouchIn(microcontroller.pin.GPIO4)\nwhile True:\n    time.sleep(0.3)\n    print(pad.value)'
    expect(said(run('esp32-s3-devkitc-1', 'code.py', circuit, finger('MCU.GPIO4')))).toEqual(['False', 'True', 'True'])
  })
})
