import { seeded } from '../../../core/base/random.ts'
import type { Edit } from '../../../core/plan/edit.ts'
import { emptyPlan, type Plan } from '../../../core/plan/planSchema.ts'
import { planFingerprint } from '../../../core/plan/samePlan.ts'
import { Desk, type Loaded } from './desk.ts'
import type { Draft, Pen, SaveAnswer, Stored } from './penEvents.ts'

/**
 * A small world for tests of the pen: pages, their store, a server and the network between, all of which can be slow,
 * lose things, refuse or die at any moment. One seed gives one course of events.
 */
export class World {
  readonly random: () => number
  now = 1_000_000
  readonly kept = new Map<string, { draft: Draft; page: number }>()
  readonly pages = new Map<number, Page>()
  stored: Stored | undefined
  /** Every plan that the server ever held. */
  readonly everHeld = new Set<string>()
  /** What the browser's store and the server do at the moment. */
  storeIsFull = false
  serverMood: 'well' | 'disk-full' | 'refuses' = 'well'
  /** Requests and answers on their way. */
  network: { readonly page: number; readonly deliver: () => void; readonly lose: () => void }[] = []
  #pageCount = 0
  #edits = 0

  constructor(seed: number) {
    this.random = seeded(seed)
    this.#hold({ revision: 1, plan: emptyPlan('Start'), savedBy: null })
  }

  #hold(stored: Stored): void {
    this.stored = stored
    this.everHeld.add(planFingerprint(stored.plan))
  }

  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)]!
  }

  /** The server's side of a save. It puts a piece of its own into every plan, as it does with entries that one uses. */
  #save(revision: number, plan: Plan, token: string): SaveAnswer {
    if (!this.stored) return trouble('gone')
    if (this.serverMood === 'disk-full') return trouble('disk-full')
    if (this.serverMood === 'refuses') return trouble('refused')
    if (this.stored.revision !== revision) return { is: 'conflict', current: this.stored }
    const whole: Plan = { ...plan, settings: { prefer: { ...plan.settings?.prefer, analog: 'less' } } }
    this.#hold({ revision: revision + 1, plan: whole, savedBy: token })
    return { is: 'saved', stored: this.stored }
  }

  deletePlan(): void {
    this.stored = undefined
    for (const page of this.pages.values())
      this.#send(
        page.number,
        () => page.desk.deleted('plan'),
        () => undefined,
      )
  }

  #send(page: number, deliver: () => void, lose: () => void): void {
    this.network.push({ page, deliver, lose })
  }

  /** A request and its answer, each of which may be lost or late. A page that is gone hears neither. */
  #ask<T>(page: number, serve: () => T, away: T): Promise<T> {
    return new Promise((resolve) => {
      const hear = (answer: T): void => {
        if (this.pages.has(page)) resolve(answer)
      }
      const lost = (): void => hear(away)
      this.#send(
        page,
        () => {
          const answer = serve()
          this.#send(page, () => hear(answer), lost)
        },
        lost,
      )
    })
  }

  openPage(): Page {
    this.#pageCount += 1
    const number = this.#pageCount
    const page: Page = { number, desk: undefined as unknown as Desk, shown: undefined, clocks: new Set() }
    page.desk = new Desk({
      server: {
        load: (): Promise<Loaded> =>
          this.#ask<Loaded>(number, () => (this.stored ? { is: 'loaded', stored: this.stored } : { is: 'missing' }), {
            is: 'failed',
            text: 'away',
          }),
        save: (_, revision, plan, token) =>
          this.#ask<SaveAnswer>(number, () => this.#save(revision, plan, token), trouble('server-away')),
      },
      drafts: {
        put: (draft) => {
          if (this.storeIsFull) return 'the store is full'
          this.kept.set(draft.slot, { draft, page: number })
          return undefined
        },
        drop: (slot) => this.kept.delete(slot),
        claim: async () => {
          const mine = [...this.kept.values()].filter((one) => one.page === number || !this.pages.has(one.page))
          for (const { draft } of mine) this.kept.set(draft.slot, { draft, page: number })
          return mine.map((one) => one.draft).sort((a, b) => b.at - a.at)
        },
      },
      clock: {
        now: () => this.now,
        wake: (after, call) => {
          const clock = { due: this.now + after, call }
          page.clocks.add(clock)
          return () => page.clocks.delete(clock)
        },
      },
      newToken: () => `page${number}-${Math.floor(this.random() * 1e9)}`,
      aids: { faults: () => new Set() },
      show: (pen) => {
        page.shown = pen
      },
    })
    this.pages.set(number, page)
    return page
  }

  /** The page is gone, as after a crash: nothing of it runs any more. Its requests may still arrive. */
  killPage(page: Page): void {
    this.pages.delete(page.number)
    page.clocks.clear()
  }

  killServer(): void {
    for (const one of this.network.splice(0)) one.lose()
  }

  /** The due clock that comes next; false when there is none. */
  tick(): boolean {
    const clocks = [...this.pages.values()].flatMap((page) => [...page.clocks].map((clock) => ({ page, clock })))
    const next = clocks.sort((a, b) => a.clock.due - b.clock.due)[0]
    if (!next) return false
    this.now = Math.max(this.now, next.clock.due)
    next.page.clocks.delete(next.clock)
    next.clock.call()
    return true
  }

  /** Something on the network arrives, or with `lose` is lost. */
  async move(lose: boolean): Promise<void> {
    if (this.network.length === 0) return
    const at = Math.floor(this.random() * this.network.length)
    const [one] = this.network.splice(at, 1)
    if (lose) one!.lose()
    else one!.deliver()
    await settle()
  }

  edit(page: Page): void {
    const pen = page.shown
    if (!pen) return
    const { present } = pen.history
    const refs = Object.keys(present.parts)
    this.#edits += 1
    const name = `P${this.#edits}`
    const choices: Edit[] = [
      { do: 'add-part', ref: name, entry: { part: 'led' } },
      { do: 'set-title', title: `Title ${name}` },
    ]
    if (refs.length > 0)
      choices.push(
        { do: 'remove', ref: this.pick(refs) },
        { do: 'change-part', ref: this.pick(refs), entry: { title: name } },
      )
    if (refs.length > 1) {
      const [from, to] = [`${this.pick(refs)}.A`, `${this.pick(refs)}.K`]
      if (!present.wires.some((one) => [one[0], one[1]].sort().join() === [from, to].sort().join()))
        choices.push({ do: 'connect', from, to })
    }
    page.desk.tell('plan', { type: 'edited', edits: [this.pick(choices)], label: name, now: this.now })
  }
}

export interface Page {
  readonly number: number
  desk: Desk
  shown: Pen | undefined
  readonly clocks: Set<{ readonly due: number; readonly call: () => void }>
}

const trouble = (kind: 'gone' | 'disk-full' | 'refused' | 'server-away'): SaveAnswer => ({
  is: 'trouble',
  trouble: { kind, text: kind },
})

/** Lets everything that was promised come through. */
export const settle = async (): Promise<void> => {
  for (let turn = 0; turn < 12; turn += 1) await Promise.resolve()
}
