import { counted } from '../base/counted.ts'
import type { KnownFindings } from './cover.ts'
import type { Sheet, StepRow } from './rows.ts'
import { type TableName, tableNames, tableOf, tableTitles } from './tables.ts'

/** Pages that are no plain table. */
const figureNames = ['cover', 'drawing', 'build', 'chart', 'strips'] as const
type FigureName = (typeof figureNames)[number]
export type PageName = TableName | FigureName

/** Every page, in the order in which they print: what is followed first, what is cut out last. */
export const pageNames: readonly PageName[] = [
  'cover',
  'wiring',
  'drawing',
  'build',
  'chart',
  ...tableNames.filter((name) => name !== 'wiring' && name !== 'labels'),
  'strips',
  'labels',
]

export const isTable = (name: PageName): name is TableName => (tableNames as readonly string[]).includes(name)

export const pageTitles: Readonly<Record<PageName, string>> = {
  ...tableTitles,
  cover: 'Cover',
  drawing: 'Breadboard drawing',
  build: 'Drawing of each step',
  chart: 'Pin chart',
  strips: 'Strips for the posts',
}

/** Pages that a maker takes along unless told otherwise. */
export const usualPages: readonly PageName[] = ['cover', 'wiring', 'drawing', 'chart']

/** Steps of which a drawing shows something. */
export const drawnSteps = ({ steps }: Sheet): readonly StepRow[] => steps.filter(({ onlyWords }) => !onlyWords)

/** What a page will hold, in a few words; nothing for one that is always the same. */
export function pageHolds(sheet: Sheet, name: PageName, known: KnownFindings): string {
  if (name === 'build') return counted(drawnSteps(sheet).length, 'drawing')
  if (name === 'chart' || name === 'strips') return counted(sheet.boards.length, 'board')
  if (name === 'wiring') return counted(sheet.wiring.length, 'wire')
  if (!isTable(name)) return ''
  const { length } = tableOf(sheet, name, known).rows
  return length === 0 ? 'nothing yet' : counted(length, 'line')
}

/** Pages that show something only once there is a breadboard. */
export const benchPages: readonly PageName[] = ['drawing', 'build', 'legs']
