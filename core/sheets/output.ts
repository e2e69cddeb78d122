import { layoutOf } from '../breadboard/layout.ts'
import { allRules, check } from '../rules/index.ts'
import type { Wiring } from '../wiring/model.ts'
import { benchPicture } from './benchPicture.ts'
import { writeBenchSvg } from './benchSvg.ts'
import { type KnownFindings, openFindings } from './cover.ts'
import { writeCsv } from './csv.ts'
import { writeHtml } from './html.ts'
import { writeMarkdown } from './markdown.ts'
import { isTable, type PageName, pageNames } from './pages.ts'
import { writePinChart } from './pinChart.ts'
import { makeSheet } from './sheet.ts'
import { writeStrips } from './strips.ts'
import { tableNames } from './tables.ts'

export const sheetFormats = ['csv', 'markdown', 'html', 'svg', 'json'] as const
export type SheetFormat = (typeof sheetFormats)[number]

/** A page that a format cannot hold, or that the plan cannot fill yet; the message says what could be asked instead. */
export class SheetError extends Error {
  override name = 'SheetError'
}

export interface OutputOptions {
  /** Pages wanted: any number as HTML, one as anything else. */
  readonly only?: readonly PageName[] | undefined
  readonly revision?: number | undefined
  readonly paper?: 'A4' | 'Letter' | undefined
}

/** The sheets of a plan in one format. Throws {@link SheetError} for a page that this format does not have. */
export function writeSheet(
  wiring: Wiring,
  as: SheetFormat,
  { only: pages, revision, paper }: OutputOptions = {},
): string {
  if (pages && pages.length > 1 && as !== 'html')
    throw new SheetError(`${pages.join(',')}: several pages go together only as html; as ${as} expected one`)
  const only = pages?.[0]
  const layout = layoutOf(wiring)
  const sheet = makeSheet(wiring, layout)
  const known = (): KnownFindings => ({ open: openFindings(check(wiring, allRules)), accepted: wiring.plan.accepted })
  const table = only !== undefined && isTable(only) ? only : undefined
  if (only !== undefined && table === undefined && as !== 'html' && as !== 'svg')
    throw new SheetError(`"${only}" is a drawn page; as ${as} expected one of ${tableNames.join(', ')}`)
  switch (as) {
    case 'csv':
      return writeCsv(sheet, table, table === 'findings' ? known() : {})
    case 'markdown':
      return writeMarkdown(sheet, table && [table], known())
    case 'html':
      return writeHtml({ sheet, wiring, layout }, { only: pages, revision, paper, ...known() })
    case 'json':
      return `${JSON.stringify(table === undefined ? sheet : { [table]: table === 'findings' ? findingRows(known()) : sheet[table] }, null, 2)}\n`
    case 'svg':
      if (only === undefined || only === 'chart' || only === 'pins') return writePinChart(wiring).text
      if (only === 'strips') return writeStrips(wiring).text
      if (only !== 'drawing') throw new SheetError(`"${only}" is no drawing; as svg expected chart, drawing or strips`)
      if (!layout) throw new SheetError('drawing: the plan has no breadboard yet; expected one under bench')
      return writeBenchSvg(benchPicture(wiring, layout, sheet), { title: wiring.plan.title }).text
  }
}

const findingRows = ({ open = [], accepted = [] }: KnownFindings) => ({
  open: open.map(({ rule, severity, at, message }) => ({ rule, severity, at, message })),
  accepted,
})

/** Pages as written with commas between them, checked. */
export function pagesNamed(text: string): PageName[] {
  const named = text.split(',', pageNames.length * 4).map((part) => {
    const name = part.trim()
    const found = pageNames.find((one) => one === name)
    if (!found) throw new SheetError(`"${name.slice(0, 40)}" is no page; expected one of ${pageNames.join(', ')}`)
    return found
  })
  // A page that is named twice prints once.
  return [...new Set(named)]
}
