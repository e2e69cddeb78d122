import { quoteValue } from '../core/base/yamlSource.ts'
import { boardFacts, countingHint } from '../core/catalog/boardFacts.ts'
import { boardJson, partJson } from '../core/catalog/entryJson.ts'
import { columns, InputError, print, printJson, type Status, theCatalog } from './input.ts'

interface Options {
  readonly json?: boolean
}

export function boardsCommand({ json }: Options): Status {
  const boards = [...theCatalog().boards.values()]
  if (json) printJson(boards.map(boardJson))
  else print(columns(boards.map((board) => [board.id, board.mcu, `${board.logicVolts} V`, board.title])))
  return 0
}

export function boardCommand(id: string, { json }: Options): Status {
  const board = theCatalog().boards.get(id)
  if (!board)
    throw new InputError([
      `the catalogue has no board ${quoteValue(id)}; expected one of ${[...theCatalog().boards.keys()].join(', ')}`,
    ])
  if (json) {
    printJson(boardJson(board))
    return 0
  }
  print(`${board.title}: ${board.summary}\n`)
  print(
    columns(
      boardFacts(board).pins.map((pin) => [
        pin.id,
        pin.allNames.slice(1).join(' '),
        countingHint(pin),
        [...pin.functions].join(' '),
        pin.cautions.map((caution) => caution.id).join(' '),
      ]),
    ),
  )
  return 0
}

export function partsCommand({ json }: Options): Status {
  const parts = [...theCatalog().parts.values()]
  if (json) printJson(parts.map(partJson))
  else print(columns(parts.map((part) => [part.id, part.category, part.title])))
  return 0
}

export function partCommand(id: string, { json }: Options): Status {
  const part = theCatalog().parts.get(id)
  if (!part)
    throw new InputError([
      `the catalogue has no part ${quoteValue(id)}; expected one of ${[...theCatalog().parts.keys()].join(', ')}`,
    ])
  if (json) {
    printJson(partJson(part))
    return 0
  }
  print(`${part.title}: ${part.summary}\n`)
  print(columns(part.pins.map((pin) => [pin.id, pin.role, pin.aliases.join(' '), pin.text ?? ''])))
  for (const mode of part.modes)
    print(
      `\n${mode.id}: ${mode.title}\n${columns([...part.signals, ...mode.signals].map((signal) => [`  ${signal.pin}`, signal.needs, signal.direction, signal.required ? '' : 'optional']))}`,
    )
  print(`\nSources: ${part.sources.map((source) => source.title).join('; ')}`)
  return 0
}
