import type { Edit } from '../../../core/plan/edit.ts'
import type { History } from '../../../core/plan/history.ts'
import type { Side } from '../../../core/plan/merge.ts'
import type { Plan } from '../../../core/plan/planSchema.ts'

/**
 * The pen: what one page knows of one plan, and what is to be done next, without browser, network or clock. `step` takes
 * what happened and gives the next state and the effects; a {@link Desk} carries them out.
 *
 * What the maker sees (`history.present`) is at every moment either known to be on the server or kept as a draft in the
 * browser. A draft goes only when the server is known to hold it, or when the maker says so.
 */
export interface Pen {
  readonly id: string
  /** Begins the tokens of all saves of this pen: by it a save is known again whose answer was lost. */
  readonly token: string
  /** The newest that the server is known to hold and the present comes from. */
  readonly base: Stored
  readonly history: History
  /** Revision at which it was opened, until its past is known. */
  readonly opened: number | undefined
  readonly sync: Sync
  /** What another page saved in between, while the maker has not said how the two go together. */
  readonly theirs: Stored | undefined
  /** Unsaved work of pages that are gone, besides what was taken up. */
  readonly offers: readonly Draft[]
  /** Offers that were joined: gone when the server holds what they say, offered again when that was undone. */
  readonly joined: readonly Draft[]
  /** Where the browser keeps the draft; false after it refused to. */
  readonly slot: string
  readonly drafted: boolean
  /** Why the browser keeps no draft, in its words. */
  readonly draftRefused: string | undefined
  readonly sends: number
  /** Tries to save that failed in a row. */
  readonly failures: number
}

export interface Stored {
  readonly revision: number
  readonly plan: Plan
  readonly savedBy: string | null
}

/** Unsaved work as the browser keeps it. */
export interface Draft {
  readonly slot: string
  readonly planId: string
  readonly plan: Plan
  /** The revision and the plan that it comes from; the plan is missing in drafts of older programs. */
  readonly revision: number
  readonly base: Plan | undefined
  /** Begins the tokens of the saves that were under way. */
  readonly token: string
  /** When it was kept, in milliseconds since 1970. */
  readonly at: number
}

export type TroubleKind =
  /** Nobody answers. */
  | 'server-away'
  /** Another program holds the database, or too much is asked at once. */
  | 'in-use'
  | 'disk-full'
  | 'read-only'
  | 'disk'
  /** The server says that the plan cannot be kept as it is. */
  | 'refused'
  /** The plan was deleted elsewhere. */
  | 'gone'

export interface Trouble {
  readonly kind: TroubleKind
  readonly text: string
}

export type Sync =
  | { readonly is: 'saved' }
  /** Will be sent when the maker pauses. `since` is when the first unsent change was made. */
  | { readonly is: 'waiting'; readonly since: number }
  | { readonly is: 'saving'; readonly sent: Plan; readonly token: string }
  /** Could not be saved. Waits for the clock, the maker, or an edit. */
  | { readonly is: 'trouble'; readonly trouble: Trouble }

export type PenEvent =
  | {
      readonly type: 'edited'
      readonly edits: readonly Edit[]
      readonly label: string
      readonly joins?: boolean
      readonly now: number
    }
  | { readonly type: 'undone' | 'redone'; readonly now: number }
  /** What was done before the plan was opened at this revision: steps that can be undone as well, the oldest first. */
  | { readonly type: 'remembered'; readonly revision: number; readonly steps: History['past'] }
  /** A whole plan in place of the one that is seen, as a step. */
  | { readonly type: 'replaced'; readonly plan: Plan; readonly label: string; readonly now: number }
  | { readonly type: 'clock'; readonly now: number }
  /** The maker presses "try now", or the server is back. */
  | { readonly type: 'retry'; readonly now: number }
  | { readonly type: 'answered'; readonly token: string; readonly answer: SaveAnswer; readonly now: number }
  /** What the server holds now, asked for or told. */
  | { readonly type: 'heard'; readonly stored: Stored; readonly now: number }
  | { readonly type: 'deleted'; readonly now: number }
  | { readonly type: 'settled'; readonly how: ReadonlyMap<string, Side>; readonly now: number }
  | { readonly type: 'took-theirs'; readonly now: number }
  | { readonly type: 'offer-dropped'; readonly slot: string }
  | { readonly type: 'offer-joined'; readonly slot: string; readonly now: number }
  /** Drafts of pages that are gone, found while this pen was there. */
  | { readonly type: 'found'; readonly drafts: readonly Draft[] }
  | { readonly type: 'draft-refused'; readonly why: string }
  /** The maker goes elsewhere in this page. */
  | { readonly type: 'left'; readonly now: number }

export type SaveAnswer =
  | { readonly is: 'saved'; readonly stored: Stored }
  | { readonly is: 'conflict'; readonly current: Stored }
  | { readonly is: 'trouble'; readonly trouble: Trouble }

export type Effect =
  | { readonly do: 'send'; readonly token: string; readonly revision: number; readonly plan: Plan }
  | { readonly do: 'keep-draft'; readonly draft: Omit<Draft, 'at'> }
  | { readonly do: 'drop-draft'; readonly slot: string }
  /** One clock at a time: a new one takes the place of the one before. */
  | { readonly do: 'wake'; readonly after: number }

export interface Stepped {
  readonly pen: Pen
  readonly effects: readonly Effect[]
}

/** What the pen must know of plans beyond their text: the faults of one, by which a join that makes new ones is seen. */
export interface PenAids {
  readonly faults: (plan: Plan) => ReadonlySet<string>
}
