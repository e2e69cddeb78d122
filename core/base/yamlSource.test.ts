import fc from 'fast-check'
import * as v from 'valibot'
import { expect, it } from 'vitest'
import { stringify } from 'yaml'
import { times } from '../testing/times.ts'
import { formatProblem } from './problem.ts'
import { parseYaml, validateYaml } from './yamlSource.ts'

const say = (text: string, schema: v.GenericSchema = v.unknown()): string[] => {
  const parsed = parseYaml(text, 'f.yaml')
  if (!parsed.ok) return parsed.problems.map(formatProblem)
  const valid = validateYaml(parsed.value, schema)
  return valid.ok ? [] : valid.problems.map(formatProblem)
}

it.each([
  ['a: [1, 2', /^f\.yaml:1:\d+: not valid YAML/],
  ['a: 1\na: 2\n', /^f\.yaml:2:1: the same key stands twice/],
  ['a: \u0000', /bytes that are not text/],
  ['x'.repeat(1_000_001), /1,000,001 characters; expected at most 1,000,000/],
])('says one clear thing about %j', (text, message) => {
  const said = say(text)
  expect(said).toHaveLength(1)
  expect(said[0]).toMatch(message)
})

it('names line, column, key, value and expectation', () => {
  const schema = v.strictObject({ volts: v.number(), list: v.array(v.string()) })
  expect(say('volts: high\nlist:\n  - 3\nmore: 1\n', schema)).toEqual([
    'f.yaml:1:8: volts: expected a number, found "high"',
    'f.yaml:3:5: list.0: expected text, found 3',
    'f.yaml:4:7: more: unknown key "more"; expected one of the documented keys',
  ])
})

it('never throws, whatever the text', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 200, unit: 'grapheme' }), (text) => {
      parseYaml(text, 'f')
    }),
    { numRuns: times(500) },
  )
})

/** A plan as large as plans may be, as a program would write it. */
const largest = {
  markpost: 1,
  parts: Object.fromEntries(
    Array.from({ length: 500 }, (_, n) => [`PART${n}`, { part: 'resistor', options: { ohms: 330 } }]),
  ),
  wires: Array.from({ length: 2000 }, (_, n) => [`PART${n % 500}.A`, `PART${n}.B`]),
  bench: {
    places: Object.fromEntries(Array.from({ length: 500 }, (_, n) => [`PART${n}`, { board: 'B', at: [n, 3] }])),
  },
}

it.each([
  ['forty thousand keys', Array.from({ length: 40_000 }, (_, n) => `k${n}: 1`).join('\n')],
  ['lists in lists', '- '.repeat(400_000)],
  ['keys in keys', '? '.repeat(400_000)],
  ['names without values', '&a '.repeat(300_000)],
  ['tags without values', '! '.repeat(300_000)],
  ['empty texts', '"" '.repeat(300_000)],
  ['colons', 'a:\t'.repeat(300_000)],
  ['old line ends', 'a: 1\r'.repeat(100_000)],
  ['maps in a list', `[${'{a: 1},'.repeat(30_000)}]`],
])('%s: too many to parse are refused before parsing', (_, text) => {
  expect(say(text)).toEqual([
    expect.stringMatching(
      /^f\.yaml: the file has [\d,]+ line breaks, commas, colons and other marks; expected at most 40,000$/,
    ),
  ])
})

it('reads the largest plan however it is written', () => {
  for (const text of [JSON.stringify(largest), JSON.stringify(largest, null, 2), stringify(largest)])
    expect(say(text)).toEqual([])
  expect(say(`notes: ${"it's a long, long - story: ".repeat(9000).replaceAll(': ', ' ')}`)).toEqual([])
})
