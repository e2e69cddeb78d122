import { basename } from 'node:path'
import type { Language } from '../core/catalog/boardSchema.ts'
import { gather } from '../core/firmware/guess/gather.ts'
import { reasonWords } from '../core/firmware/guess/given.ts'
import { boardReasonWords, guessBoards } from '../core/firmware/guess/guessBoards.ts'
import { guessParts } from '../core/firmware/guess/guessParts.ts'
import { likeliest, planFrom } from '../core/firmware/guess/planFrom.ts'
import type { PartGuess } from '../core/firmware/guess/scoring.ts'
import { writePlan } from '../core/plan/writePlan.ts'
import { readSources } from './compareSource.ts'
import { InputError, print, printJson, type Status, theCatalog, writePlanOut } from './input.ts'

interface Options {
  readonly board?: string
  readonly language?: Language
  readonly title?: string
  readonly likeliest?: boolean
  readonly json?: boolean
  readonly out?: string
}

/**
 * A plan of what a program says, on standard output or in a file; what could not be told is asked on the error stream,
 * and left out unless the likeliest is to be taken.
 */
export function planFromCommand(
  sources: readonly string[],
  { board: named, language: given, title, likeliest: all = false, json, out }: Options,
): Status {
  const catalog = theCatalog()
  const { files, language } = readSources(sources, given)
  const boards = guessBoards(catalog, files, language)
  const guessed = named === undefined ? boards[0] : boards.find(({ board }) => board.id === named)
  if (!guessed)
    throw new InputError([
      `--board ${named}: no board of the catalogue with programs in ${language}; expected one of ${boards.map(({ board }) => board.id).join(', ')}`,
    ])
  const { board } = guessed
  const gathered = gather(catalog, board, files, language)
  const guesses = guessParts(gathered, files)
  const taken = guesses.filter((guess) => guess.sure || (all && guess.candidates.length > 0))
  const plan = planFrom(
    catalog,
    title ?? basename(sources[0] ?? 'program').replace(/\.[^.]*$/, ''),
    board,
    gathered,
    taken.flatMap((guess) => likeliest(guess) ?? []),
  )
  if (json)
    printJson({
      board: {
        id: board.id,
        because: guessed.reasons.map(boardReasonWords),
        others: boards.slice(1, 4).map((one) => one.board.id),
      },
      guesses: guesses.map((guess) => ({
        called: guess.title,
        pins: guess.pins.map(({ pin }) => pin.id),
        sure: guess.sure,
        because: guess.reasons.map(reasonWords),
        parts: guess.candidates.map(({ part }) => part.id),
      })),
      plan,
    })
  else if (out === undefined) print(writePlan(plan, catalog))
  else writePlanOut(out, writePlan(plan, catalog))
  if (named === undefined)
    ask(`board: ${board.title}${why(guessed.reasons.map(boardReasonWords))}; --board names another`)
  for (const guess of guesses) if (!taken.includes(guess)) ask(question(guess))
  for (const written of gathered.none) ask(`${written} is no pin of ${board.title}`)
  return 0
}

const ask = (line: string): void => void process.stderr.write(`${line}\n`)

const why = (reasons: readonly string[]): string => (reasons.length === 0 ? '' : ` (${reasons.join('; ')})`)

/** What is on some pins, as a question. */
function question({ title, pins, bus, reasons, candidates }: PartGuess): string {
  const where = pins.length > 0 ? pins.map(({ written }) => written).join(', ') : (bus?.object ?? 'the bus')
  const could = candidates.map(({ part }) => part.id).join(', ')
  return `what is ${title === where ? 'on' : `${title} on`} ${where}?${why(reasons.map(reasonWords))} ${could === '' ? 'no part of the catalogue fits' : `could be ${could}`}`
}
