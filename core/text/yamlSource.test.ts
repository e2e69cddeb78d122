import fc from 'fast-check'
import * as v from 'valibot'
import { expect, it } from 'vitest'
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
    { numRuns: 500 },
  )
})
