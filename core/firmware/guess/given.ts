import type { PinFacts } from '../../catalog/boardFacts.ts'
import { hexAddress } from '../../electrical/hexAddress.ts'
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
  | { readonly kind: 'call'; readonly name: string }

/** A reason in a few words, as it stands in the program. */
export function reasonWords(reason: Reason): string {
  switch (reason.kind) {
    case 'class':
      return `class ${reason.name}`
    case 'name':
      return `called ${reason.name}`
    case 'comment':
      return `“${reason.text}”`
    case 'address':
      return `answers at ${hexAddress(reason.address)}`
    case 'call':
      return reason.name
  }
}

/** The reasons that a person wants to read: each name once, without where it came from, and what is only a place in a list left out. */
export function tellingReasons(reasons: readonly Reason[]): Reason[] {
  const seen = new Set<string>()
  return reasons.filter((reason) => {
    if (reason.kind === 'name' && (/[.[]/.test(reason.name) || /^_?pins?$/i.test(reason.name))) return false
    const words = reasonWords(reason).toLowerCase()
    if (seen.has(words)) return false
    seen.add(words)
    return true
  })
}
