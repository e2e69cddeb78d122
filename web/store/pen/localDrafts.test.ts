import { expect, it } from 'vitest'
import { planOf } from '../../../core/testing/plans.ts'
import { type DraftStorage, LocalDrafts } from './localDrafts.ts'
import type { Draft } from './penEvents.ts'

class Memory implements DraftStorage {
  readonly kept = new Map<string, string>()
  room = Number.POSITIVE_INFINITY
  get length(): number {
    return this.kept.size
  }
  key = (at: number): string | null => [...this.kept.keys()][at] ?? null
  getItem = (key: string): string | null => this.kept.get(key) ?? null
  removeItem = (key: string): void => {
    this.kept.delete(key)
  }
  setItem = (key: string, value: string): void => {
    if (value.length > this.room) throw Object.assign(new Error('no room'), { name: 'QuotaExceededError' })
    this.kept.set(key, value)
  }
}

const plan = planOf({ parts: { A: 'led' } })
const draft = (slot: string, planId: string, at: number): Draft => ({
  slot,
  planId,
  plan,
  revision: 1,
  base: plan,
  token: slot,
  at,
})
const nobody = (): boolean => false

it('finds drafts of pages that are gone, newest first, and makes them its own', () => {
  const memory = new Memory()
  const [first, second] = [new LocalDrafts(() => memory, 'first'), new LocalDrafts(() => memory, 'second')]
  first.put(draft('a', 'one', 1))
  first.put(draft('b', 'one', 2))
  first.put(draft('c', 'other', 3))
  memory.kept.set('something else', 'x')
  expect(second.orphans((page) => page === 'first')).toEqual([])
  expect(second.orphans(nobody).map((one) => one.slot)).toEqual(['c', 'b', 'a'])
  expect(second.claim(nobody, 'one').map((one) => one.slot)).toEqual(['b', 'a'])
  expect(first.orphans((page) => page === 'second').map((one) => one.slot)).toEqual(['c'])
  second.drop('b')
  expect(second.orphans(nobody, 'one').map((one) => one.slot)).toEqual(['a'])
})

it('says when there is no room, and when there is no store at all', () => {
  const memory = new Memory()
  memory.room = 10
  expect(new LocalDrafts(() => memory, 'p').put(draft('a', 'one', 1))).toBe('this browser’s store is full')
  const none = new LocalDrafts(() => {
    throw new Error('denied')
  }, 'p')
  expect([none.put(draft('a', 'one', 1)), none.orphans(nobody)]).toEqual([
    'this browser keeps nothing for this page',
    [],
  ])
  none.drop('a')
})

it('reads what an older program kept, and leaves alone what it cannot read', () => {
  const memory = new Memory()
  memory.kept.set('markpost.draft.plan-7', JSON.stringify({ revision: 3, plan }))
  memory.kept.set('markpost.draft.torn', '{"draft":')
  const drafts = new LocalDrafts(() => memory, 'p')
  expect(drafts.claim(nobody, 'plan-7')).toEqual([
    { slot: 'plan-7', planId: 'plan-7', plan, revision: 3, base: undefined, token: '', at: 0 },
  ])
  expect(drafts.orphans(nobody)).toHaveLength(1)
  expect(memory.kept.get('markpost.draft.torn')).toBe('{"draft":')
})
