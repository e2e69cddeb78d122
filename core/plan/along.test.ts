import { describe, expect, it } from 'vitest'
import { formatProblem } from '../base/problem.ts'
import { catalog, planOf } from '../testing/plans.ts'
import { describeDifference } from './difference.ts'
import { applyEdits, type Edit, EditError } from './edit.ts'
import { mergePlans } from './merge.ts'
import { piecesOf, planOfPieces } from './pieces.ts'
import type { Plan } from './planSchema.ts'
import { readPlan } from './readPlan.ts'
import { writePlan } from './writePlan.ts'

const base = planOf({
  parts: { LAMP: 'led', R1: 'resistor', GATE: 'button' },
  wires: 'LAMP.A R1.1, R1.2 MCU.GPIO23, LAMP.K MCU.GND, GATE.1 MCU.GPIO32, GATE.2 MCU.GND',
})
const PROGRAM = 'const int lamp = 23;\n\nvoid setup() {\n\tpinMode(lamp, OUTPUT); // "on"\n}\n'
const full: Edit[] = [
  { do: 'set-program', ref: 'MCU', files: { 'gate.ino': PROGRAM, 'lid.h': '#pragma once\n' } },
  {
    do: 'set-script',
    script: {
      seconds: 5,
      steps: [
        { at: 1, set: { GATE: 'closed' } },
        { at: 1.5, expect: { LAMP: 'on', 'MCU.GPIO23': 'high' }, within: 0.2 },
        { at: 2, type: 'go' },
      ],
    },
  },
  { do: 'comment', id: 'k1', comment: { at: ['LAMP.A'], text: 'Which leg is the long one?', by: 'M.' } },
  { do: 'comment', id: 'k2', comment: { at: ['LAMP', 'GATE'], rule: 'no-resistor', text: 'Say why.' } },
  { do: 'hints', on: false },
]
const edited = (...edits: Edit[]): Plan => applyEdits(base, edits)
const kept = edited(...full)

describe('programs, scripts, comments and the hints of a task', () => {
  it('stand in the text as they were given, and come back from it and from pieces', () => {
    const text = writePlan(kept, catalog)
    const read = readPlan(text, 'p.yaml', catalog)
    expect(read.ok && read.value).toEqual(kept)
    expect(text).toContain('gate.ino: |\n')
    expect(text).toContain('        const int lamp = 23;\n')
    expect(text).toContain('    - { at: 1, set: { GATE: closed } }\n')
    expect(planOfPieces(piecesOf(kept))).toEqual(kept)
    // A later save leaves the lines alone that say the same.
    const renamed = applyEdits(kept, [{ do: 'set-title', title: 'Other' }])
    expect(writePlan(renamed, catalog, text)).toBe(text.replace(`title: ${kept.title}`, 'title: Other'))
  })

  it.each([
    '',
    '\n',
    ' leading\n  and deeper\n',
    'no end',
    'tab\there \n\n\n',
    '# ...\n---\nkey: |\n',
    '\u00e4 "é" \\n\n',
  ])('texts stay to the letter: %j', (text) => {
    const plan = edited({ do: 'set-program', ref: 'MCU', files: { 'a.py': text } })
    const read = readPlan(writePlan(plan, catalog), 'p.yaml', catalog)
    expect(read.ok && read.value.rehearsal?.programs?.MCU).toEqual({ 'a.py': text })
  })

  it('follow a rename, and go with what is removed', () => {
    const renamed = applyEdits(kept, [
      { do: 'rename', ref: 'MCU', to: 'BRAIN' },
      { do: 'rename', ref: 'LAMP', to: 'GLOW' },
    ])
    expect(Object.keys(renamed.rehearsal?.programs ?? {})).toEqual(['BRAIN'])
    expect(renamed.rehearsal?.steps?.[1]?.expect).toEqual({ GLOW: 'on', 'BRAIN.GPIO23': 'high' })
    expect(renamed.comments?.k1?.at).toEqual(['GLOW.A'])
    const without = applyEdits(kept, [{ do: 'remove', ref: 'GATE' }])
    expect(without.rehearsal?.steps?.map(({ at }) => at)).toEqual([1.5, 2])
    // What somebody said stays until it is settled, though its place is gone.
    expect(without.comments?.k2?.at).toEqual(['LAMP', 'GATE'])
    const bare = applyEdits(kept, [{ do: 'remove', ref: 'MCU' }])
    expect(bare.rehearsal?.programs).toBeUndefined()
    expect(bare.rehearsal?.seconds).toBe(5)
  })

  it('leave nothing behind when they are put away', () => {
    const back = applyEdits(kept, [
      { do: 'set-program', ref: 'MCU', files: null },
      { do: 'set-script', script: { seconds: undefined, steps: [] } },
      { do: 'comment', id: 'k1', comment: null },
      { do: 'comment', id: 'k2', comment: null },
      { do: 'hints', on: true },
    ])
    expect(back).toEqual(base)
  })

  it('are told in words', () => {
    expect(describeDifference(base, kept, catalog)).toEqual([
      'a task to be solved without hints',
      'comment on LAMP.A: Which leg is the long one?',
      'comment on no-resistor: Say why.',
      'program of MCU taken in (gate.ino, lid.h)',
      'script of the rehearsal changed',
    ])
    const settled = applyEdits(kept, [
      { do: 'comment', id: 'k1', comment: { ...kept.comments!.k1!, settled: true } },
      { do: 'set-program', ref: 'MCU', files: { 'gate.ino': PROGRAM } },
      { do: 'hints', on: true },
    ])
    expect(describeDifference(kept, settled, catalog)).toEqual([
      'hints are given',
      'comment on LAMP.A settled: Which leg is the long one?',
      'program of MCU changed (lid.h)',
    ])
    expect(describeDifference(kept, base, catalog)).toContain('program of MCU put away')
  })

  it('of two people are joined; two programs of one board are asked about', () => {
    const mine = edited({ do: 'comment', id: 'a', comment: { at: ['GATE'], text: 'Mine' } }, full[1]!)
    const theirs = edited({ do: 'comment', id: 'b', comment: { at: ['GATE'], text: 'Theirs' } }, full[0]!)
    const joined = mergePlans(base, mine, theirs)
    expect(joined.clashes).toEqual([])
    const plan = joined.plan(new Map())
    expect(Object.keys(plan.comments ?? {}).sort()).toEqual(['a', 'b'])
    expect(plan.rehearsal).toEqual(kept.rehearsal)

    const other = edited({ do: 'set-program', ref: 'MCU', files: { 'gate.ino': '// other\n' } })
    const clash = mergePlans(base, theirs, other)
    expect(clash.clashes.map(({ at }) => at)).toEqual([['MCU']])
    const key = clash.clashes[0]?.key ?? ''
    expect(clash.plan(new Map([[key, 'mine']])).rehearsal?.programs?.MCU?.['gate.ino']).toBe(PROGRAM)
    expect(clash.plan(new Map([[key, 'theirs']])).rehearsal?.programs?.MCU?.['gate.ino']).toBe('// other\n')
  })

  it('are refused with their place, and set aside where the plan is kept', () => {
    const says = (section: string): string[] => {
      const read = readPlan(
        `markpost: 1\ntitle: T\nboards: { MCU: { board: esp32-devkit-30 } }\n${section}`,
        'p',
        catalog,
      )
      return read.ok ? [] : read.problems.map(formatProblem)
    }
    expect(says('rehearsal: { programs: { NOBODY: { a.ino: "" } } }')).toEqual([
      expect.stringContaining('"NOBODY" is no board of this plan'),
    ])
    expect(says('rehearsal: { programs: { MCU: { plain: "" } } }')[0]).toContain('expected the name of a file')
    expect(says('comments: { K: { text: "" } }').join(' ')).toContain('expected an id of small letters and digits')
    expect(says('comments: { k: { text: "" } }')[0]).toContain('expected a text')
    expect(says('settings: { hints: true }')[0]).toContain('expected false')
    expect(says('comments: { k: { at: [mcu.D23, gone.X], text: look } }')).toEqual([])
    expect(() => edited({ do: 'set-program', ref: 'MCU', files: { 'a.ino': 'x'.repeat(200_001) } })).toThrow(EditError)
    const text = writePlan(kept, catalog).replace('    MCU:\n      gate.ino', '    GONE:\n      gate.ino')
    const read = readPlan(text, 'p', catalog, 'set-aside')
    expect(read.ok && read.value.aside?.map(({ at }) => at.join('/'))).toEqual(['rehearsal/programs/GONE'])
    expect(read.ok && read.value.rehearsal?.seconds).toBe(5)
  })
})
