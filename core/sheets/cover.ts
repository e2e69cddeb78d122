import { formatVolts } from '../electrical/quantity.ts'
import type { Finding } from '../rules/finding.ts'
import { type Markup, markup } from './markup.ts'
import type { Sheet } from './rows.ts'

export interface AcceptedFinding {
  readonly rule: string
  readonly at: readonly string[]
  readonly because: string
}

/** A fault or caution that is neither mended nor accepted. */
export type OpenFinding = Pick<Finding, 'rule' | 'severity' | 'at' | 'message'>

/** What the checks say of a plan, as far as a sheet repeats it. */
export interface KnownFindings {
  /** Warnings that the maker lives with. */
  readonly accepted?: readonly AcceptedFinding[] | undefined
  readonly open?: readonly OpenFinding[] | undefined
}

/** First page: what is built, from what, what to have at hand, and what is known to be odd. */
export function coverBody(sheet: Sheet, { accepted = [], open = [] }: KnownFindings): Markup {
  const blocks: (Markup | undefined)[] = []
  if (open.length > 0) blocks.push(box('Still open: look at these before you build', open.map(openWords)))
  if (accepted.length > 0) blocks.push(box('Accepted by the maker', accepted.map(acceptedWords)))
  blocks.push(list('Boards', sheet.boards))
  if (sheet.breadboards.length > 0) blocks.push(list('Breadboards', sheet.breadboards))
  if (sheet.missing.length > 0) blocks.push(box('Not on the breadboards', sheet.missing))
  blocks.push(
    list(
      'Supplies',
      sheet.supplies.map(
        ({ source, volts, limitMilliamps, typicalMilliamps, peakMilliamps }) =>
          `${source}, ${formatVolts(volts)}: takes ${typicalMilliamps} mA, at peak ${peakMilliamps} mA${
            limitMilliamps === null ? '' : ` of ${limitMilliamps} mA`
          }`,
      ),
    ),
  )
  blocks.push(list('Have at hand', atHand(sheet)))
  blocks.push(list('Stays in the box', sheet.left.map(leftWords)))
  blocks.push(list('Good to know', sheet.notes.map(noteWords)))
  return markup`<div class="mp-cover">${blocks}</div>`
}

/** `led-resistor at LAMP: it only blinks`. */
export const acceptedWords = ({ rule, at, because }: AcceptedFinding): string =>
  `${rule} at ${at.join(', ')}: ${because}`

/** `PUMP, FAN: never pull a lead while the supply is on.` */
export const noteWords = ({ refs, text }: Sheet['notes'][number]): string => `${refs.join(', ')}: ${text}`

/** `BATTERY: MCU is fed already, and nothing else asks for 9.0 V`. */
export const leftWords = ({ ref, why }: Sheet['left'][number]): string => `${ref}: ${why}`

/** Parts of one kind and value together, without what stays in the box, then wires by kind. */
function atHand(sheet: Sheet): string[] {
  const parts = new Map<string, string[]>()
  const left = new Set(sheet.left.map(({ ref }) => ref))
  for (const { ref, part, value } of sheet.parts) {
    if (left.has(ref)) continue
    const key = value === '' ? part : `${part}, ${value}`
    parts.set(key, [...(parts.get(key) ?? []), ref])
  }
  const wires = new Map<string, number>()
  for (const { ends, lengthMillimetres, count } of sheet.jumpers) {
    if (ends === 'lead') continue
    const key = `${ends} jumper wires${lengthMillimetres === null ? '' : ` of ${lengthMillimetres} mm`}`
    wires.set(key, (wires.get(key) ?? 0) + count)
  }
  return [
    ...[...parts].map(([kind, refs]) => `${refs.length} × ${kind} (${refs.join(', ')})`),
    ...[...wires].map(([kind, count]) => `${count} × ${kind}`),
    'a multimeter, for the rails before anything is switched on',
  ]
}

const list = (title: string, lines: readonly string[]): Markup | undefined =>
  lines.length === 0
    ? undefined
    : markup`<section><h3>${title}</h3><ul>${lines.map((line) => markup`<li>${line}</li>`)}</ul></section>`

const box = (title: string, lines: readonly string[]): Markup | undefined =>
  markup`<div class="mp-accepted"><strong>${title}</strong><ul>${lines.map((line) => markup`<li>${line}</li>`)}</ul></div>`

/** `fault: LAMP has no resistor`. */
export const openWords = ({ severity, message }: OpenFinding): string => `${severity}: ${message}`

/** Faults and cautions that are neither mended nor accepted. */
export const openFindings = (findings: readonly Finding[]): OpenFinding[] =>
  findings.filter((one) => one.severity !== 'tip' && one.accepted === undefined)
