import { type Request, type Response, Router } from 'express'
import * as v from 'valibot'
import { assignJson } from '../core/assign/assignJson.ts'
import { assignChoosing } from '../core/assign/choosing.ts'
import type { Catalog } from '../core/catalog/catalog.ts'
import { emptyPlan, lostRefs, Plan } from '../core/plan/planSchema.ts'
import { bindPlan, readPlan } from '../core/plan/readPlan.ts'
import { writePlan } from '../core/plan/writePlan.ts'
import { summarise } from '../core/rules/summary.ts'
import { pagesNamed, SheetError, type SheetFormat, sheetFormats, writeSheet } from '../core/sheets/output.ts'
import { formatProblem, type Problem } from '../core/text/problem.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { HttpProblem } from './problem.ts'
import type { Sample } from './samples.ts'
import type { Shelf } from './shelf.ts'
import type { PlanStore, StoredPlan } from './store.ts'

const Create = v.union([
  v.strictObject({ title: v.pipe(v.string(), v.trim(), v.nonEmpty(), v.maxLength(200)) }),
  v.strictObject({ sample: v.string() }),
  v.strictObject({ text: v.string(), file: v.optional(v.string()) }),
  v.strictObject({ plan: v.unknown() }),
])
const Save = v.strictObject({ plan: v.unknown() })
const Assign = v.strictObject({ seconds: v.optional(v.pipe(v.number(), v.minValue(0.1), v.maxValue(20))) })

interface Parts {
  readonly store: PlanStore
  readonly shelf: Shelf
  readonly samples: readonly Sample[]
}

/** Plans over HTTP: list, make, open, save with `If-Match`, copy, delete, and files. */
export function planRoutes({ store, shelf, samples }: Parts): Router {
  const routes = Router()

  const found = (request: Request): StoredPlan => {
    const plan = store.get(String(request.params.id))
    if (!plan)
      throw new HttpProblem(
        404,
        'No such plan',
        `there is no plan "${String(request.params.id)}"; it may have been deleted`,
      )
    return plan
  }
  const planOf = (stored: StoredPlan): Plan => {
    const read = readPlan(stored.text, stored.title, shelf.catalog)
    if (read.ok) return read.value
    throw new HttpProblem(409, 'Plan does not fit the catalogue', read.problems.map(formatProblem).join('; '))
  }
  const send = (response: Response, stored: StoredPlan, status = 200): void => {
    const { id, revision, created, changed } = stored
    response
      .status(status)
      .set('ETag', `"${revision}"`)
      .json({ id, revision, created, changed, plan: planOf(stored) })
  }
  const create = (plan: Plan, text: string): StoredPlan =>
    store.create(plan.title, text, summarise(resolve(plan, shelf.catalog)))

  routes.get('/samples', (_request, response) => {
    response.json(samples.map(({ id, title, notes }) => ({ id, title, notes })))
  })

  routes.get('/plans', (_request, response) => {
    response.json(
      store.list().map(({ id, title, revision, created, changed, summary }) => ({
        id,
        title,
        revision,
        created,
        changed,
        summary,
      })),
    )
  })

  routes.post('/plans', (request, response) => {
    const body = v.safeParse(Create, request.body)
    if (!body.success) throw new HttpProblem(400, 'Bad request', 'expected { title }, { sample }, { text } or { plan }')
    const { plan, text } = newPlan(body.output, shelf.catalog, samples)
    const stored = create(plan, text)
    response.set('Location', `/api/plans/${stored.id}`)
    send(response, stored, 201)
  })

  routes.get('/plans/:id', (request, response) => {
    const stored = found(request)
    if (request.get('If-None-Match') === `"${stored.revision}"`) {
      response.status(304).set('ETag', `"${stored.revision}"`).end()
      return
    }
    send(response, stored)
  })

  routes.put('/plans/:id', (request, response) => {
    const before = found(request)
    const match = request.get('If-Match')
    if (match === undefined)
      throw new HttpProblem(428, 'If-Match is missing', 'a save must name the revision that it changes in If-Match')
    const body = v.safeParse(Save, request.body)
    if (!body.success) throw new HttpProblem(400, 'Bad request', 'expected { plan }')
    const plan = validPlan(body.output.plan, shelf.catalog)
    const known = Number(/^"(\d+)"$/.exec(match)?.[1] ?? Number.NaN)
    const saved = store.save(
      before.id,
      known,
      plan.title,
      writePlan(plan, shelf.catalog, before.text),
      summarise(resolve(plan, shelf.catalog)),
    )
    if (saved.ok) return send(response, saved.plan)
    const current = saved.current ?? found(request)
    throw new HttpProblem(
      412,
      'Changed elsewhere',
      `the plan is at revision ${current.revision}, saved at ${current.changed}, and not at ${match}`,
      { current: { revision: current.revision, changed: current.changed, plan: planOf(current) } },
    )
  })

  routes.delete('/plans/:id', (request, response) => {
    store.delete(found(request).id)
    response.status(204).end()
  })

  routes.post('/plans/:id/copy', (request, response) => {
    const stored = found(request)
    const plan = { ...planOf(stored), title: `${stored.title.slice(0, 190)} (copy)` }
    const copy = create(plan, writePlan(plan, shelf.catalog, stored.text))
    response.set('Location', `/api/plans/${copy.id}`)
    send(response, copy, 201)
  })

  routes.get('/plans/:id/file', (request, response) => {
    const stored = found(request)
    response
      .type('application/yaml')
      .attachment(`${fileName(stored.title)}.markpost.yaml`)
      .send(stored.text)
  })

  routes.post('/plans/:id/assign', (request, response) => {
    const body = v.safeParse(Assign, request.body ?? {})
    if (!body.success) throw new HttpProblem(400, 'Bad request', 'expected { } or { seconds } of 0.1 to 20')
    const start = performance.now()
    const end = start + (body.output.seconds ?? 8) * 1000
    const wiring = resolve(planOf(found(request)), shelf.catalog)
    const result = assignChoosing(wiring, { shouldStop: () => performance.now() > end })
    const milliseconds = Math.round((performance.now() - start) * 10) / 10
    response.json({ ...assignJson(wiring, result, milliseconds), edits: result.edits })
  })

  routes.get('/plans/:id/sheet', (request, response) => {
    const stored = found(request)
    const as = sheetFormats.find((one) => one === request.query.as)
    if (!as)
      throw new HttpProblem(
        400,
        'Bad request',
        `as: "${String(request.query.as ?? '')}" is no format; expected csv, markdown, html, svg or json`,
      )
    try {
      const only = request.query.only === undefined ? undefined : pagesNamed(String(request.query.only))
      const paper = request.query.paper === 'Letter' ? 'Letter' : 'A4'
      const text = writeSheet(resolve(planOf(stored), shelf.catalog), as, { only, revision: stored.revision, paper })
      const name = `${fileName(stored.title)}${only?.length === 1 ? `-${only[0]}` : ''}`
      const { type, ending } = sheetFiles[as]
      response.type(type)
      if (as !== 'json') response.attachment(`${name}.${ending}`)
      response.send(text)
    } catch (error) {
      if (error instanceof SheetError) throw new HttpProblem(400, 'Bad request', `only: ${error.message}`)
      throw error
    }
  })
  return routes
}

const sheetFiles: Readonly<Record<SheetFormat, { readonly type: string; readonly ending: string }>> = {
  csv: { type: 'text/csv', ending: 'csv' },
  markdown: { type: 'text/markdown', ending: 'md' },
  html: { type: 'html', ending: 'html' },
  svg: { type: 'image/svg+xml', ending: 'svg' },
  json: { type: 'json', ending: 'json' },
}

function newPlan(
  body: v.InferOutput<typeof Create>,
  catalog: Catalog,
  samples: readonly Sample[],
): { plan: Plan; text: string } {
  if ('title' in body) {
    const plan = emptyPlan(body.title)
    return { plan, text: writePlan(plan, catalog) }
  }
  if ('plan' in body) {
    const plan = validPlan(body.plan, catalog)
    return { plan, text: writePlan(plan, catalog) }
  }
  const given = 'sample' in body ? samples.find((one) => one.id === body.sample) : body
  if (!given)
    throw new HttpProblem(
      404,
      'No such sample',
      `there is no such sample; expected one of ${samples.map((one) => one.id).join(', ')}`,
    )
  const text = given.text
  const read = readPlan(text, 'file' in given && given.file !== undefined ? given.file : 'the plan', catalog)
  if (!read.ok) throw invalid(read.problems)
  return { plan: read.value, text: writePlan(read.value, catalog, text) }
}

function validPlan(value: unknown, catalog: Catalog): Plan {
  const lost = lostRefs(value)[0]
  if (lost)
    throw invalid([
      {
        file: 'plan',
        path: [...lost.section, lost.ref].join('.'),
        message: `"${lost.ref}" is a reserved word; expected another reference`,
      },
    ])
  const shaped = v.safeParse(Plan, value)
  if (!shaped.success) {
    const issue = shaped.issues[0]
    throw invalid([
      { file: 'plan', path: (issue.path ?? []).map((item) => String(item.key)).join('.'), message: issue.message },
    ])
  }
  const bound = bindPlan(shaped.output, catalog)
  if (!bound.ok) throw invalid(bound.problems)
  return bound.value
}

const invalid = (problems: readonly Problem[]): HttpProblem =>
  new HttpProblem(422, 'Not a valid plan', problems.map(formatProblem).join('\n'), { problems })

/** A file name from a title: letters, digits and hyphens. */
const fileName = (title: string): string =>
  title
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase()
    .slice(0, 60) || 'plan'
