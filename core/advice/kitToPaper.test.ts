import { describe, expect, it } from 'vitest'
import { kitReader } from '../catalog/kitText.ts'
import { applyEdits } from '../plan/edit.ts'
import { addKit } from '../plan/kit.ts'
import { emptyPlan, type Plan } from '../plan/planSchema.ts'
import { check } from '../rules/index.ts'
import { catalog } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { kitToPaper } from './kitToPaper.ts'
import { nextStep } from './nextStep.ts'

const typed = (text: string): Plan => {
  const plan = emptyPlan('Typed')
  const items = kitReader([...catalog.boards.values()], [...catalog.parts.values()])(text)
  return applyEdits(plan, addKit(plan, catalog, items).edits)
}
const paperOf = (plan: Plan) =>
  kitToPaper(
    plan,
    catalog,
    () => false,
    () => {},
  )

describe('one line of typing becomes a plan without a fault', () => {
  it.each([
    // Kit, what is added, rules that caution.
    ['uno, hc-sr04, oled, red led, button', [], []],
    ['uno, ds18b20', ['Resistor 4.7 kΩ'], []],
    ['esp32, hc-sr04, oled', ['Resistor 1.5 kΩ', 'Resistor 2.2 kΩ'], []],
    ['pico, 2 hc-sr04', ['Resistor 1.5 kΩ', 'Resistor 2.2 kΩ', 'Resistor 1.5 kΩ', 'Resistor 2.2 kΩ'], []],
    ['uno, hc-05', ['Resistor 1.5 kΩ', 'Resistor 2.2 kΩ'], []],
    ['uno, hc-05, 1k5 resistor, 2k2 resistor', [], []],
    ['nano, hc-05, 2 motors, l298n, 9v battery', ['Resistor 1.5 kΩ', 'Resistor 2.2 kΩ'], []],
    ['uno, tb6612, 2 motors, 4xAA battery', [], []],
    ['uno, pump, mosfet, 4xAA battery', ['Resistor 10 kΩ', 'Diode'], []],
    ['uno, pump, relay, 4xAA battery', [], []],
    ['uno, pump, tb6612, 4xAA battery', [], []],
    ['uno, pump, l9110s, 4xAA battery', [], []],
    ['uno, 2 pump, 2 channel relay, 4xAA battery', [], []],
    ['esp32, soil, relay, oled, dht22', ['Resistor 4.7 kΩ'], []],
    ['nano, 28byj48, uln2003', [], ['supply-motor']],
    ['pico, fan, mosfet', [], []],
    ['uno, 2 leds, 74hc595', ['Resistor 560 Ω', 'Resistor 560 Ω'], []],
    ['uno, 2 leds, 74hc595, 2 330 ohm resistors', [], ['pin-current']],
    ['uno, button, 10k', [], []],
  ] as const)('%s', (text, added, cautions) => {
    const plan = typed(text)
    const paper = paperOf(plan)
    expect(paper.unplaced).toEqual([])
    expect(paper.added.map(({ what }) => what)).toEqual(added)
    expect(paper.breadboards.length).toBeGreaterThan(0)
    const after = applyEdits(plan, paper.edits)
    const said = check(resolve(after, catalog)).filter(({ severity }) => severity !== 'tip')
    expect(said.map(({ rule }) => rule)).toEqual(cautions)
    expect(nextStep(resolve(after, catalog))).toMatchObject({ is: 'build', place: 'sheets' })
    // Asked again there is nothing to do.
    expect(paperOf(after)).toMatchObject({ edits: [], wires: 0, added: [] })
  })

  it('what cannot be placed is said, and the rest is laid out all the same', () => {
    const paper = paperOf(typed('uno, l298n, 2 motors'))
    expect(paper.unplaced).toEqual([{ end: 'DRIVERB.12V', why: 'no supply of the plan gives that voltage' }])
    expect(paper.breadboards).toHaveLength(1)
  })

  it('a diode for a bare transistor is not added beside a bridge, and is where one switches the motor', () => {
    expect(Object.values(typed('uno, l298n, 2 motors').parts).map(({ part }) => part)).not.toContain('diode')
    expect(paperOf(typed('uno, motor, mosfet')).added.map(({ part }) => part)).toContain('diode')
  })
})

describe('the next step', () => {
  const step = (plan: Plan) => nextStep(resolve(plan, catalog))
  it('goes from board to parts, wires, faults, breadboards, building and proving', () => {
    expect(step(emptyPlan('x'))).toMatchObject({ is: 'board', place: 'kit' })
    expect(step(typed('uno'))).toMatchObject({ is: 'parts', place: 'kit' })
    const kit = typed('uno, hc-sr04')
    expect(step(kit)).toMatchObject({ is: 'wire', place: 'pins', text: expect.stringContaining('4 pins have no wire') })
    const { edits } = paperOf(kit)
    const laid = applyEdits(kit, edits)
    const wired = applyEdits(
      kit,
      edits.filter((edit) => edit.do !== 'set-breadboard'),
    )
    expect(step(wired)).toMatchObject({ is: 'lay-out', place: 'bench' })
    expect(step(laid)).toMatchObject({ is: 'build', place: 'sheets' })
    expect(step(applyEdits(laid, [{ do: 'tick', wires: ['BB1.a1 BB1.a2'], done: true }]))).toMatchObject({
      is: 'build',
      place: 'bench',
    })
    const powered = applyEdits(laid, [{ do: 'prove', steps: {}, stage: 'powered' }])
    expect(step(powered)).toMatchObject({ is: 'prove', place: 'bring-up' })
    expect(step(applyEdits(laid, [{ do: 'prove', steps: {}, stage: 'proven' }]))).toMatchObject({ is: 'done' })
  })
  it('a fault comes before the breadboard', () => {
    const plan = typed('uno, hc-sr04')
    const { edits } = paperOf(plan)
    const wired = applyEdits(
      plan,
      edits.filter((edit) => edit.do !== 'set-breadboard'),
    )
    const supply = wired.wires.find(([a]) => a === 'ECHO.VCC')!
    const wrong = applyEdits(wired, [
      { do: 'disconnect', from: supply[0], to: supply[1] },
      { do: 'connect', from: 'ECHO.VCC', to: 'MCU.3V3' },
    ])
    expect(step(wrong)).toMatchObject({ is: 'mend', place: 'pins' })
  })
})
