import { acceptedWords, type KnownFindings, leftWords, noteWords, openWords } from './cover.ts'
import type { Sheet } from './rows.ts'
import { type TableName, tableNames, tableOf, tableTitles } from './tables.ts'

/** Tables as Markdown, what is still open or accepted before them; every step of the wiring under its own heading. */
export function writeMarkdown(
  sheet: Sheet,
  only: readonly TableName[] = tableNames,
  known: KnownFindings = {},
): string {
  const { open = [], accepted = [] } = known
  const blocks: string[] = [
    `# ${cell(sheet.title)}`,
    sheet.boards.map((board) => `- ${cell(board)}`).join('\n'),
    ...listed('Still open: look at these before you build', open.map(openWords)),
    ...listed('Accepted by the maker', accepted.map(acceptedWords)),
    ...(only === tableNames ? listed('Stays in the box', sheet.left.map(leftWords)) : []),
    ...(only === tableNames ? listed('Good to know', sheet.notes.map(noteWords)) : []),
  ]
  for (const name of only) {
    // Said at the top already.
    if (name === 'findings' && only === tableNames) continue
    const { columns, rows } = tableOf(sheet, name, known)
    blocks.push(`## ${tableTitles[name]}`)
    if (name !== 'wiring') {
      blocks.push(rows.length === 0 ? 'Nothing yet.' : grid(columns, rows))
      continue
    }
    // Holes and lengths stay out until there is a breadboard.
    const shown = columns
      .map((_, index) => index)
      .filter((index) => index !== 1 && rows.some((row) => row[index] !== ''))
    for (const step of sheet.steps) {
      const own = rows.filter((row) => row[1] === `${step.number}`)
      blocks.push(
        `### ${step.number}. ${cell(step.title)}`,
        step.text,
        grid(
          shown.map((index) => columns[index] as string),
          own.map((row) => shown.map((index) => row[index] as string)),
        ),
      )
    }
  }
  return `${blocks.filter((block) => block !== '').join('\n\n')}\n`
}

const listed = (title: string, lines: readonly string[]): string[] =>
  lines.length === 0 ? [] : [`## ${title}`, lines.map((line) => `- ${cell(line)}`).join('\n')]

const grid = (columns: readonly string[], rows: readonly (readonly string[])[]): string =>
  [columns, columns.map(() => '---'), ...rows].map((row) => `| ${row.map(cell).join(' | ')} |`).join('\n')

/** Text that cannot break out of its cell or start markup. */
const cell = (text: string): string => text.replace(/[\r\n]+/g, ' ').replace(/[\\|`*_<>[\]#]/g, (sign) => `\\${sign}`)
