import { describe, expect, it } from 'vitest'
import type { Short } from '../testing/plans.ts'
import type { RunResult } from './run.ts'
import { run } from './testing/quick.ts'

const said = ({ printed }: RunResult): string[] => printed.map(({ text }) => text)
const kinds = ({ findings }: RunResult): string[] => findings.map(({ kind }) => kind)
const ohms = (value: number) => ({ part: 'resistor', options: { ohms: value } })
/** Half of 3.3 V at A0. */
const halves = 'MCU.3V3 R.1, R.2 MCU.A0, S.1 MCU.A0, S.2 MCU.GND'
const plan = (mcu: string, wires = ''): Short => ({
  mcu,
  parts: { R: ohms(1000), S: ohms(1000) },
  wires: `${halves}${wires}`,
})
const reads = (call: string): string =>
  `void setup() {\n  Serial.begin(9600);\n${call}\n  Serial.println(analogRead(A0));\n}\nvoid loop() {}`

describe('the full scale of the converter', () => {
  it.each([
    ['uno-r3', '', 338],
    ['uno-r3', '  analogReference(DEFAULT);', 338],
    ['uno-r3', '  analogReference(INTERNAL);', 1023],
    ['leonardo-32u4', '  analogReference(INTERNAL);', 659],
    ['mega-2560-r3', '  analogReference(INTERNAL2V56);', 659],
    ['mega-2560-r3', '  analogReference(INTERNAL1V1);', 1023],
    ['uno-r3', '  analogReference(INTERNAL);\n  analogReference(DEFAULT);', 338],
  ])('of %s after "%s" makes %i of half of 3.3 V', (mcu, call, counts) => {
    const result = run(plan(mcu), reads(call), '', 1)
    expect(said(result)).toEqual([`${counts}`])
    expect(kinds(result)).toEqual([])
  })
  it('is what lies at its pin, once the program says so', () => {
    const result = run(plan('uno-r3', ', MCU.AREF MCU.3V3'), reads('  analogReference(EXTERNAL);'), '', 1)
    expect(said(result)).toEqual(['512'])
    expect(kinds(result)).toEqual([])
  })
  it('is shorted where the pin is wired and the program does not say so', () => {
    const wired = plan('uno-r3', ', MCU.AREF MCU.3V3')
    for (const [call, words] of [
      ['', 'the supply of the chip'],
      ['  analogReference(INTERNAL);', '1.1 V inside the chip'],
    ] as const) {
      const { findings } = run(wired, reads(call), '', 1)
      expect(findings.map(({ kind, at, message }) => [kind, at, message.includes(words)])).toEqual([
        ['wrong-reference', ['MCU.AREF'], true],
      ])
    }
  })
  it('is nowhere where the program takes it from a pin that is open', () => {
    expect(kinds(run(plan('uno-r3'), reads('  analogReference(EXTERNAL);'), '', 1))).toEqual(['wrong-reference'])
  })
  it('is no word of a board that has none inside', () => {
    expect(kinds(run(plan('mega-2560-r3'), reads('  analogReference(INTERNAL);'), '', 1))).toContain('not-understood')
  })
  it('begins anew with the program', () => {
    const text =
      '#include <avr/wdt.h>\nvoid setup() {\n  Serial.begin(9600);\n  Serial.println(analogRead(A0));\n  analogReference(INTERNAL);\n  Serial.println(analogRead(A0));\n  wdt_enable(WDTO_1S);\n}\nvoid loop() {}'
    expect(said(run(plan('uno-r3'), text, '', 2)).slice(0, 4)).toEqual(['338', '1023', '338', '1023'])
  })
  it('reckoned with what the program chose is not called another scale', () => {
    const text = (call: string): string =>
      `void setup() {\n  Serial.begin(9600);\n${call}\n  float volts = analogRead(A0) * 3.3 / 1023;\n  Serial.println(volts);\n}\nvoid loop() {}`
    const wired = plan('uno-r3', ', MCU.AREF MCU.3V3')
    expect(kinds(run(wired, text('  analogReference(EXTERNAL);'), '', 1))).toEqual([])
    expect(kinds(run(plan('uno-r3'), text(''), '', 1))).toEqual(['other-scale'])
  })
})
