import { stringify } from 'csv-stringify/sync'
import type { Sheet } from './sheet.ts'
import { type TableName, tableOf } from './tables.ts'

/** One table as CSV (RFC 4180), with cells that a spreadsheet would take for a formula made harmless. */
export function writeCsv(sheet: Sheet, name: TableName = 'wiring'): string {
  const { columns, rows } = tableOf(sheet, name)
  return stringify([[...columns], ...rows.map((row) => [...row])], {
    escape_formulas: true,
    record_delimiter: 'windows',
  })
}
