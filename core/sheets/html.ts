import type { Layout } from '../breadboard/layout.ts'
import { entryOf } from '../text/entryOf.ts'
import type { Wiring } from '../wiring/model.ts'
import { benchPicture } from './benchPicture.ts'
import { writeBenchSvg } from './benchSvg.ts'
import { wireColours } from './colours.ts'
import { type CoverOptions, coverBody } from './cover.ts'
import { escapeText } from './escape.ts'
import { isTable, type PageName, pageTitles, usualPages } from './pages.ts'
import { writePinChart } from './pinChart.ts'
import type { Sheet, WireRow } from './sheet.ts'
import { sheetStyle } from './sheetStyle.ts'
import { writeStrips } from './strips.ts'
import { tableOf } from './tables.ts'

export interface HtmlOptions extends CoverOptions {
  readonly only?: readonly PageName[] | undefined
  /** Number of the saved state, printed on every page. */
  readonly revision?: number | undefined
  readonly paper?: 'A4' | 'Letter' | undefined
}

/** What is printed: the sheet as data, and what the drawings are made from. */
export interface Printed {
  readonly sheet: Sheet
  readonly wiring: Wiring
  readonly layout: Layout | undefined
}

/** The sheets as HTML for the page body: the application shows it and the command line wraps it in a document. */
export function sheetBody(printed: Printed, options: HtmlOptions = {}): string {
  const { sheet } = printed
  const revision = options.revision === undefined ? '' : `, revision ${options.revision}`
  const wanted = options.only ?? usualPages
  // A table with nothing in it is printed only when it was asked for alone.
  const isEmpty = (name: PageName): boolean =>
    name !== 'wiring' && isTable(name) && tableOf(sheet, name).rows.length === 0
  const names = wanted.length > 1 ? wanted.filter((name) => !isEmpty(name)) : wanted
  const pages = names.map((name) => {
    const title = name === 'cover' ? sheet.title : pageTitles[name]
    const about =
      name === 'cover'
        ? `${revision.slice(2)}`
        : `${escapeText(sheet.title)}${revision}<br>${sheet.boards.map(escapeText).join('<br>')}`
    const head = `<header class="mp-head"><h2>${escapeText(title)}</h2><p>${about}</p></header>`
    return `<section class="mp-page mp-page-${name}" aria-label="${escapeText(pageTitles[name])}">${head}${pageBody(printed, name, options)}</section>`
  })
  return `<div class="mp-sheet">${pages.join('')}</div>`
}

/** A whole document for the command line and for saving. */
export function writeHtml(printed: Printed, options: HtmlOptions = {}): string {
  const { title } = printed.sheet
  return `<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><title>${escapeText(title)}</title><meta name="viewport" content="width=device-width">
<style>body { margin: 0; } ${sheetStyle(title, options.revision, options.paper ?? 'A4')}</style></head>
<body>${sheetBody(printed, options)}</body>
</html>
`
}

const none = (text: string): string => `<p class="mp-none">${text}</p>`

function pageBody(printed: Printed, name: PageName, options: HtmlOptions): string {
  const { sheet, wiring, layout } = printed
  if (name === 'cover') return coverBody(sheet, options)
  if (name === 'chart') return wiring.boards.length === 0 ? none('No board yet.') : writePinChart(wiring)
  if (name === 'strips') return wiring.boards.length === 0 ? none('No board yet.') : writeStrips(wiring)
  if (name === 'drawing' || name === 'build') {
    if (!layout) return none('Put a breadboard on the bench first; then everything is drawn here.')
    const picture = benchPicture(wiring, layout, sheet)
    if (name === 'drawing') return writeBenchSvg(picture, { title: 'The whole breadboard' })
    const wide = picture.width > picture.height * 1.1 ? ' mp-wide' : ''
    return `<div class="mp-build${wide}">${sheet.steps
      .map((step) => {
        const title = `${step.number}. ${step.title}`
        return `<figure><figcaption>${escapeText(title)}</figcaption>${writeBenchSvg(picture, { step: step.number, title })}</figure>`
      })
      .join('')}</div>`
  }
  if (name === 'wiring') return wiringTables(sheet)
  if (name === 'labels') return labels(sheet)
  const { columns, rows } = isTable(name) ? tableOf(sheet, name) : { columns: [], rows: [] }
  return rows.length === 0 ? none('Nothing yet.') : table(columns, rows, `mp-${name}`)
}

function wiringTables(sheet: Sheet): string {
  if (sheet.wiring.length === 0) return none('No wires yet.')
  const holes = sheet.breadboards.length > 0
  return sheet.steps
    .map((step) => {
      const rows = sheet.wiring.filter((row) => row.step === step.number)
      const body = rows.length === 0 ? legLists(sheet) : wiringTable(rows, holes)
      return `<section class="mp-step"><h3><span>${step.number}</span>${escapeText(step.title)}</h3><p>${escapeText(step.text)}</p>${body}</section>`
    })
    .join('')
}

function wiringTable(rows: readonly WireRow[], holes: boolean): string {
  const end = (one: WireRow['from'] | WireRow['to'], more: string): string =>
    `<td class="mp-end"><b>${escapeText(one.ref)} ${escapeText(one.pin)}</b>${more}</td>${holes ? `<td class="mp-hole">${escapeText(one.hole ?? ('lead' in one && one.lead !== null ? 'its lead' : 'its post'))}</td>` : ''}`
  const lines = rows.map((row) => {
    const lead = row.from.lead ? `<small>its ${escapeText(row.from.lead)} lead</small>` : ''
    const length = row.lengthMillimetres === null ? '' : `${row.lengthMillimetres} mm, `
    const names = row.to.names
      .filter((name) => !name.includes('#'))
      .slice(0, 4)
      .join(' · ')
    const position = row.to.names.filter((name) => name.includes('#')).join(' ')
    return `<tr><td class="mp-tick"><span role="img" aria-label="tick when done"></span></td><td class="mp-no">${row.number}</td><td class="mp-wire"><i style="--c:${entryOf(wireColours, row.colour) ?? row.colour.replace(/[^a-z#0-9]/gi, '')}"></i>${escapeText(row.colour)}<small>${length}${row.ends}</small></td>${end(row.from, lead)}${end(row.to, `<small class="mp-names">${escapeText(names)}</small>`)}<td class="mp-find">${escapeText(row.note)}${position ? ` <span class="mp-position">${escapeText(position)}</span>` : ''}</td></tr>`
  })
  const hole = holes ? '<th>Hole</th>' : ''
  return `<table class="mp-wiring"><thead><tr><th class="mp-tick"><span class="mp-hidden">Done</span></th><th>No</th><th>Wire</th><th>From</th>${hole}<th>To</th>${hole}<th>Find it</th></tr></thead><tbody>${lines.join('')}</tbody></table>`
}

/** The first step on a breadboard: each part with its first and last legs. */
function legLists(sheet: Sheet): string {
  const byRef = new Map<string, Sheet['legs'][number][]>()
  for (const leg of sheet.legs) byRef.set(leg.ref, [...(byRef.get(leg.ref) ?? []), leg])
  const lines = [...byRef].map(([ref, legs]) => {
    const shown = legs.length > 8 ? [legs[0]!, legs.at(-1)!] : legs
    const text = shown.map(({ pin, hole }) => `${pin} in ${hole}`).join(legs.length > 8 ? ' … ' : ', ')
    return `<tr><td class="mp-tick"><span role="img" aria-label="tick when done"></span></td><td class="mp-end"><b>${escapeText(ref)}</b></td><td>${escapeText(legs[0]!.title)}</td><td class="mp-find">${escapeText(text)}</td></tr>`
  })
  return `<table class="mp-placing"><thead><tr><th class="mp-tick"><span class="mp-hidden">Done</span></th><th>Part</th><th>What it is for</th><th>Legs in holes</th></tr></thead><tbody>${lines.join('')}</tbody></table>`
}

/** Flags to cut out and fold around both ends of a wire. */
function labels(sheet: Sheet): string {
  if (sheet.labels.length === 0) return none('No wires yet.')
  const flag = (number: number, text: string): string => {
    const side = `<span><b>${number}</b>${escapeText(text)}</span>`
    return `<div class="mp-flag">${side}${side}</div>`
  }
  return `<p>Cut along the lines, fold in the middle around the wire, and stick the halves together.</p><div class="mp-flags">${sheet.labels.map(({ number, from, to }) => flag(number, from) + flag(number, to)).join('')}</div>`
}

const table = (columns: readonly string[], rows: readonly (readonly string[])[], className: string): string =>
  `<table class="${className}"><thead><tr>${columns.map((one) => `<th>${escapeText(one)}</th>`).join('')}</tr></thead><tbody>${rows.map((row) => `<tr>${row.map((one) => `<td>${escapeText(one)}</td>`).join('')}</tr>`).join('')}</tbody></table>`
