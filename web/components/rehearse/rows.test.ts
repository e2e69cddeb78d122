import { expect, it } from 'vitest'
import { wiringOf } from '../../../core/testing/plans.ts'
import { arranged, blockOf, type ScoreRow } from './rows.ts'

const { parts } = wiringOf({ mcu: 'uno-r3', parts: { A: 'led', B: 'hc-sr04', C: 'button' } })
const row = (ref: string, key: string, handles: string[] = []): ScoreRow => ({
  key,
  end: key,
  post: key,
  use: undefined,
  part: parts.find((one) => one.ref === ref),
  changes: [],
  shown: [],
  handles,
})
const rows = [row('A', 'D1'), row('B', 'D2'), row('B', 'D3', ['B']), row('C', 'D4'), row('', 'Foo.read')]
const keys = (first: string[], folded: string[]): string[] =>
  arranged(rows, { first, folded: new Set(folded) }).map(
    ({ key, of, isFolded }) => `${key} ${of}${isFolded ? ' folded' : ''}`,
  )

it.each<[string, string[], string[], string[]]>([
  ['as they come', [], [], ['D1 1', 'D2 2', 'D3 0', 'D4 1', 'Foo.read 1']],
  ['with parts at the top, their rows together', ['C', 'B'], [], ['D4 1', 'D2 2', 'D3 0', 'D1 1', 'Foo.read 1']],
  ['with a part folded to its first', [], ['B'], ['D1 1', 'D2 2 folded', 'D4 1', 'Foo.read 1']],
  ['with what is not there left out', ['X'], ['A', 'Y'], ['D1 1', 'D2 2', 'D3 0', 'D4 1', 'Foo.read 1']],
])('rows stand %s', (_, first, folded, all) => {
  expect(keys(first, folded)).toEqual(all)
})

it('a folded part keeps what can be moved of it', () => {
  expect(arranged(rows, { first: [], folded: new Set(['B']) })[1]?.handles).toEqual(['B'])
  expect(blockOf(rows[4]!)).toBe('Foo.read')
})
