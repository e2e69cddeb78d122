import { describe, expect, it } from 'vitest'
import type { Proof } from '../plan/planSchema.ts'
import { wiringOf } from '../testing/plans.ts'
import { type Answer, judgeAnswer, judgeTyped, readBoardLine, stageOf } from './answers.ts'
import type { Step } from './step.ts'
import { stepsOf } from './steps.ts'

const wiring = wiringOf({
  mcu: 'uno-r3',
  parts: { LAMP: 'led', R1: 'resistor', GATE: 'button', A: 'bme280', POT: 'potentiometer' },
  wires:
    'LAMP.A R1.1, R1.2 MCU.D4, LAMP.K MCU.GND, GATE.1 MCU.D2, GATE.2 MCU.GND, A.SDA MCU.A4, A.SCL MCU.A5, A.VCC MCU.3V3, A.GND MCU.GND, POT.W MCU.A0, POT.1 MCU.GND, POT.3 MCU.5V',
})
const steps = stepsOf(wiring)
const step = (id: string): Step => steps.find((one) => one.id === id)!

describe('lines of a board', () => {
  it.each<[string, ReturnType<typeof readBoardLine>]>([
    ['{"hello":"markpost","plan":"x","steps":24}', { is: 'hello', steps: 24 }],
    ['{"step":"out:LAMP.A","state":"high"}', { is: 'answer', answer: { step: 'out:LAMP.A', state: 'high' } }],
    ['{"step":"in:GATE.1","value":0}', { is: 'answer', answer: { step: 'in:GATE.1', value: 0 } }],
    ['{"step":"adc:CELL.W","counts":1893}\r', { is: 'answer', answer: { step: 'adc:CELL.W', counts: 1893 } }],
    ['{"step":"i2c:i2c0","found":[]}', { is: 'answer', answer: { step: 'i2c:i2c0', found: [] } }],
    ['{"error":"no such step"}', { is: 'error', text: 'no such step' }],
    ['rst:0x1 (POWERON_RESET)', { is: 'other', text: 'rst:0x1 (POWERON_RESET)' }],
    ['{"step":"in:GATE.1","value":7}', { is: 'other', text: '{"step":"in:GATE.1","value":7}' }],
    ['{"step":"out:LAMP', { is: 'other', text: '{"step":"out:LAMP' }],
    ['{"step":5,"value":1}', { is: 'other', text: '{"step":5,"value":1}' }],
  ])('%s', (line, read) => expect(readBoardLine(line)).toEqual(read))
})

describe('an answer against the plan', () => {
  it.each<[Answer, string, boolean | undefined]>([
    [{ step: 'in:GATE.1', value: 1 }, '1', true],
    [{ step: 'in:GATE.1', value: 0 }, '0', false],
    [{ step: 'out:LAMP.A', state: 'high' }, 'high', undefined],
    [{ step: 'adc:POT.W', counts: 1023 }, '1023', true],
    [{ step: 'adc:POT.W', counts: 1024 }, '1024', false],
    [{ step: 'i2c:i2c0', found: [118] }, '0x76', true],
    [{ step: 'i2c:i2c0', found: [118, 60] }, '0x3C 0x76', false],
    [{ step: 'i2c:i2c0', found: [] }, 'nobody', false],
  ])('%j', (answer, value, right) => expect(judgeAnswer(wiring, step(answer.step), answer)).toEqual({ value, right }))

  it.each([
    ['4.75', true],
    ['5,25 V', true],
    ['4.74', false],
    ['5.26', false],
    ['-5', false],
    ['about five', undefined],
  ])('a supply of 5 V that reads %s', (typed, right) => expect(judgeTyped(step('volts:MCU.5V'), typed)).toBe(right))
})

describe('how far a build is', () => {
  const seen: Proof = { at: '2026-11-26T20:00:00Z' }
  const done = (...phases: Step['phase'][]): Record<string, Proof> =>
    Object.fromEntries(steps.filter(({ phase }) => phases.includes(phase)).map(({ id }) => [id, seen]))
  it.each<[Step['phase'][], string]>([
    [[], 'planned'],
    [['look', 'power', 'scan', 'signal'], 'planned'],
    [['continuity'], 'wired'],
    [['continuity', 'power'], 'powered'],
    [['continuity', 'power', 'scan', 'signal'], 'proven'],
  ])('with %j done it is %s', (phases, stage) => expect(stageOf(steps, done(...phases))).toBe(stage))

  it('a step that went wrong is not done', () => {
    const all = done('continuity', 'power', 'scan', 'signal')
    const wrong = (id: string) => ({ ...all, [id]: { ...seen, wrong: true as const } })
    expect(stageOf(steps, wrong('in:GATE.1'))).toBe('powered')
    expect(stageOf(steps, wrong('volts:MCU.5V'))).toBe('wired')
    expect(stageOf(steps, wrong(steps.find(({ phase }) => phase === 'continuity')!.id))).toBe('planned')
  })
})
