import { type Language, languages } from '../core/catalog/boardSchema.ts'
import { writeConstants } from '../core/firmware/constants.ts'
import { languagesOf } from '../core/firmware/pinNames.ts'
import { bootLines, settingsOf, settingsText } from '../core/firmware/settings.ts'
import type { BoardInstance, Wiring } from '../core/wiring/model.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { InputError, print, printJson, readPlanFile, type Status, theCatalog, writeOut } from './input.ts'

export { languages }
export const settingFormats = ['text', 'lines', 'overlay'] as const

const boardNames = (boards: readonly BoardInstance[]): string => boards.map(({ ref }) => ref).join(', ')

/** The board that is meant: the one named, or the only one that fits. */
export function boardFor(
  wiring: Wiring,
  file: string,
  named: string | undefined,
  fits: (board: BoardInstance) => boolean,
  what: string,
): BoardInstance {
  const { boards } = wiring
  if (named !== undefined) {
    const board = boards.find(({ ref }) => ref.toUpperCase() === named.toUpperCase())
    if (!board)
      throw new InputError([
        `--board ${named}: ${file} has no such board; ${boards.length > 0 ? `expected one of ${boardNames(boards)}` : 'it has none'}`,
      ])
    if (!fits(board)) throw new InputError([`--board ${named}: ${board.title} ${what}`])
    return board
  }
  const fitting = boards.filter(fits)
  const [only] = fitting
  if (only && fitting.length === 1) return only
  if (boards.length === 0) throw new InputError([`${file}: the plan has no board yet`])
  if (!only) throw new InputError([`${file}: ${boardNames(boards)} ${what}`])
  throw new InputError([`${file}: the plan has several boards; expected --board with one of ${boardNames(fitting)}`])
}

export function constantsCommand(
  file: string,
  { as, board: named, out }: { readonly as: Language; readonly board?: string; readonly out?: string },
): Status {
  const wiring = resolve(readPlanFile(file).plan, theCatalog())
  const speaks = (board: BoardInstance): boolean => languagesOf(board.board).includes(as)
  const known = [...new Set(wiring.boards.flatMap(({ board }) => languagesOf(board)))]
  const board = boardFor(
    wiring,
    file,
    named,
    speaks,
    `has no programs in ${as}; expected ${known.length > 0 ? `--as ${known.join(' or ')}` : 'a board with programs'}`,
  )
  const text = writeConstants(wiring, board.ref, as)
  if (out === undefined) print(text)
  else writeOut(out, text)
  return 0
}

export function settingsCommand(
  file: string,
  {
    as = 'text',
    board: named,
    json,
  }: { readonly as?: (typeof settingFormats)[number]; readonly board?: string; readonly json?: boolean },
): Status {
  const wiring = resolve(readPlanFile(file).plan, theCatalog())
  const withSystem = (board: BoardInstance): boolean => board.board.system !== undefined
  const some = wiring.boards.some(withSystem)
  const board = boardFor(wiring, file, named, (one) => !some || named !== undefined || withSystem(one), '')
  const settings = settingsOf(wiring, board.ref)
  if (json) printJson(settings ?? { ref: board.ref, settings: [] })
  else if (!settings)
    print(`${board.ref}: ${board.title} runs the program alone, without a system: nothing needs to be set.`)
  else if (as === 'text') print(settingsText(settings))
  else {
    const lines = bootLines(settings).filter((line) => as === 'lines' || line.startsWith('dtoverlay='))
    if (settings.file === undefined)
      throw new InputError([`--as ${as}: ${board.title} takes no lines of boot configuration; expected --as text`])
    print([`# ${settings.file}`, ...lines].join('\n'))
  }
  return 0
}
