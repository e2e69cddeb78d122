import type { KnownFindings } from './cover.ts'
import type { Sheet } from './rows.ts'

/** Tables that can be written on their own, in the order in which they print. */
export const tableNames = [
  'wiring',
  'legs',
  'leads',
  'parts',
  'jumpers',
  'supplies',
  'addresses',
  'steps',
  'pins',
  'constants',
  'asks',
  'levels',
  'settings',
  'record',
  'rehearsal',
  'findings',
  'labels',
] as const
export type TableName = (typeof tableNames)[number]

export const tableTitles: Readonly<Record<TableName, string>> = {
  wiring: 'Wiring table',
  legs: 'Legs in their holes',
  leads: 'Cables and their leads',
  parts: 'Parts',
  jumpers: 'Jumper wires',
  supplies: 'Supplies',
  addresses: 'I2C addresses',
  steps: 'Build steps',
  pins: 'Pin table',
  constants: 'Constants for the program',
  asks: 'What libraries ask for',
  levels: 'Which level does what',
  settings: 'Settings of the system',
  record: 'Bring-up and its record',
  rehearsal: 'Rehearsal, to be tried on the build',
  findings: 'What the checks say',
  labels: 'Labels for wires',
}

/** A time in ISO 8601 down to the minute, universal. */
export const minutes = (at: string): string => at.slice(0, 16).replace('T', ' ')

/** Column titles and rows of one table, all as text. */
export function tableOf(
  sheet: Sheet,
  name: TableName,
  { open = [], accepted = [] }: KnownFindings = {},
): { readonly columns: readonly string[]; readonly rows: readonly (readonly string[])[] } {
  const end = (one: { ref: string; pin: string }): string => `${one.ref}.${one.pin}`
  const length = (millimetres: number | null): string => (millimetres === null ? '' : `${millimetres}`)
  switch (name) {
    case 'wiring':
      return {
        columns: [
          'No',
          'Step',
          'Colour',
          'Ends',
          'Length mm',
          'From',
          'Lead',
          'From also named',
          'From hole',
          'To',
          'Also named',
          'To hole',
          'Net',
          'Find the start',
          'Find it',
        ],
        rows: sheet.wiring.map((row) => [
          `${row.number}`,
          `${row.step}`,
          row.colour,
          row.ends,
          length(row.lengthMillimetres),
          end(row.from),
          row.from.lead ?? row.to.lead ?? '',
          row.from.names.join(' '),
          row.from.hole ?? '',
          end(row.to),
          row.to.names.join(' '),
          row.to.hole ?? '',
          row.net,
          row.from.find,
          row.note,
        ]),
      }
    case 'legs':
      return {
        columns: ['Part', 'What it is for', 'Leg', 'No', 'Which one', 'Also named', 'Hole'],
        rows: sheet.legs.map((row) => [
          row.ref,
          row.title,
          end(row),
          row.number === null ? '' : `${row.number}`,
          row.mark,
          row.names.join(' '),
          row.hole,
        ]),
      }
    case 'leads':
      return {
        columns: ['Part', 'What it is for', 'Lead', 'Pin', 'Goes to', 'Hole', 'Wire'],
        rows: sheet.leads.map((row) => [
          row.ref,
          row.title,
          row.lead,
          end(row),
          row.to ?? 'stays open',
          row.hole ?? '',
          row.wire === null ? '' : `${row.wire}`,
        ]),
      }
    case 'supplies':
      return {
        columns: ['Source', 'Volts', 'Gives mA', 'Takes typically mA', 'At peak mA', 'Feeds'],
        rows: sheet.supplies.map((row) => [
          row.source,
          `${row.volts}`,
          row.limitMilliamps === null ? 'not known' : `${row.limitMilliamps}`,
          `${row.typicalMilliamps}`,
          `${row.peakMilliamps}`,
          row.feeds.join(' '),
        ]),
      }
    case 'addresses':
      return {
        columns: ['Bus', 'Part', 'What it is for', 'Address', 'Free besides'],
        rows: sheet.addresses.map((row) => [row.bus, row.ref, row.title, row.address, row.others.join(' ')]),
      }
    case 'labels':
      return {
        columns: ['No', 'One end', 'Other end'],
        rows: sheet.labels.map((row) => [`${row.number}`, row.from, row.to]),
      }
    case 'parts':
      return {
        columns: ['Part', 'What it is for', 'Type', 'Value', 'Belongs to', 'To buy'],
        rows: sheet.parts.map((row) => [
          row.ref,
          row.title,
          row.part,
          row.value,
          row.for ?? '',
          row.buy ? 'to buy' : '',
        ]),
      }
    case 'jumpers':
      return {
        columns: ['Ends', 'Colour', 'Length mm', 'Count'],
        rows: sheet.jumpers.map((row) => [row.ends, row.colour, length(row.lengthMillimetres), `${row.count}`]),
      }
    case 'steps':
      return {
        columns: ['Step', 'Title', 'What to know', 'Wires'],
        rows: sheet.steps.map((row) => [`${row.number}`, row.title, row.text, row.wires.join(' ')]),
      }
    case 'constants':
      return {
        columns: ['Board', 'Name', 'Value', 'What and where'],
        rows: sheet.constants.map((row) => [
          row.board,
          row.name,
          // Languages that write it alike are told once.
          [...new Set(Object.values(row.values))].join(' or '),
          row.about,
        ]),
      }
    case 'asks':
      return {
        columns: ['Part', 'What it is for', 'Asked for', 'Give'],
        rows: sheet.asks.map((row) => [row.ref, row.title, row.what, row.give]),
      }
    case 'levels':
      return {
        columns: ['Part', 'What it is for', 'Does', 'When', 'Mind'],
        rows: sheet.levels.map((row) => [row.ref, row.title, row.does, row.when, row.note]),
      }
    case 'settings':
      return {
        columns: ['Board', 'For', 'Steps', 'Lines', 'Found as', 'Needed'],
        // Each line stands by itself, as it is written into the file.
        rows: sheet.settings.flatMap((row) => {
          const [first = '', ...others] = row.lines
          return [
            [row.board, row.title, row.steps.join(' '), first, row.device ?? '', row.needed ? 'needed' : 'if wanted'],
            ...others.map((line) => ['', '', '', line, '', '']),
          ]
        }),
      }
    case 'record':
      return {
        columns: ['Done', 'Step', 'Do', 'Expect', 'Seen', 'When'],
        rows: sheet.record.map((row) => [
          row.seen === null ? '' : row.seen,
          row.title,
          row.does,
          row.expect,
          [row.value, row.remark].filter((text) => text !== null).join('; '),
          row.at === null ? '' : minutes(row.at),
        ]),
      }
    case 'rehearsal':
      return {
        columns: ['At', 'Do', 'Must come of it', 'Why', 'Seen'],
        rows: sheet.rehearsal.map((row) => [`${row.at} s`, row.does, row.expects, row.why, '']),
      }
    case 'findings':
      return {
        columns: ['Says', 'Where', 'What', 'Accepted because'],
        rows: [
          ...open.map((one) => [one.severity, one.at.join(' '), one.message, '']),
          ...accepted.map((one) => ['accepted', one.at.join(' '), one.rule, one.because]),
        ],
      }
    case 'pins':
      return {
        columns: ['Board', 'Header', 'Position', 'Pin', 'Also named', 'Find it', 'Carries', 'Wires'],
        rows: sheet.pins.map((row) => [
          row.board,
          row.header,
          `${row.position}`,
          row.pin,
          row.names.join(' '),
          row.find,
          row.carries.join(' '),
          row.wires.join(' '),
        ]),
      }
  }
}
