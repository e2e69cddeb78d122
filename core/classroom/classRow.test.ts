import { describe, expect, it } from 'vitest'
import { applyEdits } from '../plan/edit.ts'
import { writePlan } from '../plan/writePlan.ts'
import { readScript } from '../rehearse/script.ts'
import { catalog, planOf, type Short } from '../testing/plans.ts'
import { classCsv } from './classCsv.ts'
import { classRow, type HandedIn, handedIn, withProgram } from './classRow.ts'
import { taskOf } from './task.ts'

const asked: Short = {
  mcu: 'uno-r3',
  parts: { KEY: 'button', LAMP: 'led', R1: { part: 'resistor', options: { ohms: 330 } } },
  wires: 'KEY.1 MCU.D2, KEY.2 MCU.GND, LAMP.A R1.1, R1.2 MCU.D5, LAMP.K MCU.GND',
}
const textOf = (short: Short): string => writePlan(planOf(short), catalog)
const work = (short: Short, program = ''): HandedIn => ({
  file: 'anna.markpost.yaml',
  text: textOf(short),
  program: program === '' ? [] : [{ name: 'anna.ino', text: program }],
})
const script = readScript(
  'rehearsal: 1\nsteps:\n  - { at: 0.5, expect: { LAMP: off } }\n  - { at: 1, set: { KEY: pressed } }\n  - { at: 1.5, expect: { LAMP: on } }',
  'x',
)
if (!script.ok) throw new Error('script')
const task = { asked: planOf(asked), script: script.value }
const right =
  'void setup() { pinMode(5, OUTPUT); pinMode(2, INPUT_PULLUP); }\nvoid loop() { digitalWrite(5, !digitalRead(2)); delay(10); }'

describe('a plan held against the one that was asked for', () => {
  it('is as asked, and its program does what the script expects', () => {
    expect(classRow(work(asked, right), task, catalog)).toMatchObject({
      title: 'test',
      board: 'Uno R3',
      placed: 2,
      needed: 2,
      faults: 0,
      missing: [],
      more: [],
      elsewhere: [],
      rehearsal: { passed: true, came: 2, of: 2, said: '' },
    })
  })
  it.each<[string, Short, string, object]>([
    [
      'lacks a part and has another',
      {
        mcu: 'uno-r3',
        parts: { KEY: 'button', HORN: 'buzzer-active' },
        wires: 'KEY.1 MCU.D2, KEY.2 MCU.GND',
      },
      '',
      { missing: ['LED', 'Resistor'], more: ['Active buzzer'], rehearsal: undefined },
    ],
    [
      'has taken another pin',
      { ...asked, wires: asked.wires!.replace('D2', 'D7') },
      '',
      { elsewhere: ['KEY.1: D7, asked D2'], missing: [] },
    ],
    ['is not wired to the end', { ...asked, wires: 'KEY.1 MCU.D2, KEY.2 MCU.GND' }, '', { placed: 1, needed: 2 }],
    [
      'has a program that does something else',
      asked,
      right.replace('!digitalRead', 'digitalRead'),
      { rehearsal: { passed: false, came: 0, of: 2, said: expect.stringContaining('Expected LAMP off') } },
    ],
    [
      'has a program that does what is expected, and something wrong besides',
      asked,
      right.replace('delay(10);', 'digitalRead(9); analogRead(99); delay(10);'),
      { rehearsal: { passed: false, came: 2, of: 2, said: expect.stringContaining('line 2') } },
    ],
    [
      'calls something else by the same name',
      {
        ...asked,
        parts: { ...asked.parts, KEY: 'reed-switch' },
        wires: asked.wires!.replace('D2', 'D7'),
      },
      '',
      { elsewhere: [], missing: ['Push button'], more: ['Reed switch'] },
    ],
    [
      'has a program that cannot be read',
      asked,
      'void setup() { int = 3; }',
      { rehearsal: { passed: false, came: 0, of: 0, said: expect.stringContaining('expected') } },
    ],
    [
      'is on another board, whose pins are not compared',
      { ...asked, mcu: 'nano-v3', wires: asked.wires!.replace('D2', 'D7') },
      '',
      { elsewhere: [], board: 'Nano V3' },
    ],
  ])('%s', (_, short, program, said) => {
    expect(classRow(work(short, program), task, catalog)).toMatchObject(said)
  })
  describe('keeps its program itself', () => {
    const keeping = (program: string, script?: object): HandedIn => {
      const plan = applyEdits(planOf(asked), [
        { do: 'set-program', ref: 'MCU', files: { 'own.ino': program } },
        ...(script ? [{ do: 'set-script', script } as const] : []),
        { do: 'comment', id: 'a', comment: { at: ['KEY'], text: 'Why here?' } },
        { do: 'comment', id: 'b', comment: { at: ['KEY'], text: 'Seen.', settled: true } },
      ])
      return { file: 'own.yaml', text: writePlan(plan, catalog), program: [] }
    }
    const own = { steps: [{ at: 0.5, expect: { LAMP: 'on' } }] }
    it.each<[string, HandedIn, object]>([
      ['and is held against the script that was asked for', keeping(right, own), { passed: true, came: 2, of: 2 }],
      [
        'unless another lies beside it',
        { ...work(asked, right), text: keeping('void setup() {', own).text },
        { came: 2 },
      ],
    ])('%s', (_, handed, rehearsal) => {
      expect(classRow(handed, task, catalog)).toMatchObject({ comments: 1, rehearsal })
    })
    it('and its own script where none was asked for', () => {
      expect(classRow(keeping(right, own), {}, catalog).rehearsal).toMatchObject({ passed: false, came: 0, of: 1 })
      expect(classRow(keeping(right), {}, catalog).rehearsal).toMatchObject({ passed: true, of: 0 })
    })
  })
  it('cannot be read, and that is said', () => {
    const row = classRow({ file: 'ben.yaml', text: 'markpost: 1\ntitle: [', program: [] }, task, catalog)
    expect(row.trouble).toContain('ben.yaml')
    expect(classCsv([row]).split('\r\n')[1]).toContain('cannot be read: ben.yaml')
  })
  it('has a row of the table, and no cell that a spreadsheet would reckon', () => {
    const row = classRow({ ...work(asked, right), file: '=cmd().yaml' }, task, catalog)
    expect(classCsv([row]).trim().split('\r\n')).toEqual([
      'file,title,board,placed,of,faults,cautions,first of them,missing,more,on other pins,open comments,rehearsal,expectations,of expectations,said',
      "'=cmd().yaml,test,Uno R3,2,2,0,0,,,,,0,passed,2,2,",
    ])
  })
})

describe('files of many', () => {
  const names = (all: readonly string[]) => {
    const { works, left } = handedIn(all.map((name) => ({ name, text: '' })))
    return [works.map(({ file, program }) => [file, ...program.map(({ name }) => name)]), left]
  }
  it.each<[string, string[], string[][], string[]]>([
    [
      'by their names',
      ['anna.markpost.yaml', 'ben.yaml', 'anna.ino', 'ben.py'],
      [
        ['anna.markpost.yaml', 'anna.ino'],
        ['ben.yaml', 'ben.py'],
      ],
      [],
    ],
    [
      'by their folders',
      ['anna/plan.yaml', 'anna/main.ino', 'anna/tab.h', 'ben/plan.yaml'],
      [['anna/plan.yaml', 'anna/main.ino', 'anna/tab.h'], ['ben/plan.yaml']],
      [],
    ],
    [
      'what belongs to nobody',
      ['anna.yaml', 'other.ino', 'note.txt', 'a.rehearsal.yaml'],
      [['anna.yaml']],
      ['other.ino', 'note.txt', 'a.rehearsal.yaml'],
    ],
    ['two plans in one folder', ['x/a.yaml', 'x/b.yaml', 'x/a.ino'], [['x/a.yaml', 'x/a.ino'], ['x/b.yaml']], []],
  ])('belong together %s', (_, files, works, left) => {
    expect(names(files)).toEqual([works, left])
  })
})

describe('a plan that is brought in', () => {
  it('keeps the program beside it, under the names of its files', () => {
    const handed: HandedIn = {
      ...work(asked),
      program: [
        { name: 'anna/main.ino', text: right },
        { name: 'anna/lid.h', text: '' },
      ],
    }
    expect(withProgram(planOf(asked), handed, catalog).rehearsal).toEqual({
      programs: { MCU: { 'main.ino': right, 'lid.h': '' } },
    })
  })
  it.each<[string, Short, { name: string; text: string }[]]>([
    ['has no program', asked, []],
    ['has no board for it', asked, [{ name: 'a.py', text: 'print(1)' }]],
    ['has one that is too long', asked, [{ name: 'a.ino', text: `//${'x'.repeat(200_000)}` }]],
  ])('stays as it is where it %s', (_, short, program) => {
    const plan = planOf(short)
    expect(withProgram(plan, { ...work(short), program }, catalog)).toBe(plan)
  })
  it('keeps its own', () => {
    const plan = applyEdits(planOf(asked), [{ do: 'set-program', ref: 'MCU', files: { 'own.ino': '' } }])
    expect(withProgram(plan, work(asked, right), catalog)).toBe(plan)
  })
})

describe('a plan as a task', () => {
  const plan = applyEdits(planOf({ ...asked, accepted: [{ rule: 'x', at: ['KEY'], because: 'y' }] }), [
    { do: 'set-program', ref: 'MCU', files: { 'answer.ino': right } },
    { do: 'set-script', script: { seconds: 3, steps: [{ at: 1, set: { KEY: 'pressed' } }] } },
    { do: 'comment', id: 'a', comment: { at: ['KEY'], text: 'To myself.' } },
  ])
  it('has everything but its wires, programs and comments; what must come of it stays', () => {
    const task = taskOf(plan)
    expect(task).toMatchObject({ title: 'test', boards: plan.boards, parts: plan.parts, wires: [], accepted: [] })
    expect(task.rehearsal).toEqual({ seconds: 3, steps: [{ at: 1, set: { KEY: 'pressed' } }] })
    for (const key of ['bench', 'comments', 'settings'] as const) expect(task[key]).toBe(undefined)
  })
  it('gives hints or does not, whatever it was made of', () => {
    const without = taskOf(plan, { hints: false })
    expect(without.settings).toEqual({ hints: false })
    expect(taskOf(without).settings).toBe(undefined)
    expect(taskOf({ ...plan, settings: { asked: ['q'] } }, { hints: false }).settings).toEqual({
      asked: ['q'],
      hints: false,
    })
  })
})
