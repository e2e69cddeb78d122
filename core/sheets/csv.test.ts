import fc from 'fast-check'
import { expect, it } from 'vitest'
import { catalog, planOf } from '../testing/plans.ts'
import { times } from '../testing/times.ts'
import { resolve } from '../wiring/resolve.ts'
import { writeCsv } from './csv.ts'
import { makeSheet } from './sheet.ts'

/** Reads RFC 4180, with a given separator and every line break as an end of a row: as the most careless spreadsheet. */
function read(text: string, separator: string): string[][] {
  const rows: string[][] = [[]]
  let cell = ''
  let quoted = false
  const endCell = (): void => {
    rows.at(-1)!.push(cell)
    cell = ''
  }
  for (let at = 0; at < text.length; at += 1) {
    const letter = text[at]!
    if (quoted) {
      if (letter === '"' && text[at + 1] === '"') {
        cell += '"'
        at += 1
      } else if (letter === '"') quoted = false
      else cell += letter
    } else if (letter === '"' && cell === '') quoted = true
    else if (letter === separator) endCell()
    else if (/[\r\n\u0085\u2028\u2029]/.test(letter)) {
      endCell()
      if (letter === '\r' && text[at + 1] === '\n') at += 1
      rows.push([])
    } else cell += letter
  }
  endCell()
  return rows
}

const sheetWith = (title: string): string => {
  const plan = planOf({
    parts: { LAMP: { part: 'led', title }, R1: 'resistor' },
    wires: 'LAMP.A R1.1, R1.2 MCU.GPIO23, LAMP.K MCU.GND',
  })
  return writeCsv(makeSheet(resolve(plan, catalog)), 'parts')
}
const usual = read(sheetWith('Lamp'), ',').map((row) => row.length)

it.each([
  ['=1+1'],
  [' =1+1'],
  ['x;=1+1'],
  ['x; =1+1'],
  ['x\n=1+1'],
  ['x\r@SUM(A1)'],
  ['x\u2028+1'],
  ['\t-1+2'],
  ['x",=1+1'],
  ['＝1+1'],
])('a title %j breaks no row and begins no formula, whatever separates the cells', (title) => {
  const text = sheetWith(title)
  expect(read(text, ',').map((row) => row.length)).toEqual(usual)
  for (const separator of [',', ';', '\t'])
    for (const cell of read(text, separator).flat()) expect(cell).not.toMatch(/^[\s"]*[=@＝＋－＠]|^[\s"]*[+-]./)
})

it('whatever the title, rows stay whole', () => {
  const nasty = fc.string({ maxLength: 30, unit: fc.constantFrom(...'=+-@;,"\'\t\r\n\u2028\u0085 x1|') })
  fc.assert(
    fc.property(nasty, (title) => {
      expect(read(sheetWith(title), ',').map((row) => row.length)).toEqual(usual)
    }),
    { numRuns: times(60) },
  )
})
