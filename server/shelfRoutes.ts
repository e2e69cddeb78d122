import { type Request, Router } from 'express'
import * as v from 'valibot'
import type { EntryKind } from '../core/catalog/ownEntry.ts'
import type { Access } from './access.ts'
import type { Events } from './events.ts'
import { revisionToSaveOver } from './ifMatch.ts'
import { HttpProblem } from './problem.ts'
import type { EntryLine, Shelf } from './shelf.ts'
import type { PlanStore } from './store.ts'
import { patiently } from './storeTrouble.ts'
import type { Work } from './work/pool.ts'

const Body = v.strictObject({ text: v.string() })
const singular = { boards: 'board', parts: 'part' } as const

interface Parts {
  readonly access: Access
  readonly store: PlanStore
  readonly shelf: Shelf
  readonly work: Work
  readonly events: Events
}

/** The catalogue over HTTP: boards and parts, and the maker's own entries with `If-Match`. */
export function shelfRoutes({ access, store, shelf, work, events }: Parts): Router {
  const routes = Router()
  const kindOf = (request: Request): EntryKind => {
    const kind = String(request.params.kind)
    if (kind === 'boards' || kind === 'parts') return kind
    throw new HttpProblem(404, 'No such kind', `"${kind.slice(0, 80)}" is no kind of entry; expected boards or parts`)
  }
  const missing = (kind: EntryKind, id: string): HttpProblem =>
    new HttpProblem(404, `No such ${singular[kind]}`, `the catalogue has no ${singular[kind]} "${id.slice(0, 80)}"`)
  /** Plans that whoever asks may see, in which an entry is used. */
  const plansWith = async (request: Request, kind: EntryKind, id: string): Promise<{ id: string; title: string }[]> => {
    const roleIn = access.rolesFor(request)
    return (await patiently(() => store.plansWith(kind, id))).filter((plan) => roleIn(plan.id) !== undefined)
  }
  const own = async (kind: EntryKind, id: string): Promise<EntryLine & { revision: number }> => {
    const line = (await shelf.now()).lines.find((one) => one.kind === kind && one.id === id)
    if (!line) {
      // A stored entry that does not hold any more is not on the shelf, and can still be mended or deleted.
      const stored = await patiently(() => store.shelf.get(kind, id))
      if (stored) return { ...stored, title: id, file: undefined }
      if (shelf.isShipped(kind, id))
        throw new HttpProblem(
          403,
          'Not yours',
          `${id} ships with the application; copy it under another id to change it`,
        )
      throw missing(kind, id)
    }
    const { revision } = line
    if (revision === undefined)
      throw new HttpProblem(403, 'A file', `${id} comes from the file ${line.file}; change or delete it there`)
    return { ...line, revision }
  }
  const textOf = (request: Request): string => {
    const body = v.safeParse(Body, request.body)
    if (!body.success) throw new HttpProblem(400, 'Bad request', 'expected { text } with the entry as YAML')
    return body.output.text
  }
  const taken = (id: string): HttpProblem =>
    new HttpProblem(409, 'Id taken', `the id "${id}" is taken; expected another id`)
  /** The id in a text that holds as an entry; anything else is said with line and column. */
  const readId = async (kind: EntryKind, text: string): Promise<string> => {
    const read = await shelf.read(kind, text)
    if (read.ok) return read.id
    throw new HttpProblem(422, 'Not a valid entry', read.said.join('\n'), { problems: read.problems })
  }
  const changed = async (): Promise<void> => {
    await shelf.changed()
    events.tell({ type: 'shelf' })
  }
  const listed = (kind: EntryKind) =>
    routes
      .get(`/${kind}`, async (_request, response) => {
        const { bytes } = await shelf.now()
        response.type('json').send(await work.run('catalogue', { shelf: bytes, kind }))
      })
      .get(`/${kind}/:id`, async (request, response) => {
        const { bytes } = await shelf.now()
        const { id } = request.params
        const one = await work.run('catalogue', { shelf: bytes, kind, id })
        if (one === undefined) throw missing(kind, id)
        response.type('json').send(one)
      })
  listed('boards')
  listed('parts')

  routes.get('/catalog', async (_request, response) => {
    response.type('json').send((await shelf.now()).asText)
  })

  routes.get('/entries', async (_request, response) => {
    const { lines, problems } = await shelf.now()
    response.json({ entries: lines, problems })
  })
  routes.get('/entries/:kind/:id/file', async (request, response) => {
    const kind = kindOf(request)
    const text = await shelf.yaml(kind, request.params.id)
    if (text === undefined) throw missing(kind, request.params.id)
    response.type('application/yaml').attachment(`${request.params.id}.yaml`).send(text)
  })
  /** Plans in which an entry is used, whosever it is. */
  routes.get('/entries/:kind/:id/plans', async (request, response) => {
    const kind = kindOf(request)
    const { id } = request.params
    if (!shelf.isShipped(kind, id)) await own(kind, id)
    response.json(await plansWith(request, kind, id))
  })
  routes.post('/entries/:kind', async (request, response) => {
    const kind = kindOf(request)
    const text = textOf(request)
    const id = await readId(kind, text)
    const { lines } = await shelf.now()
    if (shelf.isShipped(kind, id) || lines.some((one) => one.kind === kind && one.id === id)) throw taken(id)
    const made = await patiently(() => store.shelf.create(kind, id, text))
    if (!made) throw taken(id)
    await changed()
    response.status(201).set('ETag', `"${made.revision}"`).set('Location', `/api/entries/${kind}/${id}/file`).json(made)
  })
  routes.put('/entries/:kind/:id', async (request, response) => {
    const kind = kindOf(request)
    const before = await own(kind, request.params.id)
    const revision = revisionToSaveOver(request)
    const text = textOf(request)
    const id = await readId(kind, text)
    if (id !== before.id)
      throw new HttpProblem(422, 'Not a valid entry', `id: the text says "${id}"; expected "${before.id}"`)
    const saved = await patiently(() => store.shelf.save(kind, id, revision, text))
    if (!saved)
      throw new HttpProblem(
        412,
        'Changed elsewhere',
        `the entry is at revision ${before.revision} and not at ${revision < 0 ? 'what If-Match names' : revision}`,
        { current: before },
      )
    await changed()
    response.set('ETag', `"${saved.revision}"`).json(saved)
  })
  /** An entry that plans use is deleted only by who knows it: `?used=known`. */
  routes.delete('/entries/:kind/:id', async (request, response) => {
    const { kind, id } = await own(kindOf(request), request.params.id)
    const plans = await plansWith(request, kind, id)
    if (plans.length > 0 && request.query.used !== 'known')
      throw new HttpProblem(
        409,
        'In use',
        `${id} is used in ${plans.length === 1 ? '1 plan' : `${plans.length} plans`}: ${plans
          .slice(0, 5)
          .map((one) => one.title)
          .join(
            ', ',
          )}${plans.length > 5 ? ' …' : ''}. They carry a copy of it and stay as they are; delete it with ?used=known`,
        { plans },
      )
    await patiently(() => store.shelf.delete(kind, id))
    await changed()
    response.status(204).end()
  })
  return routes
}
