import type { Severity } from '../../rules/finding.ts'

/** What a run can find, with what it is about. */
export const runKinds = {
  'not-understood': { severity: 'fault', about: 'A line of the program that the rehearsal does not understand.' },
  'read-floating': { severity: 'fault', about: 'The program reads a pin while nothing holds its line.' },
  'pin-fight': { severity: 'fault', about: 'Two outputs work against each other, or one against a supply.' },
  'pin-current': { severity: 'fault', about: 'A pin carries more current than it bears.' },
  'too-many-volts': { severity: 'fault', about: 'A line brings more volts to a pin than it bears.' },
  'weak-level': { severity: 'fault', about: 'A pin is read while its line is neither surely high nor surely low.' },
  'never-output': { severity: 'fault', about: 'A pin is written and was never set as an output.' },
  'no-such-pin': { severity: 'fault', about: 'The program names a pin that the board does not have.' },
  'not-able': { severity: 'fault', about: 'The program asks a pin for what it cannot do.' },
  'wrong-reference': {
    severity: 'fault',
    about: 'The program takes another full scale for analog readings than the one that is wired.',
  },
  'timer-taken': { severity: 'fault', about: 'A library takes the timer that makes the pulses of a pin.' },
  'nothing-there': { severity: 'caution', about: 'The program uses a pin to which the plan has wired nothing.' },
  'other-pin': { severity: 'fault', about: 'The program drives a part by pins to which the plan has not wired it.' },
  'no-such-part': { severity: 'caution', about: 'The program drives a part that the plan does not have.' },
  'nobody-answers': { severity: 'fault', about: 'Nobody answers at an address of a bus.' },
  'other-baud': { severity: 'fault', about: 'Two boards speak at different speeds.' },
  'runs-at-once': { severity: 'caution', about: 'Something runs from power-on until the program stops it.' },
  'over-budget': { severity: 'fault', about: 'What starts together takes more than its source gives.' },
  'asked-too-soon': { severity: 'caution', about: 'A sensor is asked again before it has a new value.' },
  'other-scale': {
    severity: 'caution',
    about: 'A reading is reckoned with the full scale or the volts of another board.',
  },
  'not-heard': { severity: 'caution', about: 'Something happened and was over before the program looked.' },
  'never-comes': { severity: 'fault', about: 'The program waits for a timer that never comes there.' },
  'number-lost': { severity: 'fault', about: 'A number grew beyond its type.' },
  'wrong-place': { severity: 'fault', about: 'The program reads or writes beyond what it has set aside.' },
  'sleeps-on': { severity: 'fault', about: 'The board sleeps and nothing wakes it.' },
  bitten: { severity: 'caution', about: 'A watchdog starts the program anew.' },
  stopped: { severity: 'fault', about: 'The program cannot go on.' },
  'unknown-class': { severity: 'caution', about: 'A class that nobody has described; what it is asked gives nought.' },
  'unknown-bytes': { severity: 'caution', about: 'What a part says byte by byte is not described; noughts are read.' },
  'bus-asleep': { severity: 'fault', about: 'The program sends over a bus that it has not begun.' },
  'made-up': { severity: 'tip', about: 'Something of the world outside of the plan that the rehearsal makes up.' },
  missed: { severity: 'fault', about: 'What the script expects did not come.' },
} as const satisfies Readonly<Record<string, { severity: Severity; about: string }>>
export type RunKind = keyof typeof runKinds

/** Something that a run has found: what, where in the program, when, and which pins and parts it is about. */
export interface RunFinding {
  readonly kind: RunKind
  readonly severity: Severity
  readonly message: string
  readonly why: string
  readonly file: string
  /** From 1; 0 where it belongs to no line. */
  readonly line: number
  /** Seconds from power-on. */
  readonly seconds: number
  readonly at: readonly string[]
  /** How often it happened. */
  times: number
}

/** Findings of one run, each said once, with how often it happened. */
export class RunFindings {
  readonly all: RunFinding[] = []
  readonly #known = new Map<string, RunFinding>()

  /** `key` tells what is the same finding: mostly kind, ends and line. */
  add(
    finding: Omit<RunFinding, 'severity' | 'times'>,
    key = `${finding.kind} ${finding.at.join(' ')} ${finding.line}`,
  ): void {
    const known = this.#known.get(key)
    if (known) {
      known.times += 1
      return
    }
    const made: RunFinding = { ...finding, severity: runKinds[finding.kind].severity, times: 1 }
    this.#known.set(key, made)
    this.all.push(made)
  }
}
