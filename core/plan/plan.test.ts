import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatProblem } from '../base/problem.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { samplePlans } from '../testing/samples.ts'
import { times } from '../testing/times.ts'
import { describeDifference } from './difference.ts'
import { applyEdit, applyEdits, type Edit, EditError } from './edit.ts'
import { advance, redo, startHistory, undo } from './history.ts'
import { addParts } from './kit.ts'
import { readPlan } from './readPlan.ts'
import { writePlan } from './writePlan.ts'

const read = (text: string) => readPlan(text, 'p.yaml', catalog)
const says = (text: string): string[] => {
  const plan = read(text)
  return plan.ok ? [] : plan.problems.map(formatProblem)
}
const head = 'markpost: 1\ntitle: T\nboards:\n  MCU: { board: uno-r3 }\n'

describe('reading', () => {
  it.each([
    ['truncated', 'markpost: 1\ntitle: "T', /^p\.yaml:2:\d+: not valid YAML/],
    ['not a plan', 'just some words', /expected a map that starts with "markpost: 1"/],
    [
      'an unknown version',
      'markpost: 7\ntitle: T',
      /^p\.yaml:1:11: markpost: format version 7 is not known; expected 1/,
    ],
    ['wrong types', 'markpost: 1\ntitle: 5\n', /^p\.yaml:2:8: title: expected text, found 5/],
    ['an unknown key', `${head}wirez: []\n`, /^p\.yaml:5:8: wirez: unknown key "wirez"/],
    [
      'an unknown part',
      `${head}parts:\n  A: { part: bme208 }\n`,
      /^p\.yaml:6:14: parts\.A\.part: the catalogue has no part "bme208"; did you mean bme280\?/,
    ],
    [
      'an unknown board',
      'markpost: 1\ntitle: T\nboards: { M: { board: unox } }\n',
      /the catalogue has no board "unox"/,
    ],
    [
      'an unknown pin',
      `${head}parts:\n  A: { part: bme280 }\nwires:\n  - [A.SDB, MCU.A4]\n`,
      /^p\.yaml:8:6: wires\.0\.0: "A\.SDB": bme280 has no pin "SDB"; did you mean/,
    ],
    [
      'a name that fits several pins',
      `${head}wires:\n  - [MCU.#2, MCU.GND]\n`,
      /"MCU\.#2" fits \d pins of uno-r3: MCU\.IOREF and MCU\.A1/,
    ],
    [
      'a reference used twice',
      `${head}parts:\n  mcu: { part: led }\n`,
      /the reference mcu stands twice, in boards and in parts/,
    ],
    ['a key written twice', `${head}parts:\n  A: { part: led }\n  A: { part: led }\n`, /the same key stands twice/],
    [
      'an end of no part',
      `${head}wires:\n  - [X.A, MCU.GND]\n`,
      /"X\.A" names no board, supply or part of this plan; known are MCU/,
    ],
    ['a wire to itself', `${head}wires:\n  - [MCU.5V, MCU.VCC]\n`, /joins MCU\.5V with itself/],
    ['a wire twice', `${head}wires:\n  - [MCU.2, MCU.4]\n  - [MCU.D4, MCU.D2]\n`, /the same wire as number 1/],
    [
      'an impossible address',
      `${head}parts:\n  A: { part: bme280, options: { address: 0x40 } }\n`,
      /0x40 is no value of address; expected one of 0x76, 0x77/,
    ],
    [
      'an impossible amount',
      `${head}parts:\n  A: { part: resistor, options: { ohms: lots } }\n`,
      /"lots" is not an amount/,
    ],
    [
      'an unknown feature',
      'markpost: 1\ntitle: T\nboards: { M: { board: uno-r3, uses: [wifi] } }\n',
      /uno-r3 has no feature "wifi"; expected one of usb-serial/,
    ],
    ['a prototype name', `${head}parts:\n  __proto__: { part: led }\n`, /./],
  ])('%s gets one clear message', (_, text, message) => {
    const said = says(text)
    expect(said.length).toBe(1)
    expect(said[0]).toMatch(message)
  })

  it('accepts every name and writes canonical ends', () => {
    const plan = read(
      `${head}parts:\n  A: { part: bme280, options: { address: "0x77" } }\n  R: { part: resistor, options: { ohms: 4k7 } }\nwires:\n  - [a.sdi, mcu.SDA]\n  - [A.sck, MCU.pc5]\n`,
    )
    expect(plan.ok && plan.value.wires).toEqual([
      ['A.SDA', 'MCU.A4.2'],
      ['A.SCL', 'MCU.A5'],
    ])
    expect(plan.ok && plan.value.parts).toMatchObject({
      A: { options: { address: 0x77 } },
      R: { options: { ohms: 4700 } },
    })
  })

  it('reads JSON too', () => {
    expect(read(JSON.stringify(planOf({ parts: { A: 'led' } }))).ok).toBe(true)
  })
})

describe('writing', () => {
  it.each(samplePlans.map((sample) => [sample.plan.title, sample] as const))(
    '%s comes back as it was written',
    (_, { text, plan }) => {
      expect(writePlan(plan, catalog, text)).toBe(text)
      const fresh = read(writePlan(plan, catalog))
      expect(fresh.ok && fresh.value).toEqual(plan)
    },
  )

  it('changes only the lines that changed, and keeps comments', () => {
    const text = `# my plan\n${head}parts:\n  # the roof\n  A: {part: bme280,   options: {address: 0x76}} # ours\n  B: { part: led }\nwires:\n  - [A.SDA, MCU.A4] # green\n`
    const plan = read(text)
    if (!plan.ok) throw new Error(says(text).join())
    const next = applyEdits(plan.value, [
      { do: 'connect', from: 'A.SCL', to: 'MCU.A5' },
      { do: 'change-part', ref: 'B', entry: { title: 'lamp' } },
    ])
    const lines = writePlan(next, catalog, text).split('\n')
    const before = text.split('\n')
    expect(lines.filter((line) => !before.includes(line))).toEqual([
      '  B: { part: led, title: lamp }',
      '  - [ A.SCL, MCU.A5 ]',
    ])
    expect(before.filter((line) => !lines.includes(line))).toEqual(['  B: { part: led }'])
  })
})

/** Random edits: some fit, some do not. */
const ref = fc.constantFrom('MCU', 'A', 'B', 'C', 'PACK', 'NEW')
const end = fc.constantFrom(
  'A.SDA',
  'A.SCL',
  'B.A',
  'B.K',
  'MCU.A4',
  'MCU.A5',
  'MCU.D7',
  'MCU.GND',
  'PACK.+',
  'PACK.-',
  'C.1',
)
const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.record({ do: fc.constant('set-title' as const), title: fc.string({ maxLength: 20 }) }),
  fc.record({ do: fc.constant('add-part' as const), ref, entry: fc.constant({ part: 'button' }) }),
  fc.record({ do: fc.constant('add-supply' as const), ref, entry: fc.constant({ volts: 5 }) }),
  fc.record({ do: fc.constant('remove' as const), ref }),
  fc.record({ do: fc.constant('rename' as const), ref, to: fc.constantFrom('A', 'Z9', 'bad ref', 'mcu') }),
  fc.record({ do: fc.constant('connect' as const), from: end, to: end }),
  fc.record({ do: fc.constant('disconnect' as const), from: end, to: end }),
  fc.record({
    do: fc.constant('change-wire' as const),
    from: end,
    to: end,
    facts: fc.record({ locked: fc.boolean() }),
  }),
  fc.record({ do: fc.constant('leave-open' as const), end }),
  fc.record({ do: fc.constant('use-again' as const), end }),
  fc.record({
    do: fc.constant('accept' as const),
    rule: fc.constant('pin-shared'),
    at: fc.array(end, { maxLength: 2 }),
    because: fc.constant('it works'),
  }),
)
const start = planOf({
  mcu: 'uno-r3',
  supplies: { PACK: { volts: 5 } },
  parts: { A: 'bme280', B: 'led', C: 'button' },
  wires: 'A.SDA MCU.A4, B.K MCU.GND',
})

describe('edits', () => {
  it('leave the given plan alone, and undo and redo lead back and forth', () => {
    const before = JSON.stringify(start)
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 12 }), (edits) => {
        let history = startHistory(start)
        const plans = [start]
        for (const edit of edits) {
          try {
            const next = advance(history, [edit], edit.do)
            if (next !== history) plans.push(next.present)
            history = next
          } catch (error) {
            if (!(error instanceof EditError)) throw error
          }
        }
        for (const plan of [...plans].reverse().slice(1)) {
          history = undo(history)
          expect(history.present).toBe(plan)
        }
        expect(undo(history)).toBe(history)
        for (const plan of plans.slice(1)) {
          history = redo(history)
          expect(history.present).toBe(plan)
        }
        expect(JSON.stringify(start)).toBe(before)
        // No wire, mark or acceptance may speak of a reference that is gone.
        const { present } = history
        const refs = [...Object.keys(present.boards), ...Object.keys(present.supplies), ...Object.keys(present.parts)]
        for (const one of [...present.wires.flatMap((wire) => [wire[0], wire[1]])])
          expect(refs).toContain(one.split('.')[0])
      }),
      { numRuns: times(300) },
    )
  })

  it('describes every difference, and nothing when there is none', () => {
    expect(describeDifference(start, start, catalog)).toEqual([])
    fc.assert(
      fc.property(anyEdit, (edit) => {
        try {
          const next = applyEdit(start, edit)
          if (JSON.stringify(next) !== JSON.stringify(start))
            expect(describeDifference(start, next, catalog).length).toBeGreaterThan(0)
        } catch (error) {
          if (!(error instanceof EditError)) throw error
        }
      }),
      { numRuns: times(300) },
    )
  })

  it('renames a reference everywhere', () => {
    const plan = applyEdits(start, [
      { do: 'leave-open', end: 'A.SDO' },
      { do: 'accept', rule: 'boot-strap', at: ['A', 'A.SDA'], because: 'x' },
      { do: 'rename', ref: 'A', to: 'ROOF' },
    ])
    expect(plan.wires[0]).toEqual(['ROOF.SDA', 'MCU.A4'])
    expect(plan.unused).toEqual(['ROOF.SDO'])
    expect(plan.accepted[0]?.at).toEqual(['ROOF', 'ROOF.SDA'])
  })

  it('adds parts with names, free addresses and the companions they cannot do without', () => {
    const bme = catalog.parts.get('bme280')!
    const two = applyEdits(start, addParts(start, catalog, bme, 2))
    expect(two.parts).toMatchObject({ CLIMATE1: { options: { address: 0x77 } }, CLIMATE2: { part: 'bme280' } })
    const lamp = applyEdits(start, addParts(start, catalog, catalog.parts.get('led')!, 1))
    expect(lamp.parts).toMatchObject({ LED: { part: 'led' }, R1: { part: 'resistor', options: { ohms: 330 } } })
    expect(lamp.wires.at(-1)).toEqual(['LED.A', 'R1.1'])
  })
})
