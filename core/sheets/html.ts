import { wireColours } from './colours.ts'
import type { Sheet } from './sheet.ts'
import { sheetStyle } from './sheetStyle.ts'
import { type TableName, tableNames, tableOf } from './tables.ts'

export interface HtmlOptions {
  readonly only?: readonly TableName[]
  /** Number of the saved state, printed on every page. */
  readonly revision?: number
  readonly paper?: 'A4' | 'Letter'
  /** Warnings that the maker lives with, printed on the first page. */
  readonly accepted?: readonly { readonly rule: string; readonly at: readonly string[]; readonly because: string }[]
}

/** The sheets as HTML for the page body: the application shows it and the command line wraps it in a document. */
export function sheetBody(sheet: Sheet, options: HtmlOptions = {}): string {
  const only = options.only ?? tableNames
  const revision = options.revision === undefined ? '' : `, revision ${options.revision}`
  const parts: string[] = []
  for (const name of only) {
    const { title, columns, rows } = tableOf(sheet, name)
    const head = `<header class="mp-head"><h2>${escapeText(title)}</h2><p>${escapeText(sheet.title)}${revision}<br>${sheet.boards.map(escapeText).join('<br>')}</p></header>`
    const body =
      name === 'wiring'
        ? wiringTables(sheet)
        : rows.length === 0
          ? '<p class="mp-none">Nothing yet.</p>'
          : table(columns, rows, `mp-${name}`)
    const accepted = name === 'wiring' ? acceptedList(options.accepted ?? []) : ''
    parts.push(`<section class="mp-page" aria-label="${escapeText(title)}">${head}${accepted}${body}</section>`)
  }
  return `<div class="mp-sheet">${parts.join('')}</div>`
}

/** A whole document for the command line and for saving. */
export function writeHtml(sheet: Sheet, options: HtmlOptions = {}): string {
  return `<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><title>${escapeText(sheet.title)}</title><meta name="viewport" content="width=device-width">
<style>body { margin: 0; } ${sheetStyle(sheet.title, options.revision, options.paper ?? 'A4')}</style></head>
<body>${sheetBody(sheet, options)}</body>
</html>
`
}

function acceptedList(accepted: NonNullable<HtmlOptions['accepted']>): string {
  if (accepted.length === 0) return ''
  return `<div class="mp-accepted"><strong>Accepted by the maker</strong><ul>${accepted.map((one) => `<li>${escapeText(one.rule)} at ${escapeText(one.at.join(', '))}: ${escapeText(one.because)}</li>`).join('')}</ul></div>`
}

function wiringTables(sheet: Sheet): string {
  if (sheet.wiring.length === 0) return '<p class="mp-none">No wires yet.</p>'
  const holes = sheet.wiring.some((row) => row.from.hole !== null || row.to.hole !== null)
  return sheet.steps
    .map((step) => {
      const rows = sheet.wiring
        .filter((row) => row.step === step.number)
        .map((row) => {
          const lead = row.from.lead ? `<small>its ${escapeText(row.from.lead)} lead</small>` : ''
          const length = row.lengthMillimetres === null ? '' : `${row.lengthMillimetres} mm, `
          const names = row.to.names
            .filter((name) => !name.includes('#'))
            .slice(0, 4)
            .join(' · ')
          const position = row.to.names.filter((name) => name.includes('#')).join(' ')
          return `<tr><td class="mp-tick"><span role="img" aria-label="tick when done"></span></td><td class="mp-no">${row.number}</td><td class="mp-wire"><i style="--c:${wireColours[row.colour] ?? row.colour.replace(/[^a-z#0-9]/gi, '')}"></i>${escapeText(row.colour)}<small>${length}${row.ends}</small></td><td class="mp-end"><b>${escapeText(row.from.ref)} ${escapeText(row.from.pin)}</b>${lead}</td>${holes ? `<td class="mp-hole">${escapeText(row.from.hole ?? '')}</td>` : ''}<td class="mp-end"><b>${escapeText(row.to.ref)} ${escapeText(row.to.pin)}</b><small class="mp-names">${escapeText(names)}</small></td>${holes ? `<td class="mp-hole">${escapeText(row.to.hole ?? '')}</td>` : ''}<td class="mp-find">${escapeText(row.note)}${position ? ` <span class="mp-position">${escapeText(position)}</span>` : ''}</td></tr>`
        })
      return `<section class="mp-step"><h3><span>${step.number}</span>${escapeText(step.title)}</h3><p>${escapeText(step.text)}</p><table class="mp-wiring"><thead><tr><th class="mp-tick"><span class="mp-hidden">Done</span></th><th>No</th><th>Wire</th><th>From</th>${holes ? '<th>Hole</th>' : ''}<th>To</th>${holes ? '<th>Hole</th>' : ''}<th>Find it</th></tr></thead><tbody>${rows.join('')}</tbody></table></section>`
    })
    .join('')
}

const table = (columns: readonly string[], rows: readonly (readonly string[])[], className: string): string =>
  `<table class="${className}"><thead><tr>${columns.map((one) => `<th>${escapeText(one)}</th>`).join('')}</tr></thead><tbody>${rows.map((row) => `<tr>${row.map((one) => `<td>${escapeText(one)}</td>`).join('')}</tr>`).join('')}</tbody></table>`

/** Text made safe for element content and quoted attributes. */
export const escapeText = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`)
