import { expect, it } from 'vitest'
import { printedByPython } from '../../../benchmarks/printedByPython.ts'
import { printedRehearsed } from '../testing/printedRehearsed.ts'
import { pythons } from '../testing/pythons.ts'
import { pythonsOfLanguage } from '../testing/pythonsOfLanguage.ts'
import { randomPython } from '../testing/randomPython.ts'

/** The same program under the Python of this machine, and rehearsed: what they print must be the same. */
it.each([...pythons, ...pythonsOfLanguage])('%s', (_, text) => {
  expect(printedRehearsed(text).split('\n')).toEqual(printedByPython([text])[0]!.split('\n'))
})

it('programs made by chance', () => {
  const texts = Array.from({ length: 200 }, (_, at) => randomPython(at + 1))
  expect(texts.map(printedRehearsed)).toEqual(printedByPython(texts))
})
