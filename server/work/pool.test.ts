import { afterAll, beforeAll, expect, it } from 'vitest'
import { largeKit } from '../../benchmarks/largeKit.ts'
import { writePlan } from '../../core/plan/writePlan.ts'
import { catalog } from '../../core/testing/plans.ts'
import { threads, type Work } from './pool.ts'
import { emptyShelf } from './shelfBytes.ts'
import { tasks } from './tasks.ts'
import * as offered from './worker.ts'

const text = writePlan({ ...largeKit(catalog, 60), title: 'Large' }, catalog)
let work: Work
beforeAll(() => {
  const made = threads()
  if (!made) throw new Error('the threads need the built program: npm run build')
  work = made
})
afterAll(() => work.close())

it('what takes long on one thread holds nobody up, also those that it served before', async () => {
  const done: string[] = []
  const open = (name: string, plan: string, within?: number) =>
    work
      .run('open', { shelf: emptyShelf, text: `${text}\n# ${name}`, title: name }, { plan, within })
      .then(() => done.push(name))
  // Both threads are warm, and every plan has been on one of them.
  await Promise.all(['a', 'b', 'c', 'd'].map((plan) => open(`${plan} at first`, plan)))
  done.length = 0
  const search = work
    .run('assign', { shelf: emptyShelf, text, milliseconds: 20_000 }, { plan: 'a' })
    .then(() => done.push('search'))
  await Promise.all([search, ...['a', 'b', 'c', 'd'].map((plan) => open(plan, plan))])
  expect(done.at(-1)).toBe('search')
  expect(done.slice(0, -1).sort()).toEqual(['a', 'b', 'c', 'd'])
})

it('gives up what waits too long, and goes on', async () => {
  const long = ['e', 'f', 'g', 'h'].map((plan) =>
    work.run('assign', { shelf: emptyShelf, text, milliseconds: 20_000 }, { plan }),
  )
  await expect(work.run('open', { shelf: emptyShelf, text, title: 'late' }, { within: 5 })).rejects.toThrow(
    'took longer than',
  )
  await Promise.all(long)
  expect(await work.run('open', { shelf: emptyShelf, text, title: 'again' })).toMatchObject({ ok: true })
})

it('what nobody waits for is done while every thread is busy', async () => {
  const summary = () => work.run('summary', { shelf: emptyShelf, text, title: 'Large' }, { background: true })
  // Its thread is warm.
  await summary()
  let searching = 8
  const searches = Array.from({ length: searching }, () =>
    work.run('assign', { shelf: emptyShelf, text, milliseconds: 20_000 }).then(() => {
      searching -= 1
    }),
  )
  expect(await summary()).toMatchObject({ ok: true })
  expect(searching).toBeGreaterThan(0)
  await Promise.all(searches)
})

it('every task is offered by the threads', () => {
  expect(Object.keys(offered).sort()).toEqual(Object.keys(tasks).sort())
})
