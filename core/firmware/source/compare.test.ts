import { describe, expect, it } from 'vitest'
import { wiringOf } from '../../testing/plans.ts'
import { type ProgramCase, programCases } from '../../testing/programs.ts'
import { compareSource } from './compare.ts'
import type { Difference } from './differences.ts'

const compared = (
  { plan, language, files }: ProgramCase,
  change?: readonly [string, string],
): readonly Difference[] => {
  const wiring = wiringOf(plan)
  let found = change === undefined
  const sources = files.map(([name, text]) => {
    if (change === undefined || !text.includes(change[0])) return { name, text }
    found = true
    return { name, text: text.replace(change[0], change[1]) }
  })
  if (!found) throw new Error(`the program has no ${change?.[0]}`)
  return compareSource(wiring, wiring.boards[0]!, sources, language).differences
}

const said = (differences: readonly Difference[]): string[] =>
  differences.filter(({ kind }) => kind !== 'same').map(({ kind, ends }) => [kind, ...ends].join(' '))

describe.each(programCases.map((one) => [one.title, one] as const))('%s', (_, one) => {
  it('as it stands', () => {
    expect(said(compared(one))).toEqual(one.says ?? [])
  })
  it.each(one.changes)('%s → %s', (from, to, wanted) => {
    expect(said(compared(one, [from, to])).sort()).toEqual([...wanted].sort())
  })
})
