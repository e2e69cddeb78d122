import { mustTakeReference, referenceEnd } from '../../circuit/analog.ts'
import type { BoardInstance, Wiring } from '../../wiring/model.ts'
import type { RunKind } from './findings.ts'
import { voltsWords } from './pins.ts'

type Say = (kind: RunKind, at: number, ends: readonly string[], message: string, why: string) => void

/** What a board's converter takes for full scale: its supply, a reference inside the chip, or what lies at its pin. */
export class Reference {
  readonly #board: BoardInstance
  readonly #end: string | undefined
  /** Volts at the reference pin, where the plan has wired it. */
  readonly #wired: number | undefined
  /** With another choice the pin is joined with a reference inside the chip. */
  readonly #mustTake: boolean
  readonly #say: Say
  #chosen: number | 'outside' | undefined

  constructor(wiring: Wiring, board: BoardInstance, say: Say) {
    this.#board = board
    this.#end = referenceEnd(board)
    this.#wired = this.#end === undefined ? undefined : wiring.netOf(this.#end).sources[0]?.volts
    this.#mustTake = mustTakeReference(wiring, board)
    this.#say = say
  }

  /** Volts inside the chip, its reference pin, or its supply. */
  choose(chosen: number | 'outside' | undefined): void {
    this.#chosen = chosen
  }

  /** After a new start. */
  forget(): void {
    this.#chosen = undefined
  }

  /**
   * Volts that read as full scale, of what was chosen or of what is taken for one reading alone; undefined where nothing
   * gives them.
   */
  fullScale(at: number, taken?: number | 'outside' | 'supply'): number | undefined {
    const end = this.#end ?? this.#board.ref
    const chosen = taken === 'supply' ? undefined : (taken ?? this.#chosen)
    if (chosen === 'outside') {
      if (this.#wired === undefined)
        this.#say(
          'wrong-reference',
          at,
          [end],
          `The program takes ${end} for full scale, and nothing is wired there.`,
          'A converter without a reference reads at random. Leave the call out, or bring the volts that shall be full scale to that pin.',
        )
      return this.#wired
    }
    if (this.#wired !== undefined && this.#mustTake)
      this.#say(
        'wrong-reference',
        at,
        [end],
        `${end} gets ${voltsWords(this.#wired)}, and the program reads with ${chosen === undefined ? 'the supply of the chip' : `${voltsWords(chosen)} inside the chip`} for full scale: the two are joined.`,
        'Inside the chip the reference in use lies on that pin. Call analogReference(EXTERNAL) before the first reading, or take the wire away.',
      )
    return chosen ?? this.#board.board.logicVolts
  }
}
