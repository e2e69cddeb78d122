import type { Plan } from '../../../core/plan/planSchema.ts'
import type { Draft } from './penEvents.ts'

/** What drafts need of a browser's store. */
export type DraftStorage = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'>

interface Kept {
  /** The page whose draft it is. */
  readonly page: string
  readonly draft: Draft
}

const PREFIX = 'markpost.draft.'

/** Drafts in a browser's store, one under each key. A draft that cannot be read stays where it is. */
export class LocalDrafts {
  readonly #storage: () => DraftStorage
  readonly #page: string

  /** `storage` may throw: some browsers refuse it altogether. */
  constructor(storage: () => DraftStorage, page: string) {
    this.#storage = storage
    this.#page = page
  }

  /** Keeps a draft at once; words when the browser refuses. */
  put(draft: Draft): string | undefined {
    try {
      this.#storage().setItem(PREFIX + draft.slot, JSON.stringify({ page: this.#page, draft } satisfies Kept))
      return undefined
    } catch (error) {
      const { name } = error as { name?: string }
      return name === 'QuotaExceededError' ? 'this browser’s store is full' : 'this browser keeps nothing for this page'
    }
  }

  drop(slot: string): void {
    try {
      this.#storage().removeItem(PREFIX + slot)
    } catch {
      // A store that refuses to be read holds nothing of ours either.
    }
  }

  /** Drafts that no living page has, this page's own among them; newest first. */
  orphans(lives: (page: string) => boolean, planId?: string): Draft[] {
    return this.#all()
      .filter(({ page, draft }) => !lives(page) && (planId === undefined || draft.planId === planId))
      .map(({ draft }) => draft)
      .sort((a, b) => b.at - a.at)
  }

  /** Makes the orphans of a plan this page's. */
  claim(lives: (page: string) => boolean, planId: string): Draft[] {
    const found = this.orphans(lives, planId)
    // The same text with another page's name: it needs no more room than it has.
    for (const draft of found) this.put(draft)
    return found
  }

  #all(): Kept[] {
    try {
      const storage = this.#storage()
      const keys = Array.from({ length: storage.length }, (_, index) => storage.key(index))
      return keys.flatMap((key) => {
        const text = key?.startsWith(PREFIX) ? storage.getItem(key) : null
        const kept =
          text === null || key === null || key === undefined ? undefined : readKept(key.slice(PREFIX.length), text)
        return kept ? [kept] : []
      })
    } catch {
      return []
    }
  }
}

function readKept(slot: string, text: string): Kept | undefined {
  try {
    const value = JSON.parse(text) as Partial<Kept> & { revision?: number; plan?: Plan }
    if (value.draft) return { page: value.page ?? '', draft: { ...value.draft, slot } }
    // As an older program kept it, under the plan's id and without what it came from.
    if (value.plan && value.revision !== undefined)
      return {
        page: '',
        draft: { slot, planId: slot, plan: value.plan, revision: value.revision, base: undefined, token: '', at: 0 },
      }
    return undefined
  } catch {
    return undefined
  }
}
