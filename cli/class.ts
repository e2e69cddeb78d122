import { existsSync, readdirSync, statSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { classCsv } from '../core/classroom/classCsv.ts'
import { type ClassRow, classRow, differenceWords, handedIn, isWell } from '../core/classroom/classRow.ts'
import { taskOf } from '../core/classroom/task.ts'
import { writePlan } from '../core/plan/writePlan.ts'
import {
  columns,
  InputError,
  print,
  printJson,
  readPlanFile,
  readTextFile,
  type Status,
  theCatalog,
  writePlanOut,
} from './input.ts'
import { scriptOf } from './rehearse.ts'

const WANTED = /\.(ya?ml|json|ino|cpp|h|hpp|py)$/i
const MOST_FILES = 2000

/** Plans of many held against one: 0 all are as they should be, 1 something is to be looked at. */
export function classCommand(
  sources: readonly string[],
  options: { readonly asked?: string; readonly script?: string; readonly csv?: boolean; readonly json?: boolean },
): Status {
  const given = [options.asked, options.script].flatMap((name) => (name === undefined ? [] : [resolve(name)]))
  const names = sources.flatMap((name) => filesOf(name)).filter((name) => !given.includes(resolve(name)))
  const files = names.map((name) => ({ name, text: readTextFile(name, 'a plan or a program') }))
  const { works, left } = handedIn(files)
  if (works.length === 0)
    throw new InputError([`${sources.join(', ')}: no plan among ${files.length} files; expected files ending in .yaml`])
  const task = {
    asked: options.asked === undefined ? undefined : readPlanFile(options.asked).plan,
    script: options.script === undefined ? undefined : scriptOf(options.script),
  }
  const rows = works.map((work) => classRow(work, task, theCatalog()))
  if (options.json) printJson(rows.map(({ plan: _, ...row }) => row))
  else if (options.csv) print(classCsv(rows))
  else {
    print(columns([['file', 'board', 'placed', 'faults', 'cautions', 'rehearsal', 'differs'], ...rows.map(cells)]))
    if (left.length > 0) print(`belong to no plan: ${left.join(', ')}`)
  }
  return rows.every(isWell) ? 0 : 1
}

function cells(row: ClassRow): string[] {
  if (row.trouble !== undefined) return [row.file, '', '', '', '', '', `cannot be read: ${row.trouble}`]
  const { rehearsal } = row
  return [
    row.file,
    row.board,
    `${row.placed} of ${row.needed}`,
    String(row.faults),
    String(row.cautions),
    rehearsal === undefined ? '' : rehearsal.passed ? 'passed' : 'not passed',
    differenceWords(row),
  ]
}

function filesOf(name: string): string[] {
  if (!existsSync(name) || !statSync(name).isDirectory()) return [name]
  const found = readdirSync(name, { recursive: true, encoding: 'utf8' })
    .filter((one) => WANTED.test(one))
    .sort()
    .map((one) => join(name, one))
  if (found.length > MOST_FILES)
    throw new InputError([`${name}: ${found.length} files; expected at most ${MOST_FILES}`])
  return found
}

/** A plan as a task: everything but its wires and programs. */
export function taskCommand(file: string, options: { readonly out: string; readonly hints: boolean }): Status {
  const { plan } = readPlanFile(file)
  writePlanOut(options.out, writePlan(taskOf(plan, options), theCatalog()))
  print(`${options.out}: board and parts of ${file}, without its wires${options.hints ? '' : ' and without hints'}`)
  return 0
}
