import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readPlan } from '../plan/readPlan.ts'
import { catalog } from '../testing/plans.ts'
import { resolve } from '../wiring/resolve.ts'
import { allRules, check } from './index.ts'
import { junitOf } from './junit.ts'
import { placesIn } from './places.ts'
import { type Reported, sarifOf } from './sarif.ts'

const text = `markpost: 1
title: Lamp & knob
boards:
  MCU: { board: uno-r3 }
parts:
  L: { part: led }
  R: { part: resistor, options: { ohms: 10 } }
  O: { part: ssd1306 }
wires:
  - [L.A, R.1]
  - [R.2, MCU.D3]
  - [L.K, MCU.GND]
  - [O.SDA, MCU.4]
accepted:
  - { rule: pin-unplaced, at: [O.SCL], because: "later <soon>" }
`

function reportOf(file: string): Reported {
  const read = readPlan(text, file, catalog)
  if (!read.ok) throw new Error(read.problems[0]?.message)
  const placeOf = placesIn(text, read.value, catalog)
  return {
    file,
    findings: check(resolve(read.value, catalog), allRules).map((one) => ({ ...one, place: placeOf(one) })),
  }
}

describe('places of findings in the text of a plan', () => {
  const read = readPlan(text, 'f', catalog)
  const placeOf = read.ok ? placesIn(text, read.value, catalog) : undefined
  it.each([
    ['a wire that joins two of its ends', ['L.A', 'R.1'], { line: 10, column: 5 }],
    ['a wire that is named by its pin as printed', ['O.SDA', 'MCU.D4'], { line: 13, column: 5 }],
    ['the wire of an end and a part', ['MCU.D3', 'R'], { line: 11, column: 5 }],
    ['a part without a wire there', ['O.VCC'], { line: 8, column: 6 }],
    ['a board as a whole', ['MCU'], { line: 4, column: 8 }],
    ['nothing of the plan', ['ground'], { line: 1, column: 1 }],
  ])('%s', (_, at, place) => {
    expect(placeOf?.({ at })).toEqual(place)
  })
})

describe('SARIF 2.1.0', () => {
  const log = sarifOf(
    [reportOf('my plans/lamp.yaml'), { file: 'no.yaml', unreadable: ['no.yaml: not a plan'] }],
    '9.9',
  ) as {
    version: string
    runs: [
      {
        tool: { driver: { rules: { id: string }[]; version: string } }
        invocations: [{ executionSuccessful: boolean; toolExecutionNotifications: unknown[] }]
        results: {
          ruleId: string
          ruleIndex: number
          level: string
          locations: [{ physicalLocation: { artifactLocation: { uri: string }; region: { startLine: number } } }]
          suppressions?: { justification: string }[]
        }[]
      },
    ]
  }
  const [run] = log.runs
  it('names every rule, and each result by its index among them', () => {
    expect(log.version).toBe('2.1.0')
    expect(run.tool.driver.rules.map(({ id }) => id)).toEqual(allRules.map(({ meta }) => meta.id))
    for (const one of run.results) expect(run.tool.driver.rules[one.ruleIndex]?.id).toBe(one.ruleId)
  })
  it('puts a fault at the line of its wire, as an error', () => {
    const lamp = run.results.find(({ ruleId }) => ruleId === 'led-resistor')
    expect(lamp?.level).toBe('error')
    expect(lamp?.locations[0].physicalLocation).toMatchObject({
      artifactLocation: { uri: 'my%20plans/lamp.yaml' },
      region: { startLine: 10 },
    })
  })
  it('suppresses what is accepted, with the reason', () => {
    const accepted = run.results.filter(({ suppressions }) => suppressions)
    expect(accepted.map(({ suppressions }) => suppressions?.[0]?.justification)).toEqual(['later <soon>'])
  })
  it('says that a file could not be read', () => {
    expect(run.invocations[0].executionSuccessful).toBe(false)
    expect(run.invocations[0].toolExecutionNotifications).toHaveLength(1)
  })
})

describe('JUnit XML', () => {
  const xml = junitOf([reportOf('a&b.yaml'), { file: 'no.yaml', unreadable: ['no.yaml: \u0001 not "a" plan'] }])
  it('counts cases, failures and errors', () => {
    const failures = xml.match(/<failure /g)?.length ?? 0
    expect(failures).toBeGreaterThan(0)
    expect(xml).toContain(
      `<testsuites name="Mark Post" tests="${allRules.length + 1}" failures="${failures}" errors="1">`,
    )
    expect(xml.match(/<testcase /g)).toHaveLength(allRules.length + 1)
  })
  it('fails the case of a rule with a fault, at its place', () => {
    expect(xml).toMatch(/name="led-resistor">\n {6}<failure type="fault" message="[^"]+">a&amp;b\.yaml:10:5: fault: /)
  })
  it('holds nothing that XML cannot', () => {
    expect(xml).toContain('not &quot;a&quot; plan')
    expect(xml).not.toContain('\u0001')
    expect(xml).not.toMatch(/&(?!(amp|lt|gt|quot|apos|#10);)/)
    expect(xml).toContain('Accepted: later &lt;soon&gt;')
  })
})

it('every rule and every place of the samples is within its text', () => {
  const file = 'demo/5-mended-by-monday.markpost.yaml'
  const sample = readFileSync(file, 'utf8')
  const read = readPlan(sample, file, catalog)
  if (!read.ok) throw new Error('the sample cannot be read')
  const lines = sample.split('\n')
  const placeOf = placesIn(sample, read.value, catalog)
  for (const finding of check(resolve(read.value, catalog), allRules)) {
    const { line, column } = placeOf(finding)
    expect(lines[line - 1]?.length).toBeGreaterThanOrEqual(column)
    expect(finding.at.some((end) => lines[line - 1]?.includes(end.split('.')[0] as string))).toBe(true)
  }
})
