import type { Sheet } from './sheet.ts'

/** Tables that can be written on their own. */
export type TableName = 'wiring' | 'parts' | 'jumpers' | 'steps' | 'pins'
export const tableNames: readonly TableName[] = ['wiring', 'parts', 'jumpers', 'steps', 'pins']

/** Column titles and rows of one table, all as text. */
export function tableOf(
  sheet: Sheet,
  name: TableName,
): { readonly title: string; readonly columns: readonly string[]; readonly rows: readonly (readonly string[])[] } {
  const end = (one: { ref: string; pin: string }): string => `${one.ref}.${one.pin}`
  const length = (millimetres: number | null): string => (millimetres === null ? '' : `${millimetres}`)
  switch (name) {
    case 'wiring':
      return {
        title: 'Wiring table',
        columns: [
          'No',
          'Step',
          'Colour',
          'Ends',
          'Length mm',
          'From',
          'Lead',
          'From hole',
          'To',
          'Also named',
          'To hole',
          'Net',
          'Find it',
        ],
        rows: sheet.wiring.map((row) => [
          `${row.number}`,
          `${row.step}`,
          row.colour,
          row.ends,
          length(row.lengthMillimetres),
          end(row.from),
          row.from.lead ?? '',
          row.from.hole ?? '',
          end(row.to),
          row.to.names.join(' '),
          row.to.hole ?? '',
          row.net,
          row.note,
        ]),
      }
    case 'parts':
      return {
        title: 'Parts',
        columns: ['Part', 'What it is for', 'Type', 'Value', 'Belongs to'],
        rows: sheet.parts.map((row) => [row.ref, row.title, row.part, row.value, row.for ?? '']),
      }
    case 'jumpers':
      return {
        title: 'Jumper wires',
        columns: ['Ends', 'Colour', 'Length mm', 'Count'],
        rows: sheet.jumpers.map((row) => [row.ends, row.colour, length(row.lengthMillimetres), `${row.count}`]),
      }
    case 'steps':
      return {
        title: 'Build steps',
        columns: ['Step', 'Title', 'What to know', 'Wires'],
        rows: sheet.steps.map((row) => [`${row.number}`, row.title, row.text, row.wires.join(' ')]),
      }
    case 'pins':
      return {
        title: 'Pin chart',
        columns: ['Board', 'Header', 'Position', 'Pin', 'Also named', 'Find it', 'Carries'],
        rows: sheet.pins.map((row) => [
          row.board,
          row.header,
          `${row.position}`,
          row.pin,
          row.names.join(' '),
          row.find,
          row.carries.join(' '),
        ]),
      }
  }
}
