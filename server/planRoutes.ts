import { type Request, type Response, Router } from 'express'
import * as v from 'valibot'
import type { Outcome, Problem } from '../core/base/problem.ts'
import { formatProblem } from '../core/base/problem.ts'
import { SCHEMA_FILE, withSchemaLine } from '../core/plan/schemaLine.ts'
import type { PlanLine, PlanPage, SampleLine } from '../core/rules/answers.ts'
import { type SheetFormat, sheetFormats } from '../core/sheets/output.ts'
import type { Access } from './access.ts'
import { linesOf, readLines } from './answers.ts'
import type { Events } from './events.ts'
import { revisionNamed, revisionToSaveOver } from './ifMatch.ts'
import { HttpProblem } from './problem.ts'
import type { Sample } from './samples.ts'
import type { Shelf } from './shelf.ts'
import type { PlanStore } from './store.ts'
import type { StoredPlan } from './storedPlan.ts'
import { patiently } from './storeTrouble.ts'
import type { Summaries } from './summaries.ts'
import type { Work } from './work/pool.ts'
import { fold, type KeepRequest, type Kept } from './work/tasks.ts'

const Create = v.union([
  v.strictObject({ title: v.pipe(v.string(), v.trim(), v.nonEmpty(), v.maxLength(200)) }),
  v.strictObject({ sample: v.string() }),
  v.strictObject({ text: v.string(), file: v.optional(v.pipe(v.string(), v.maxLength(300))) }),
  v.strictObject({ plan: v.unknown() }),
])
const Save = v.union([v.strictObject({ plan: v.unknown() }), v.strictObject({ text: v.string() })])
const Assign = v.strictObject({ seconds: v.optional(v.pipe(v.number(), v.minValue(0.1), v.maxValue(20))) })

/** Lines of the list that one request gets when it does not say, and at most. */
const PAGE = 100
const MOST_LINES = 500

interface Parts {
  readonly access: Access
  readonly store: PlanStore
  readonly shelf: Shelf
  readonly samples: readonly Sample[]
  readonly work: Work
  readonly events: Events
  readonly summaries: Summaries
}

/** Plans over HTTP: list, make, open, save with `If-Match`, copy, delete, and files. */
export function planRoutes({ access, store, shelf, samples, work, events, summaries }: Parts): Router {
  const routes = Router()

  const found = async (request: Request): Promise<StoredPlan> => {
    const id = String(request.params.id)
    const plan = await patiently(() => store.get(id))
    if (!plan)
      throw new HttpProblem(404, 'No such plan', `there is no plan "${id.slice(0, 80)}"; it may have been deleted`)
    return plan
  }
  const keep = async (request: Omit<KeepRequest, 'shelf'>, plan?: string): Promise<Kept> => {
    const { bytes } = await shelf.now()
    return valid(await work.run('keep', { shelf: bytes, ...request }, { plan }))
  }
  /** What is kept is not what can be read: named, with the text, so that it can be mended. */
  const readable = <T>(stored: StoredPlan, read: Outcome<T>): T => {
    if (read.ok) return read.value
    throw new HttpProblem(
      409,
      'The kept text is damaged',
      `this plan cannot be read: ${read.problems.map(formatProblem).join('; ')}`,
      { kind: 'damaged', problems: read.problems, text: stored.text, revision: stored.revision },
    )
  }
  const open = async (stored: StoredPlan): Promise<string> => {
    const { bytes } = await shelf.now()
    return readable(
      stored,
      await work.run('open', { shelf: bytes, text: stored.text, title: stored.title }, { plan: stored.id }),
    )
  }
  const answer = ({ id, revision, created, changed, savedBy }: StoredPlan, plan: string): string =>
    `${JSON.stringify({ id, revision, created, changed, savedBy }).slice(0, -1)},"plan":${plan}}`
  const send = (response: Response, stored: StoredPlan, plan: string, status = 200): void => {
    response.status(status).set('ETag', `"${stored.revision}"`).type('json').send(answer(stored, plan))
  }
  const written = ({ id, revision }: StoredPlan): void => {
    summaries.written(id)
    events.tell({ type: 'plan', id, revision })
  }
  const create = async (request: Request, response: Response, kept: Kept, savedBy?: string): Promise<void> => {
    const stored = await patiently(() => store.create({ ...kept, savedBy }, access.sessionOf(request)?.who))
    written(stored)
    response.set('Location', `/api/plans/${stored.id}`)
    send(response, stored, kept.plan, 201)
  }

  routes.get('/samples', (_request, response) => {
    response.json(samples.map(({ id, title, notes }): SampleLine => ({ id, title, notes })))
  })

  routes.get('/plans', async (request, response) => {
    const { limit, offset } = request.query
    const sort = request.query.sort === 'title' ? 'title' : 'changed'
    const words = fold(text(request.query.q)).split(/\s+/).filter(Boolean).slice(0, 8)
    const page = { limit: whole('limit', limit, PAGE, 1, MOST_LINES), offset: whole('offset', offset, 0, 0, 1e9) }
    await summaries.settled()
    const roleIn = access.rolesFor(request)
    const withRole = (line: PlanLine): PlanLine => ({ ...line, role: roleIn(line.id) ?? 'viewer' })
    // Who may not see all sees the plans that are theirs or shared with them, wherever in the list they stand.
    if (!access.seesAll(request)) {
      const all = await patiently(() => store.list({ offset: 0, limit: store.count(), sort, words }))
      const own = all.lines.filter(({ id }) => roleIn(id) !== undefined)
      const shown = own.slice(page.offset, page.offset + page.limit)
      response.set('Total-Count', String(own.length)).json(shown.map(withRole) satisfies PlanPage['lines'])
      return
    }
    const { total, lines } = await patiently(() => store.list({ ...page, sort, words }))
    response.set('Total-Count', String(total)).json(lines.map(withRole) satisfies PlanPage['lines'])
  })

  routes.post('/plans', async (request, response) => {
    const body = v.safeParse(Create, request.body)
    if (!body.success) throw new HttpProblem(400, 'Bad request', 'expected { title }, { sample }, { text } or { plan }')
    const from = sourceOf(body.output, samples)
    // What is new or shipped gets a number where a plan is called so; a file keeps the name that its maker gave it.
    const named = 'title' in from ? from.title : 'sample' in body.output && 'file' in from ? from.file : undefined
    const title = named === undefined ? undefined : await patiently(() => store.freeTitle(named))
    await create(request, response, await keep({ from, ...(title === named ? {} : { title }) }), saveToken(request))
  })

  routes.get('/plans/:id', async (request, response) => {
    const stored = await found(request)
    if (request.get('If-None-Match') === `"${stored.revision}"`) {
      response.status(304).set('ETag', `"${stored.revision}"`).end()
      return
    }
    send(response, stored, await open(stored))
  })

  routes.put('/plans/:id', async (request, response) => {
    const before = await found(request)
    const revision = revisionToSaveOver(request)
    const body = v.safeParse(Save, request.body)
    if (!body.success) throw new HttpProblem(400, 'Bad request', 'expected { plan } or { text }')
    const changedElsewhere = async (current: StoredPlan): Promise<never> => {
      throw new HttpProblem(
        412,
        'Changed elsewhere',
        `the plan is at revision ${current.revision}, saved at ${current.changed}, and not at ${revision < 0 ? 'what If-Match names' : revision}`,
        {
          current: {
            revision: current.revision,
            changed: current.changed,
            savedBy: current.savedBy,
            plan: JSON.parse(await open(current)) as unknown,
          },
        },
      )
    }
    if (before.revision !== revision) return changedElsewhere(before)
    const kept = await keep(
      'text' in body.output
        ? { from: { text: body.output.text, file: 'the plan', misfits: 'set-aside' } }
        : { from: body.output, before: before.text },
      before.id,
    )
    const savedBy = saveToken(request)
    const saved = await patiently(() => store.save(before.id, revision, { ...kept, savedBy }))
    if (!saved.ok) return changedElsewhere(saved.current ?? (await found(request)))
    written(saved.plan)
    send(response, saved.plan, kept.plan)
  })

  routes.delete('/plans/:id', async (request, response) => {
    const { id, revision } = await found(request)
    const named = revisionNamed(request)
    const done = await patiently(() => store.delete(id, named))
    if (done === 'changed')
      throw new HttpProblem(
        412,
        'Changed elsewhere',
        `the plan is at revision ${revision} and not at ${named === undefined || named < 0 ? 'what If-Match names' : named}; look at it again before it is deleted`,
      )
    events.tell({ type: 'plan-deleted', id })
    response.status(204).end()
  })

  routes.post('/plans/:id/copy', async (request, response) => {
    const stored = await found(request)
    readable(stored, { ok: true, value: await open(stored) })
    const title = await patiently(() => store.freeTitle(`${[...stored.title].slice(0, 190).join('')} (copy)`))
    const kept = await keep({ from: { text: stored.text, file: stored.title, misfits: 'set-aside' }, title })
    await create(request, response, kept)
  })

  routes.post('/plans/:id/answers', readLines, async (request, response) => {
    const { id } = await found(request)
    const lines = linesOf(request)
    events.tell({ type: 'answers', id, lines })
    response.json({ lines: lines.length, pages: events.listening })
  })

  routes.get('/plans/:id/file', async (request, response) => {
    const stored = await found(request)
    response
      .type('application/yaml')
      .attachment(`${fileName(stored.title)}.markpost.yaml`)
      // Editors complete what the schema says, as long as this server is there.
      .send(withSchemaLine(stored.text, `${request.protocol}://${request.get('Host')}/${SCHEMA_FILE}`))
  })

  routes.post('/plans/:id/assign', async (request, response) => {
    const body = v.safeParse(Assign, request.body ?? {})
    if (!body.success) throw new HttpProblem(400, 'Bad request', 'expected { } or { seconds } of 0.1 to 20')
    const stored = await found(request)
    const milliseconds = (body.output.seconds ?? 8) * 1000
    const { bytes } = await shelf.now()
    const answered = await work.run(
      'assign',
      { shelf: bytes, text: stored.text, milliseconds },
      { within: milliseconds + 10_000 },
    )
    response.type('json').send(readable(stored, answered))
  })

  routes.get('/plans/:id/sheet', async (request, response) => {
    const stored = await found(request)
    const as = sheetFormats.find((one) => one === request.query.as)
    if (!as)
      throw new HttpProblem(
        400,
        'Bad request',
        `as: "${text(request.query.as).slice(0, 40)}" is no format; expected csv, markdown, html, svg or json`,
      )
    const { bytes } = await shelf.now()
    const answered = await work.run('sheet', {
      shelf: bytes,
      text: stored.text,
      as,
      only: request.query.only === undefined ? undefined : text(request.query.only),
      paper: request.query.paper === 'Letter' ? 'Letter' : 'A4',
      revision: stored.revision,
    })
    if ('wrong' in answered) throw new HttpProblem(400, 'Bad request', `only: ${answered.wrong}`)
    const { body, pages } = readable(stored, answered)
    const { type, ending } = sheetFiles[as]
    response.type(type)
    if (as !== 'json')
      response.attachment(`${fileName(stored.title)}${pages?.length === 1 ? `-${pages[0]}` : ''}.${ending}`)
    response.send(body)
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

function sourceOf(body: v.InferOutput<typeof Create>, samples: readonly Sample[]): KeepRequest['from'] {
  if ('title' in body || 'plan' in body) return body
  if ('text' in body) return { text: body.text, file: body.file ?? 'the plan', misfits: 'refuse' }
  const sample = samples.find((one) => one.id === body.sample)
  if (!sample)
    throw new HttpProblem(
      404,
      'No such sample',
      `there is no such sample; expected one of ${samples.map((one) => one.id).join(', ')}`,
    )
  return { text: sample.text, file: sample.title, misfits: 'refuse' }
}

function valid<T>(outcome: Outcome<T>): T {
  if (outcome.ok) return outcome.value
  throw invalid(outcome.problems)
}

const invalid = (problems: readonly Problem[]): HttpProblem =>
  new HttpProblem(422, 'Not a valid plan', problems.map(formatProblem).join('\n'), { problems })

/** The first text of a query's value. */
const text = (value: unknown): string => {
  const first: unknown = Array.isArray(value) ? value[0] : value
  return typeof first === 'string' ? first.slice(0, 1000) : ''
}

function whole(name: string, value: unknown, usual: number, least: number, most: number): number {
  if (value === undefined) return usual
  const number = Number(text(value) || Number.NaN)
  if (!Number.isInteger(number) || number < least)
    throw new HttpProblem(
      400,
      'Bad request',
      `${name}: "${text(value).slice(0, 40)}" is no count; expected a whole number from ${least}`,
    )
  return Math.min(number, most)
}

/** The token by which a page knows its own save again when the answer was lost. */
const saveToken = (request: Request): string | undefined => {
  const token = request.get('Save-Token')
  return token !== undefined && /^[\w-]{1,80}$/.test(token) ? token : undefined
}

/** A file name from a title: letters, digits and hyphens. */
const fileName = (title: string): string =>
  title
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase()
    .slice(0, 60) || 'plan'
