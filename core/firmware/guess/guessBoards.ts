import { boardFacts } from '../../catalog/boardFacts.ts'
import type { Board, Language } from '../../catalog/boardSchema.ts'
import type { Catalog } from '../../catalog/catalog.ts'
import { programPin } from '../pinNames.ts'
import { PinFinder } from '../source/boardPin.ts'
import { usesOf } from '../source/collectUses.ts'
import { followProgram } from '../source/follow.ts'
import type { SourceFile } from '../source/ir.ts'
import { readProgram } from '../source/readProgram.ts'
import type { Doing, PinUse } from '../source/uses.ts'
import { bareBoard } from './gather.ts'

/** What speaks for a board, or against it. */
export type BoardReason =
  /** A word of the program that only programs of this family have. */
  | { readonly kind: 'family'; readonly word: string }
  /** Pins that are written by names that it has. */
  | { readonly kind: 'names'; readonly names: readonly string[] }
  /** Pins that it does not have, as they are written. */
  | { readonly kind: 'none'; readonly written: readonly string[] }
  /** Pins that it has and that cannot do what is done with them. */
  | { readonly kind: 'cannot'; readonly written: readonly string[] }

/** A reason in a few words. */
export function boardReasonWords(reason: BoardReason): string {
  switch (reason.kind) {
    case 'family':
      return `${reason.word} is written for its family`
    case 'names':
      return `knows ${reason.names.join(', ')}`
    case 'none':
      return `has no ${reason.written.join(', ')}`
    case 'cannot':
      return `its ${reason.written.join(', ')} cannot do what is done with them`
  }
}

export interface BoardGuess {
  readonly board: Board
  readonly score: number
  readonly reasons: readonly BoardReason[]
}

/** Words of programs that only go with some families. */
const tells: readonly (readonly [RegExp, readonly string[]])[] = [
  [/\bESP8266\w*/, ['esp8266']],
  // Only these cores take the pins of a bus where it is begun.
  [/\bWire\d?\.begin\(\s*\w+\s*,/, ['esp32', 'esp32c3', 'esp32s3', 'esp8266']],
  [/\bSERIAL_8N1\s*,/, ['esp32', 'esp32c3', 'esp32s3']],
  [/\bTwoWire\s*\(\s*\d\s*\)/, ['esp32', 'esp32c3', 'esp32s3']],
  [
    /\b(?:ESP32\w*|ledc(?:Setup|Attach\w*|Write)|BluetoothSerial|analogReadMilliVolts|dacWrite|GPIO_NUM_\d+|esp32)\b/,
    ['esp32', 'esp32c3', 'esp32s3'],
  ],
  [/\b(?:DDR[B-L]|PORT[B-L]|TCCR\d[AB]|PROGMEM|avr\/\w+\.h|SoftwareSerial)\b/, ['avr']],
  [/\b(?:rp2|rp2040|setSDA|setSCL|PIO_\w+|pico\/\w+\.h|hardware\/\w+\.h)\b/, ['rp2040', 'rp2350']],
  [/\bmicrobit\b/, ['nrf52']],
  [/\b(?:RPi\.GPIO|gpiozero|pigpio|lgpio|smbus2?|spidev)\b/, ['pi']],
  [/\bJetson\.GPIO\b/, ['tegra210']],
  [/\b(?:teensy|Teensy\w*|IntervalTimer)\b/, ['imxrt']],
  [/\b(?:STM32\w*|HAL_GPIO_\w+)\b/, ['stm32f1', 'stm32f4']],
]

/** Boards that programs are most often for when nothing else tells, the first most of all. */
const commonest: Readonly<Record<Language, readonly string[]>> = {
  cpp: ['uno-r3', 'mega-2560-r3', 'esp32-devkit-30', 'esp8266-nodemcu-v2'],
  micropython: ['pico', 'esp32-devkit-30'],
  circuitpython: ['pico', 'nrf52840-feather', 'xiao-samd21'],
  python: ['pi-40'],
}

const functionOf: Readonly<Partial<Record<Doing, string>>> = {
  output: 'digital-out',
  input: 'digital-in',
  'analog-in': 'analog-in',
  'analog-out': 'analog-out',
  pwm: 'pwm',
  interrupt: 'interrupt',
  touch: 'touch',
}

/** Boards of the catalogue that a program may be for, the likeliest first; only those that speak its language. */
export function guessBoards(catalog: Catalog, files: readonly SourceFile[], language: Language): BoardGuess[] {
  const source = language === 'cpp' ? 'cpp' : 'python'
  const uses = usesOf(followProgram(readProgram(files, source, undefined), source), source)
  // What stands in a condition of the preprocessor is for several boards.
  const text = files.map((file) => file.text.replace(/^\s*#\s*(?:if|elif|ifdef|ifndef).*$/gm, '')).join('\n')
  const words = tells.flatMap(([word, families]) => {
    const found = word.exec(text)?.[0]
    return found === undefined ? [] : [{ word: found, families }]
  })
  return [...catalog.boards.values()]
    .filter((board) => board.programs.some(({ as }) => as === language))
    .map((board): BoardGuess => {
      const finder = new PinFinder(bareBoard(catalog, board), language, uses.counting)
      const fits = pinsOn(finder, new Set(exactNames(board, language)), uses.pins)
      const begun = board.programs.find(({ as }) => as === language)?.begins ?? {}
      const strange = uses.begins.filter(({ object }) => /\d$/.test(object) && !(object in begun))
      const reasons: BoardReason[] = [
        ...words
          .filter(({ families }) => families.includes(board.family))
          .map(({ word }) => ({ kind: 'family', word }) as const),
        ...(fits.names.length > 0 ? [{ kind: 'names', names: fits.names } as const] : []),
        ...(fits.none.length > 0 ? [{ kind: 'none', written: fits.none } as const] : []),
        ...(fits.cannot.length > 0 ? [{ kind: 'cannot', written: fits.cannot } as const] : []),
      ]
      const common = commonest[language].indexOf(board.id)
      const family = words.reduce((sum, { families }) => sum + (families.includes(board.family) ? 4 : -4), 0)
      const score =
        family +
        0.5 * fits.names.length -
        3 * fits.none.length -
        2 * fits.cannot.length -
        strange.length +
        (board.usual ? 0.3 : 0) +
        (common < 0 ? 0 : 0.5 - 0.1 * common)
      return { board, score, reasons }
    })
    .sort((a, b) => b.score - a.score || (a.board.id < b.board.id ? -1 : 1))
}

/** How the pins of a program go with a board, each pin once. */
function pinsOn(
  finder: PinFinder,
  exact: ReadonlySet<string>,
  uses: readonly PinUse[],
): { readonly names: string[]; readonly none: string[]; readonly cannot: string[] } {
  const names = new Set<string>()
  const none = new Set<string>()
  const cannot = new Set<string>()
  for (const use of uses) {
    const meant = finder.meant(use.pin, use.counts)
    if (meant.is === 'none' && use.sure) none.add(meant.written)
    if (meant.is !== 'pin') continue
    const name = use.pin.is === 'symbol' ? use.pin.path.split('.').at(-1) : undefined
    // A printed name may be what people say, and none that its programs know.
    if (name !== undefined && exact.has(name)) names.add(name)
    const needs = functionOf[use.doing]
    if (use.sure && needs !== undefined && !meant.pin.functions.has(needs)) cannot.add(meant.pin.id)
    if (meant.pin.kind !== 'io') none.add(meant.pin.id)
  }
  return { names: [...names], none: [...none], cannot: [...cannot] }
}

/** Names by which programs of a language know the pins of a board: `A0`, `GP4`, `D5`. */
function exactNames(board: Board, language: Language): string[] {
  const program = board.programs.find(({ as }) => as === language)
  const own = boardFacts(board).pins.flatMap((pin) => programPin(board, pin, language) ?? [])
  return [...own.map((name) => name.split('.').at(-1) ?? name), ...Object.keys(program?.also ?? {})]
}
