import type { PinFacts } from '../../catalog/boardFacts.ts'
import type { At } from '../source/ir.ts'
import type { PinUse } from '../source/uses.ts'

/** A pin of the board as a program has it: by what names, and what is done with it. */
export interface GivenPin {
  readonly pin: PinFacts
  /** As the program writes it: `7`, `A0`. */
  readonly written: string
  /** Names, the number's own at first. */
  readonly names: readonly string[]
  readonly uses: readonly PinUse[]
  /** Which of the pins that a library is given it is, from 0; undefined where they are given one by one. */
  readonly place: number | undefined
  readonly at: At
}

/** What speaks for a part. */
export type Reason =
  | { readonly kind: 'class'; readonly name: string }
  | { readonly kind: 'name'; readonly name: string }
  | { readonly kind: 'comment'; readonly text: string }
  | { readonly kind: 'address'; readonly address: number }
  | { readonly kind: 'use'; readonly what: string }
