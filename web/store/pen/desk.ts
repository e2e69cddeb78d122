import type { Problem } from '../../../core/base/problem.ts'
import type { Plan } from '../../../core/plan/planSchema.ts'
import { isClean, openPen, step } from './pen.ts'
import type { Draft, Effect, Pen, PenAids, PenEvent, SaveAnswer, Stepped, Stored } from './penEvents.ts'

export type Loaded =
  | { readonly is: 'loaded'; readonly stored: Stored }
  | { readonly is: 'missing' }
  | { readonly is: 'failed'; readonly text: string }
  /** The server keeps a text that it cannot read; the maker can mend it. */
  | { readonly is: 'damaged'; readonly text: string; readonly revision: number; readonly problems: readonly Problem[] }

export type Opened = Exclude<Loaded, { is: 'loaded' }> | { readonly is: 'open' } | { readonly is: 'superseded' }

/** Everything that a desk needs of the world. All of it is given, so that it can be slow, broken or away in tests. */
export interface Ports {
  readonly server: {
    readonly load: (id: string) => Promise<Loaded>
    readonly save: (id: string, revision: number, plan: Plan, token: string) => Promise<SaveAnswer>
  }
  readonly drafts: {
    /** Keeps a draft at once; words when the browser refuses. */
    readonly put: (draft: Draft) => string | undefined
    readonly drop: (slot: string) => void
    /** Makes all drafts of a plan this page's that no living page has, newest first. */
    readonly claim: (planId: string) => Promise<readonly Draft[]>
  }
  readonly clock: {
    readonly now: () => number
    /** Calls back after so many milliseconds; the function given back calls it off. */
    readonly wake: (after: number, call: () => void) => () => void
  }
  /** A name that no other page has. */
  readonly newToken: () => string
  readonly aids: PenAids
  /** Hears every change of a pen that is open. */
  readonly show: (pen: Pen) => void
}

interface Place {
  pen: Pen
  isOpen: boolean
  callOff: (() => void) | undefined
}

/** The pens of one page: the one that is open, and those that were left before all was saved. */
export class Desk {
  readonly #ports: Ports
  readonly #places = new Map<string, Place>()
  #wanted: string | undefined

  constructor(ports: Ports) {
    this.#ports = ports
  }

  /** Opens a plan; `superseded` when another was asked for meanwhile. */
  async open(id: string): Promise<Opened> {
    this.#wanted = id
    const known = this.#places.get(id)
    if (known) {
      known.isOpen = true
      this.#ports.show(known.pen)
      void this.#refresh(id)
      this.tell(id, { type: 'found', drafts: await this.#ports.drafts.claim(id) })
      return { is: 'open' }
    }
    const loaded = await this.#ports.server.load(id)
    if (this.#wanted !== id) return { is: 'superseded' }
    if (loaded.is !== 'loaded') return loaded
    const drafts = await this.#ports.drafts.claim(id)
    // Drafts are this page's now and stay where they are, whatever happens next.
    if (this.#wanted !== id) return { is: 'superseded' }
    const token = this.#ports.newToken()
    const now = this.#ports.clock.now()
    const opened = openPen({ id, token, slot: token, stored: loaded.stored, drafts, now }, this.#ports.aids)
    this.#places.set(id, { pen: opened.pen, isOpen: true, callOff: undefined })
    this.#apply(id, opened)
    return { is: 'open' }
  }

  /** The maker goes elsewhere: what is unsaved is sent, and the pen stays until the server holds it. */
  leave(id: string): void {
    if (this.#wanted === id) this.#wanted = undefined
    const place = this.#places.get(id)
    if (!place) return
    place.isOpen = false
    this.tell(id, { type: 'left', now: this.#ports.clock.now() })
  }

  pen(id: string): Pen | undefined {
    return this.#places.get(id)?.pen
  }

  /** Something happened to a plan that is open or not saved yet; nothing for any other. */
  tell(id: string, event: PenEvent): void {
    const place = this.#places.get(id)
    if (place) this.#apply(id, step(place.pen, event, this.#ports.aids))
  }

  /** The server said that a plan has a newer revision, or may have one. */
  heard(id: string, revision: number | undefined): void {
    const place = this.#places.get(id)
    if (place && (revision === undefined || revision > (place.pen.theirs ?? place.pen.base).revision))
      void this.#refresh(id)
  }

  deleted(id: string): void {
    this.tell(id, { type: 'deleted', now: this.#ports.clock.now() })
  }

  /** The server answers again: whatever waits for it is tried now, and what was missed is asked for. */
  awake(): void {
    for (const id of [...this.#places.keys()]) {
      this.tell(id, { type: 'retry', now: this.#ports.clock.now() })
      void this.#refresh(id)
    }
  }

  /** Plans of which something is not known to be on the server. */
  unsaved(): string[] {
    return [...this.#places].filter(([, { pen }]) => !isSettled(pen)).map(([id]) => id)
  }

  async #refresh(id: string): Promise<void> {
    const loaded = await this.#ports.server.load(id)
    const now = this.#ports.clock.now()
    if (loaded.is === 'loaded') this.tell(id, { type: 'heard', stored: loaded.stored, now })
    else if (loaded.is === 'missing') this.deleted(id)
  }

  #apply(id: string, { pen, effects }: Stepped): void {
    const place = this.#places.get(id)
    if (!place) return
    place.pen = pen
    let refused: string | undefined
    for (const effect of effects) {
      if (effect.do === 'keep-draft') refused = this.#ports.drafts.put({ ...effect.draft, at: this.#ports.clock.now() })
      else if (effect.do === 'drop-draft') this.#ports.drafts.drop(effect.slot)
      else this.#carryOut(id, place, effect)
    }
    if (refused !== undefined)
      place.pen = step(place.pen, { type: 'draft-refused', why: refused }, this.#ports.aids).pen
    if (place.isOpen) this.#ports.show(place.pen)
    else if (isSettled(place.pen)) {
      place.callOff?.()
      this.#places.delete(id)
    }
  }

  #carryOut(id: string, place: Place, effect: Exclude<Effect, { do: 'keep-draft' | 'drop-draft' }>): void {
    if (effect.do === 'wake') {
      place.callOff?.()
      place.callOff = this.#ports.clock.wake(effect.after, () =>
        this.tell(id, { type: 'clock', now: this.#ports.clock.now() }),
      )
    } else {
      place.callOff?.()
      const { token, revision, plan } = effect
      void this.#ports.server.save(id, revision, plan, token).then((answer) => {
        this.tell(id, { type: 'answered', token, answer, now: this.#ports.clock.now() })
      })
    }
  }
}

/** Nothing is left to be sent or said. */
const isSettled = (pen: Pen): boolean => pen.sync.is === 'saved' && isClean(pen)
