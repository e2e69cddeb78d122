import type { Language } from '../catalog/boardSchema.ts'
import type { BoardInstance } from '../wiring/model.ts'
import type { SourceFile } from './cpp/preprocess.ts'
import { lineOf, SourceError, tokensOf } from './cpp/tokens.ts'
import { pyTokens } from './python/tokens.ts'
import type { RunFinding } from './stage/findings.ts'

/** Full scales by which people reckon: all ones of so many bits, or one more. */
const SCALES: Readonly<Record<string, number>> = {
  '1023': 10,
  '1024': 10,
  '4095': 12,
  '4096': 12,
  '65535': 16,
  '65536': 16,
}
const FIVE = /^5(\.0*)?$|^5000$/
const THREE = /^3\.30*$|^3300$/

interface Word {
  readonly text: string
  readonly at: number
}

/** Words of a program by statements; nothing of a text that cannot be read, which is said elsewhere. */
function statementsOf({ text }: SourceFile, language: Language): Word[][] {
  const statements: Word[][] = [[]]
  try {
    if (language === 'cpp')
      for (const token of tokensOf(text, 0)) {
        if (token.is === 'sign' && /^[;{}]$/.test(token.text)) statements.push([])
        else if (token.is !== 'text' && token.is !== 'letter') statements.at(-1)!.push(token)
      }
    else
      for (const token of pyTokens(text, 0)) {
        if (token.is === 'line') statements.push([])
        else if (token.is === 'name' || token.is === 'number' || token.is === 'sign') statements.at(-1)!.push(token)
      }
  } catch (error) {
    if (!(error instanceof SourceError)) throw error
  }
  return statements
}

/** Words that give a reading, and the bits of it: undefined for those of the platform. */
function readingBits(word: string, language: Language): number | 'platform' | undefined {
  if (language === 'cpp') return word === 'analogRead' ? 'platform' : undefined
  return word === 'read_u16' ? 16 : undefined
}

/**
 * Readings that are reckoned with the full scale of another board: `analogRead(A0) / 1023` where there are twelve bits,
 * or `* 5.0` where the converter ends at 3.3 V.
 * @param bits bits of a reading on this board where the program says none
 */
export function scaleFindings(
  files: readonly SourceFile[],
  language: Language,
  bits: number,
  { ref, board }: BoardInstance,
): Omit<RunFinding, 'severity' | 'times'>[] {
  const all = files.flatMap((file) => statementsOf(file, language).map((words) => ({ file: file.name, words })))
  const told = all.flatMap(({ words }) =>
    words.flatMap(({ text }, at) => (text === 'analogReadResolution' ? [Number(words[at + 2]?.text)] : [])),
  )
  const usual = told.length === 0 ? bits : told.length === 1 && told[0]! > 0 ? told[0]! : undefined
  if (usual === undefined) return []
  // Which volts are full scale the run knows, not the text.
  const isMoved = all.some(({ words }) => words.some(({ text }) => text === 'analogReference'))
  const names = new Map<string, number>()
  const bitsOf = ({ text }: Word): number | undefined => {
    const own = readingBits(text, language)
    return own === 'platform' ? usual : (own ?? names.get(text))
  }
  const found: Omit<RunFinding, 'severity' | 'times'>[] = []
  for (const { file, words } of all) {
    const reading = words.map(bitsOf).find((one) => one !== undefined)
    if (reading === undefined) continue
    const equals = words.findIndex(({ text }) => text === '=')
    const name = words[equals - 1]
    const scale = words.find(
      ({ text }, at) =>
        SCALES[numeral(text)] !== undefined &&
        (words[at - 1]?.text === '/' || (words[at - 1]?.text === ',' && words.some((one) => one.text === 'map'))),
    )
    const say = (at: number, message: string, why: string): void => {
      found.push({ kind: 'other-scale', message, why, seconds: 0, at: [ref], file, line: lineOf(at) })
    }
    if (!scale) {
      // What is stored as it was read is still a reading.
      if (name && equals > 0 && !words.slice(equals).some(({ text }) => /^[*/]$|^map$/.test(text)))
        names.set(name.text, reading)
      continue
    }
    const meant = SCALES[numeral(scale.text)]!
    if (meant !== reading)
      say(
        scale.at,
        `A reading is reckoned with ${scale.text}, the full scale of ${meant} bits; on this board it has ${reading} bits and ends at ${2 ** reading - 1}.`,
        'Every value comes out too large or too small by the same factor.',
      )
    const five = words.some(({ text }) => FIVE.test(numeral(text)))
    const three = words.some(({ text }) => THREE.test(numeral(text)))
    if (!isMoved && five !== three && board.logicVolts < 4 === five)
      say(
        scale.at,
        `A reading is reckoned with ${five ? 5 : 3.3} V as its end; the converter of ${board.title} ends at ${board.logicVolts} V.`,
        'Every voltage comes out too large or too small by the same factor.',
      )
  }
  return found
}

const numeral = (text: string): string => text.replace(/(\.0*)?[fFuUlL]*$/, '')
