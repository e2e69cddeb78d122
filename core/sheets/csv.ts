import { stringify } from 'csv-stringify/browser/esm/sync'
import type { KnownFindings } from './cover.ts'
import type { Sheet } from './rows.ts'
import { type TableName, tableOf } from './tables.ts'

/**
 * One table as CSV (RFC 4180). A cell in which any reader could see an end of line or of a cell is quoted, and what a
 * spreadsheet would take for a formula is made harmless, wherever in a cell it could begin.
 */
export function writeCsv(sheet: Sheet, name: TableName = 'wiring', known: KnownFindings = {}): string {
  const { columns, rows } = tableOf(sheet, name, known)
  return csvOf(columns, rows)
}

/** Columns and rows as CSV, as {@link writeCsv} does it. */
export function csvOf(columns: readonly string[], rows: readonly (readonly string[])[]): string {
  return stringify([[...columns], ...rows.map((row) => row.map(disarm))], {
    // The writer itself quotes commas and quotes; a lone line break, or a semicolon, ends a cell for other readers.
    quoted_match: /[\r\n\u0085\u2028\u2029;\t]/,
    record_delimiter: 'windows',
  })
}

/** Puts an apostrophe before signs with which a formula begins: at the start of a cell and behind what may end one. */
const disarm = (cell: string): string =>
  cell.replace(/(^|[\r\n\u0085\u2028\u2029;,\t|"])([\s"']*)(?=[=+\-@＝＋－＠])/g, "$1$2'")
