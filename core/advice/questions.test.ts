import { describe, expect, it } from 'vitest'
import { assign } from '../assign/assign.ts'
import { applyEdits } from '../plan/edit.ts'
import { piecesOf, planOfPieces } from '../plan/pieces.ts'
import type { Plan } from '../plan/planSchema.ts'
import { check } from '../rules/index.ts'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { answerEdits, MOST_QUESTIONS, questionsFor } from './questions.ts'

const wired = (short: Short): Plan => {
  const plan = planOf(short)
  return applyEdits(plan, assign(resolve(plan, catalog)).edits)
}
const asked = (plan: Plan) => questionsFor(resolve(plan, catalog))
const faults = (plan: Plan) => check(resolve(plan, catalog)).filter(({ severity }) => severity === 'fault')

describe('questions', () => {
  const knob: Short = { parts: { K: 'potentiometer' }, wires: 'K.1 MCU.3V3, K.3 MCU.GND, K.W MCU.GPIO25' }
  it('asks for a feature only where it would make the plan wrong', () => {
    const [question, ...more] = asked(planOf(knob))
    expect(question?.text).toBe('Will MCU use WiFi?')
    expect(more.map(({ text }) => text)).not.toContain('Will MCU use WiFi?')
    expect(question?.answers.map(({ title }) => title)).toEqual(['No', 'Yes: move what clashes'])
    expect(asked(planOf({ ...knob, wires: 'K.1 MCU.3V3, K.3 MCU.GND, K.W MCU.GPIO34' }))).toEqual([])
    // The maker has said what is used.
    expect(asked(planOf({ ...knob, uses: [] }))).toEqual([])
  })
  it('moves with the answer what clashes with it, and asks neither answer again', () => {
    const plan = planOf(knob)
    for (const index of [0, 1]) {
      const [question] = asked(plan)
      const after = applyEdits(plan, answerEdits(question!, question!.answers[index]!))
      expect(faults(after)).toEqual([])
      expect(asked(after).map(({ id }) => id)).not.toContain(question!.id)
      expect(after.boards.MCU?.uses?.includes('wifi') ?? false).toBe(index === 1)
      expect(after.wires.some((wire) => wire.includes('MCU.GPIO25'))).toBe(index === 0)
      // It is kept with the plan, also when two people change it at once.
      expect(planOfPieces(piecesOf(after)).settings?.asked).toEqual([question!.id])
    }
  })
  it('asks whether motors and servos have a supply of their own, and builds the answer', () => {
    const plan = wired({ mcu: 'uno-r3', parts: { PAN: 'servo-sg90', TILT: 'servo-sg90' } })
    const question = asked(plan).find(({ id }) => id.startsWith('supply'))
    expect(question?.text).toBe('Are PAN, TILT fed from a supply of their own?')
    expect(question?.why).toMatch(/^1300 mA at peaks now come from MCU\.5V/)
    const after = applyEdits(plan, answerEdits(question!, question!.answers[1]!))
    const wiring = resolve(after, catalog)
    for (const ref of ['PAN', 'TILT']) expect(wiring.netOf(`${ref}.VCC`)).toBe(wiring.netOf('PACK.+'))
    expect(wiring.netOf('PACK.-')).toBe(wiring.netOf('MCU.GND'))
    expect(faults(after)).toEqual([])
    expect(asked(after)).toEqual([])
    expect(asked(wired({ mcu: 'uno-r3', parts: { PAN: 'servo-sg90' } }))[0]?.text).toBe(
      'Is PAN fed from a supply of its own?',
    )
  })
  it('asks nothing where there is such a supply, or no such load', () => {
    const pack = { PACK: { volts: 5, limitMilliamps: 2000 } }
    expect(asked(wired({ mcu: 'uno-r3', supplies: pack, parts: { PAN: 'servo-sg90' } }))).toEqual([])
    expect(asked(wired({ mcu: 'pico', parts: { B: 'bme280', L: 'led' } }))).toEqual([])
    expect(asked(planOf({}))).toEqual([])
  })
  it('asks three at the most', () => {
    const plan = wired({
      mcu: 'uno-r3',
      parts: {
        S: 'servo-sg90',
        M: 'dc-motor',
        U: 'l298n',
        Z: 'buzzer-passive',
        A: 'led',
        B: 'led',
        C: 'led',
        D: 'led',
      },
    })
    expect(asked(plan).length).toBeLessThanOrEqual(MOST_QUESTIONS)
  })
})
