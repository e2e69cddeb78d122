import { type Request, Router } from 'express'
import * as v from 'valibot'
import type { BinPlan, RevisionLine } from '../core/rules/answers.ts'
import type { Access } from './access.ts'
import type { Events } from './events.ts'
import { HttpProblem } from './problem.ts'
import type { Shelf } from './shelf.ts'
import type { PlanStore } from './store.ts'
import { patiently } from './storeTrouble.ts'
import type { Summaries } from './summaries.ts'
import type { Work } from './work/pool.ts'

/** Steps of the past that one request gets at most. */
const MOST_STEPS = 50
const Name = v.strictObject({ name: v.pipe(v.string(), v.trim(), v.maxLength(100)) })

interface Parts {
  readonly access: Access
  readonly store: PlanStore
  readonly shelf: Shelf
  readonly work: Work
  readonly events: Events
  readonly summaries: Summaries
}

/** What was before: revisions of plans, and plans that were deleted. */
export function historyRoutes({ access, store, shelf, work, events, summaries }: Parts): Router {
  const routes = Router()
  const missing = (what: string): HttpProblem => new HttpProblem(404, 'Not kept', what)
  const numberOf = (request: Request): number => {
    const number = Number(request.params.revision)
    if (!Number.isInteger(number) || number < 1) throw missing('a revision is a whole number from 1')
    return number
  }
  /** Revisions with their sentences; those that nobody has asked for yet are worked out and kept. */
  const linesOf = async (id: string, most = Number.POSITIVE_INFINITY): Promise<RevisionLine[]> => {
    const all = (await patiently(() => store.revisions(id))).slice(0, most)
    const lacking = all.flatMap(({ words }, index) => (words === null && index < all.length - 1 ? [index] : []))
    const made = new Map<number, readonly string[]>()
    const [first, last] = [lacking[0], lacking.at(-1)]
    if (first !== undefined && last !== undefined) {
      // From the oldest that lacks them to the newest, so that each text is read once.
      const chain = all.slice(first, last + 2).reverse()
      const { bytes } = await shelf.now()
      const texts = chain.map(({ revision }) => store.revisionText(id, revision) ?? '')
      const words = await work.run('changes', { shelf: bytes, texts }, { plan: id })
      for (const [index, { revision }] of chain.slice(1).entries()) {
        made.set(revision, words[index] ?? [])
        await patiently(() => store.keepWords(id, revision, words[index] ?? []))
      }
    }
    return all.map(({ revision, saved, name, words }) => ({
      revision,
      saved,
      name,
      words: words ?? made.get(revision) ?? [],
    }))
  }

  routes.get('/plans/:id/revisions', async (request, response) => {
    const id = String(request.params.id)
    const lines = await linesOf(id)
    if (lines.length === 0 && !(await patiently(() => store.get(id))))
      throw missing(`there is no plan "${id.slice(0, 80)}"`)
    response.json(lines)
  })

  routes.get('/plans/:id/past', async (request, response) => {
    const id = String(request.params.id)
    const steps = Number(request.query.steps ?? 20)
    if (!Number.isInteger(steps) || steps < 1 || steps > MOST_STEPS)
      throw new HttpProblem(400, 'Bad request', `steps: expected a whole number from 1 to ${MOST_STEPS}`)
    const lines = await linesOf(id, steps + 1)
    if (lines.length === 0) throw missing(`there is no plan "${id.slice(0, 80)}"`)
    const { bytes } = await shelf.now()
    const past: string[] = []
    // Each step holds the plan as it was before, and says what was done then; one that cannot be read ends the past.
    for (const [index, after] of lines.slice(0, -1).entries()) {
      const { revision } = lines[index + 1]!
      const text = await patiently(() => store.revisionText(id, revision))
      const read =
        text === undefined
          ? undefined
          : await work.run('open', { shelf: bytes, text, title: `revision ${revision}` }, { plan: id })
      if (!read?.ok) break
      const [first = `revision ${after.revision}`, ...more] = after.words
      const label = more.length > 0 ? `${first}, and ${more.length} more` : first
      past.unshift(`{"label":${JSON.stringify(label)},"plan":${read.value}}`)
    }
    response.type('json').send(`{"revision":${lines[0]!.revision},"steps":[${past.join(',')}]}`)
  })

  routes.get('/plans/:id/revisions/:revision', async (request, response) => {
    const id = String(request.params.id)
    const revision = numberOf(request)
    const text = await patiently(() => store.revisionText(id, revision))
    if (text === undefined) throw missing(`revision ${revision} of this plan is not kept`)
    const { bytes } = await shelf.now()
    const read = await work.run('open', { shelf: bytes, text, title: `revision ${revision}` }, { plan: id })
    if (!read.ok)
      throw new HttpProblem(409, 'The kept text is damaged', `revision ${revision} cannot be read`, {
        kind: 'damaged',
        problems: read.problems,
        text,
        revision,
      })
    response.type('json').send(`{"revision":${revision},"plan":${read.value}}`)
  })

  routes.put('/plans/:id/revisions/:revision/name', async (request, response) => {
    const body = v.safeParse(Name, request.body)
    if (!body.success) throw new HttpProblem(400, 'Bad request', 'expected { name } of at most 100 letters')
    const { name } = body.output
    const revision = numberOf(request)
    const named = await patiently(() =>
      store.nameRevision(String(request.params.id), revision, name === '' ? null : name),
    )
    if (!named) throw missing(`revision ${revision} of this plan is not kept`)
    response.status(204).end()
  })

  routes.get('/bin', async (request, response) => {
    const all = await patiently(() => store.bin())
    const roleIn = access.rolesFor(request)
    response.json(all.filter(({ id }) => roleIn(id) === 'owner') satisfies BinPlan[])
  })

  routes.post('/bin/:id/restore', async (request, response) => {
    access.need(request, 'owner', String(request.params.id))
    const plan = await patiently(() => store.restore(String(request.params.id)))
    if (!plan) throw missing('the bin has no such plan')
    summaries.written(plan.id)
    events.tell({ type: 'plan', id: plan.id, revision: plan.revision })
    response.status(201).set('Location', `/api/plans/${plan.id}`).json({ id: plan.id, revision: plan.revision })
  })

  routes.delete('/bin/:id', async (request, response) => {
    access.need(request, 'owner', String(request.params.id))
    if (!(await patiently(() => store.forget(String(request.params.id))))) throw missing('the bin has no such plan')
    response.status(204).end()
  })
  return routes
}
