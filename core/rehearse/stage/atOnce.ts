import type { RunKind } from './findings.ts'
import type { LivePin } from './pins.ts'

/** Parts that ran before the program had set anything. */
export class RanAtOnce {
  /** By part: what it was seen to do. */
  parts = new Map<string, string>()
  /** What a part is seen to do now; given by the run. */
  seen: (ref: string) => string | undefined = () => undefined

  /** The first pin that stops what ran from the moment of power-on. */
  say(
    by: LivePin,
    at: number,
    say: (kind: RunKind, at: number, ends: readonly string[], message: string, why: string) => void,
  ): void {
    for (const [ref, words] of this.parts) {
      const now = this.seen(ref)
      if (now !== undefined && now !== 'off' && now !== 'rests') continue
      this.parts.delete(ref)
      say(
        'runs-at-once',
        at,
        [ref, by.host.end],
        `${ref} ${words} from power-on until ${by.host.end} is set here.`,
        'While the board starts, and while a program is loaded, pins are let go: for a second or more. A resistor that holds the input at the resting level keeps it quiet.',
      )
    }
  }
}
