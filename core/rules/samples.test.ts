import { expect, it } from 'vitest'
import { fixAll } from '../advice/fixAll.ts'
import { fixesFor } from '../advice/fixes.ts'
import { applyEdits } from '../plan/edit.ts'
import { catalog } from '../testing/plans.ts'
import { sample, samplePlans } from '../testing/samples.ts'
import { resolve } from '../wiring/resolve.ts'
import { check } from './index.ts'

const mended = 'Mended by Monday'

it.each(
  samplePlans
    .map(({ plan }) => plan)
    .filter((plan) => plan.title !== mended)
    .map((plan) => [plan.title, plan] as const),
)('%s has nothing wrong and nothing open', (_, plan) => {
  const findings = check(resolve(plan, catalog)).filter((one) => one.severity !== 'tip' && one.accepted === undefined)
  expect(findings.map((one) => one.message)).toEqual([])
})

it('finds every planted mistake and nothing else', () => {
  const found = check(resolve(sample(mended), catalog)).map((one) => `${one.severity} ${one.rule} ${one.at[0]}`)
  expect(found).toEqual([
    'fault pin-shared MCU.GPIO39',
    'fault pin-function DIAL.W',
    'fault pin-direction LAMP.A',
    'fault boot-strap MCU.GPIO12',
    'fault serial-console MCU.GPIO3',
    'fault bus-pins MCU',
    'fault i2c-address ROOF',
    'fault spi-select MCU.GPIO17',
    'fault level-damage SHADE.W',
    'fault supply-range FLAP.VCC',
    'fault supply-missing CLOCK.VCC',
    'fault common-ground WIND',
    'caution reset-glitch BLOWER.G',
    'caution level-logic MCU.GPIO13',
    'caution supply-budget MCU.3V3',
    'caution supply-motor FLAP',
    'caution pin-unplaced LAMP.K',
    'caution timing-sensitive RADIO.DIO0',
  ])
})

it('can be mended by taking the first fix of each finding', () => {
  let plan = sample(mended)
  for (let round = 0; round < 30; round += 1) {
    const wiring = resolve(plan, catalog)
    const findings = check(wiring)
    const worst = findings.find((one) => one.severity !== 'tip')
    if (!worst) break
    const fix = fixesFor(wiring, worst, findings)[0]
    expect(fix, `a fix for ${worst.message}`).toBeDefined()
    plan = applyEdits(plan, fix!.edits)
  }
  expect(check(resolve(plan, catalog)).filter((one) => one.severity !== 'tip')).toEqual([])
})

it('marks an accepted finding and counts it no more', () => {
  const plan = sample(mended)
  const first = check(resolve(plan, catalog))[0]!
  const after = check(
    resolve(
      applyEdits(plan, [{ do: 'accept', rule: first.rule, at: first.at, because: 'only for the show' }]),
      catalog,
    ),
  )
  expect(after.find((one) => one.rule === first.rule && one.at[0] === first.at[0])?.accepted).toBe('only for the show')
})

it('mends all that is safe in one go, and gives nothing up', () => {
  const plan = sample(mended)
  const { edits, steps } = fixAll(plan, catalog)
  const after = applyEdits(plan, edits)
  expect(steps.length).toBeGreaterThanOrEqual(12)
  expect(Object.keys(after.parts)).toEqual(expect.arrayContaining(Object.keys(plan.parts)))
  expect(after.boards).toEqual(plan.boards)
  expect(check(resolve(after, catalog)).filter((one) => one.severity !== 'tip')).toEqual([])
  expect(fixAll(plan, catalog)).toEqual({ edits, steps })
})
