import { csvOf } from '../sheets/csv.ts'
import type { ClassRow } from './classRow.ts'

const COLUMNS = [
  'file',
  'title',
  'board',
  'placed',
  'of',
  'faults',
  'cautions',
  'first of them',
  'missing',
  'more',
  'on other pins',
  'open comments',
  'rehearsal',
  'expectations',
  'of expectations',
  'said',
]

/** The table of a class as CSV, a row each. */
export function classCsv(rows: readonly ClassRow[]): string {
  return csvOf(
    COLUMNS,
    rows.map((row) =>
      row.trouble !== undefined
        ? [row.file, '', '', '', '', '', '', `cannot be read: ${row.trouble}`, '', '', '', '', '', '', '', '']
        : [
            row.file,
            row.title,
            row.board,
            String(row.placed),
            String(row.needed),
            String(row.faults),
            String(row.cautions),
            row.worst,
            row.missing.join('; '),
            row.more.join('; '),
            row.elsewhere.join('; '),
            String(row.comments),
            row.rehearsal === undefined ? '' : row.rehearsal.passed ? 'passed' : 'not passed',
            row.rehearsal === undefined ? '' : String(row.rehearsal.came),
            row.rehearsal === undefined ? '' : String(row.rehearsal.of),
            row.rehearsal?.said ?? '',
          ],
    ),
  )
}
