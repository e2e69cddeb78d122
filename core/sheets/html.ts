import { sha256 } from '@noble/hashes/sha2.js'
import { utf8ToBytes } from '@noble/hashes/utils.js'
import { entryOf } from '../base/entryOf.ts'
import type { Layout } from '../breadboard/workbench.ts'
import type { Wiring } from '../wiring/model.ts'
import { type BenchPicture, benchPicture } from './benchPicture.ts'
import { writeBenchSvg } from './benchSvg.ts'
import { wireColours } from './colours.ts'
import { coverBody, type KnownFindings } from './cover.ts'
import { Markup, markup } from './markup.ts'
import { drawnSteps, isTable, type PageName, pageTitles, usualPages } from './pages.ts'
import { writePinChart } from './pinChart.ts'
import { writeQr } from './qr.ts'
import type { Sheet, WireRow } from './rows.ts'
import { sheetStyle } from './sheetStyle.ts'
import { writeStrips } from './strips.ts'
import { minutes, tableOf } from './tables.ts'

export interface HtmlOptions extends KnownFindings {
  readonly only?: readonly PageName[] | undefined
  /** Number of the saved state, printed on every page. */
  readonly revision?: number | undefined
  readonly paper?: 'A4' | 'Letter' | undefined
  /** Address of the plan's bench page, where others reach it: printed on the first page for a phone to read. */
  readonly link?: string | undefined
}

/** What is printed: the sheet as data, and what the drawings are made from. */
export interface Printed {
  readonly sheet: Sheet
  readonly wiring: Wiring
  readonly layout: Layout | undefined
}

/** The sheets as HTML for the page body: the application shows it and the command line wraps it in a document. */
export const sheetBody = (printed: Printed, options: HtmlOptions = {}): string => pagesOf(printed, options).text

function pagesOf(printed: Printed, options: HtmlOptions): Markup {
  const { sheet } = printed
  const revision = options.revision === undefined ? '' : `, revision ${options.revision}`
  const wanted = options.only ?? usualPages
  // A table with nothing in it is printed only when it was asked for alone.
  const isEmpty = (name: PageName): boolean =>
    name !== 'wiring' && isTable(name) && tableOf(sheet, name, options).rows.length === 0
  const names = wanted.length > 1 ? wanted.filter((name) => !isEmpty(name)) : wanted
  const pages = names.map((name, index) => {
    const title = name === 'cover' ? sheet.title : pageTitles[name]
    const about =
      name === 'cover'
        ? revision.slice(2)
        : markup`${sheet.title}${revision}${sheet.boards.map((board) => markup`<br>${board}`)}`
    const link = index === 0 && options.link !== undefined ? writeQr(options.link) : undefined
    const head = markup`<header class="mp-head"><h2>${title}</h2><p>${about}</p>${link}</header>`
    return markup`<section class="mp-page mp-page-${name}" aria-label="${pageTitles[name]}">${head}${pageBody(printed, name, options)}</section>`
  })
  return markup`<div class="mp-sheet">${pages}</div>`
}

/**
 * A whole document for the command line and for saving. Its content policy (Content Security Policy Level 3) lets in the
 * one style that it brings along, by its hash, and nothing else: no script, no picture, no style at an element.
 */
export function writeHtml(printed: Printed, options: HtmlOptions = {}): string {
  const { title } = printed.sheet
  const style = `body { margin: 0; } ${sheetStyle(title, options.revision, options.paper ?? 'A4')}`
  const policy = `default-src 'none'; style-src 'sha256-${base64(sha256(utf8ToBytes(style)))}'`
  return markup`<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><title>${title}</title><meta name="viewport" content="width=device-width">
<meta http-equiv="Content-Security-Policy" content="${policy}">
<style>${new Markup(style)}</style></head>
<body>${pagesOf(printed, options)}</body>
</html>
`.text
}

/** Bytes in base 64 (RFC 4648). */
const base64 = (bytes: Uint8Array): string => btoa(String.fromCharCode(...bytes))

const none = (text: string): Markup => markup`<p class="mp-none">${text}</p>`

function pageBody(printed: Printed, name: PageName, options: HtmlOptions): Markup {
  const { sheet, wiring, layout } = printed
  if (name === 'cover') return coverBody(sheet, options)
  if (name === 'chart') return wiring.boards.length === 0 ? none('No board yet.') : writePinChart(wiring)
  if (name === 'strips') return wiring.boards.length === 0 ? none('No board yet.') : writeStrips(wiring)
  if (name === 'drawing' || name === 'build') {
    if (!layout) return none('Put a breadboard on the bench first; then everything is drawn here.')
    const picture = picturePosed(wiring, layout, sheet, name === 'build' ? HALF_PAGE : PAGE)
    if (name === 'drawing') return writeBenchSvg(picture, { title: 'The whole breadboard' })
    return markup`<div class="mp-build">${drawnSteps(sheet).map((step) => {
      const title = `${step.number}. ${step.title}`
      return markup`<figure><figcaption>${title}</figcaption>${writeBenchSvg(picture, { step: step.number, title })}</figure>`
    })}</div>`
  }
  if (name === 'wiring') return wiringTables(sheet)
  if (name === 'labels') return labels(sheet)
  if (name === 'record') return record(sheet)
  const { columns, rows } = isTable(name) ? tableOf(sheet, name, options) : { columns: [], rows: [] }
  return rows.length === 0 ? none('Nothing yet.') : table(columns, rows, `mp-${name}`)
}

/** Breadth of the printed part of a page by its height, below its heading; and where two drawings share it. */
const PAGE = 184 / 240
const HALF_PAGE = 184 / 108

/** The bench in the pose in which it fills the paper that it gets better. */
function picturePosed(wiring: Wiring, layout: Layout, sheet: Sheet, paper: number): BenchPicture {
  const stands = benchPicture(wiring, layout, sheet)
  const size = (width: number, height: number): number => Math.min(paper / width, 1 / height)
  return size(stands.height, stands.width) > size(stands.width, stands.height)
    ? benchPicture(wiring, layout, sheet, 'lies')
    : stands
}

function wiringTables(sheet: Sheet): Markup {
  if (sheet.wiring.length === 0) return none('No wires yet.')
  const holes = sheet.breadboards.length > 0
  const plugs = sheet.wiring.some(({ ends }) => ends === 'plug-plug')
    ? markup`<p class="mp-plugs">Wires have plugs at both ends where nothing else is said.</p>`
    : undefined
  return markup`${plugs}${sheet.steps.map((step) => {
    const rows = sheet.wiring.filter((row) => row.step === step.number)
    const body = rows.length > 0 ? wiringTable(rows, holes) : step.places ? legLists(sheet, step.places) : undefined
    return markup`<section class="mp-step"><h3><span>${step.number}</span>${step.title}</h3><p>${step.text}</p>${body}</section>`
  })}`
}

function wiringTable(rows: readonly WireRow[], holes: boolean): Markup {
  type End = WireRow['from'] | WireRow['to']
  const end = (one: End): Markup => {
    const names = one.names.filter((name) => !name.includes('#')).slice(0, 2)
    const more = one.lead === null ? names.join(' · ') : `its ${one.lead} lead`
    const said = more === '' ? undefined : markup` <small>${more}</small>`
    return markup`<td class="mp-end"><b>${one.ref} ${one.pin}</b>${said}</td>${holes ? markup`<td class="mp-hole">${holeOf(one)}</td>` : undefined}`
  }
  const holeOf = (one: End): string => {
    if (one.hole !== null) return one.hole
    return one.lead === null ? 'its post' : 'its lead'
  }
  const position = ({ names }: End): string => names.filter((name) => name.includes('#')).join(' ')
  const lines = rows.map((row) => {
    // Most wires have plugs at both ends; only what is otherwise is said.
    const length = row.lengthMillimetres === null ? '' : ` ${row.lengthMillimetres} mm`
    const ends = row.ends === 'plug-plug' ? '' : ` ${row.ends}`
    const find = [row.from.find, row.note].filter((text) => text !== '').join('; ')
    const positions = [position(row.from), position(row.to)].filter((text) => text !== '').join(' ')
    return markup`<tr><td class="mp-tick"><span role="img" aria-label="tick when done"></span></td><td class="mp-no">${row.number}</td><td class="mp-wire"><svg viewBox="0 0 24 10" preserveAspectRatio="none" aria-hidden="true"><rect width="24" height="10" fill="${entryOf(wireColours, row.colour) ?? row.colour.replace(/[^a-z#0-9]/gi, '')}"/></svg>${row.colour}<small>${length}${ends}</small></td>${end(row.from)}${end(row.to)}<td class="mp-find">${find}${positions ? markup` <span class="mp-position">${positions}</span>` : undefined}</td></tr>`
  })
  const hole = holes ? markup`<th class="mp-hole">Hole</th>` : undefined
  return markup`<table class="mp-wiring"><thead><tr><th class="mp-tick"><span class="mp-hidden">Done</span></th><th class="mp-no">No</th><th class="mp-wire">Wire</th><th class="mp-end">From</th>${hole}<th class="mp-end">To</th>${hole}<th class="mp-find">Find it</th></tr></thead><tbody>${lines}</tbody></table>`
}

/** What a step puts into holes: each part with its first and last legs. */
function legLists(sheet: Sheet, refs: readonly string[]): Markup {
  const byRef = new Map<string, Sheet['legs'][number][]>()
  for (const leg of sheet.legs) if (refs.includes(leg.ref)) byRef.set(leg.ref, [...(byRef.get(leg.ref) ?? []), leg])
  const lines = [...byRef].map(([ref, legs]) => {
    const shown = legs.length > 8 ? [legs[0]!, legs.at(-1)!] : legs
    const mark = (leg: (typeof legs)[number]): string =>
      leg.mark !== '' && leg.number === null ? `${leg.pin} (${leg.mark})` : leg.pin
    const text = shown.map((leg) => `${mark(leg)} in ${leg.hole}`).join(legs.length > 8 ? ' … ' : ', ')
    return markup`<li><span class="mp-box-open" role="img" aria-label="tick when done"></span><b>${ref}</b> <small>${legs[0]!.title}</small> ${text}</li>`
  })
  return markup`<ul class="mp-placing">${lines}</ul>`
}

/** Steps of bring-up, part by part: a box for what is to be done, what was seen beside what is done. */
function record({ record: all }: Sheet): Markup {
  if (all.length === 0) return none('Nothing is wired yet.')
  const box = (seen: 'right' | 'wrong' | null): Markup =>
    seen === null
      ? markup`<span role="img" aria-label="tick when done"></span>`
      : markup`<span role="img" aria-label="${seen === 'right' ? 'as expected' : 'otherwise'}" class="mp-box">${seen === 'right' ? '✓' : '✗'}</span>`
  const parts = [...new Set(all.map(({ part }) => part))]
  return markup`${parts.map((part) => {
    const lines = all
      .filter((row) => row.part === part)
      .map((row) => {
        const seen = [row.value, row.remark].filter((text) => text !== null).join('; ')
        return markup`<tr><td class="mp-tick">${box(row.seen)}</td><td><b>${row.title}</b> ${row.does}</td><td>${row.expect}</td><td>${seen}${row.at === null ? undefined : markup` <small>${minutes(row.at)}</small>`}</td></tr>`
      })
    return markup`<section class="mp-step"><h3>${part}</h3><table class="mp-record"><thead><tr><th class="mp-tick"><span class="mp-hidden">Done</span></th><th>Do</th><th>Expect</th><th>Seen</th></tr></thead><tbody>${lines}</tbody></table></section>`
  })}`
}

/** Flags to cut out and fold around both ends of a wire. */
function labels(sheet: Sheet): Markup {
  if (sheet.labels.length === 0) return none('No wires yet.')
  const flag = (number: number, text: string): Markup => {
    const side = markup`<span><b>${number}</b>${text}</span>`
    return markup`<div class="mp-flag">${side}${side}</div>`
  }
  return markup`<p>Cut along the lines, fold in the middle around the wire, and stick the halves together.</p><div class="mp-flags">${sheet.labels.map(({ number, from, to }) => [flag(number, from), flag(number, to)])}</div>`
}

const table = (columns: readonly string[], rows: readonly (readonly string[])[], className: string): Markup =>
  markup`<table class="${className}"><thead><tr>${columns.map((one) => markup`<th>${one}</th>`)}</tr></thead><tbody>${rows.map((row) => markup`<tr>${row.map((one) => markup`<td>${one}</td>`)}</tr>`)}</tbody></table>`
