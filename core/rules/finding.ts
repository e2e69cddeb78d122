import type { Fix } from '../plan/edit.ts'
import type { Wiring } from '../wiring/model.ts'
import type { MessageData, Messages } from './messages.ts'

export type Severity = 'fault' | 'caution' | 'tip'

/** One thing that is wrong or worth knowing, with what it is about, why, and how to mend it. */
export interface Finding {
  readonly rule: string
  readonly severity: Severity
  /** Ends or refs that it is about; the same set for the same trouble, so that an acceptance keeps to it. */
  readonly at: readonly string[]
  /** What stood in `at` in earlier versions of the program: an acceptance that names it still counts. */
  readonly formerly?: readonly string[]
  /** Which of the rule's messages it is, with what fills it. */
  readonly says: string
  readonly data: MessageData
  /** Where and what, in one plain sentence: the message filled with its data. */
  readonly message: string
  /** Two or three sentences that teach, with the numbers compared. */
  readonly why: string
  readonly numbers: Readonly<Record<string, number | string>>
  /** The maker's reason, when the finding is accepted. */
  readonly accepted?: string
}

/** What a rule reports: a message by its id, and the making of its fixes, which is put off until somebody asks. */
export interface Report extends Omit<Finding, 'rule' | 'accepted' | 'says' | 'data' | 'message'> {
  /** Id of one of the rule's messages. */
  readonly message: string
  readonly data?: MessageData
  readonly propose?: () => readonly Fix[]
}

/** One check. A rule is one file, one test file and one line in `index.ts`. */
export interface Rule {
  readonly meta: {
    readonly id: string
    /** Severities that it can report. */
    readonly severities: readonly Severity[]
    /** What it looks for, in one sentence, for the rule reference. */
    readonly about: string
    /** What it can say, by id. */
    readonly messages: Messages
    /** Messages that hang on a figure: of each the tests show both sides. */
    readonly limits?: readonly string[]
    /** Messages that say that something is lacking which further wires and parts bring (see `waiting.ts`). */
    readonly lacking?: readonly string[]
    readonly fixable: boolean
    /**
     * What it says of a signal, a net or a part depends on these alone, on what hangs together with them (see
     * `core/wiring/touched.ts`) and on the facts of boards; it can be run on a wiring that is cut down.
     */
    readonly local?: true
  }
  readonly check: (wiring: Wiring, report: (report: Report) => void) => void
}
