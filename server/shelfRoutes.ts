import { type Request, Router } from 'express'
import * as v from 'valibot'
import { boardJson, partJson } from '../core/catalog/entryJson.ts'
import type { EntryKind } from '../core/catalog/ownEntry.ts'
import { formatProblem } from '../core/text/problem.ts'
import { HttpProblem } from './problem.ts'
import type { EntryLine, Shelf } from './shelf.ts'

const Body = v.strictObject({ text: v.string() })
const singular = { boards: 'board', parts: 'part' } as const

/** The catalogue over HTTP: boards and parts, and the maker's own entries with `If-Match`. */
export function shelfRoutes(shelf: Shelf): Router {
  const routes = Router()
  const kindOf = (request: Request): EntryKind => {
    const kind = String(request.params.kind)
    if (kind === 'boards' || kind === 'parts') return kind
    throw new HttpProblem(404, 'No such kind', `"${kind}" is no kind of entry; expected boards or parts`)
  }
  const missing = (kind: EntryKind, id: string): HttpProblem =>
    new HttpProblem(404, `No such ${singular[kind]}`, `the catalogue has no ${singular[kind]} "${id}"`)
  const own = (kind: EntryKind, id: string): EntryLine => {
    const line = shelf.lines.find((one) => one.kind === kind && one.id === id)
    if (!line) {
      if (shelf.isShipped(kind, id))
        throw new HttpProblem(
          403,
          'Not yours',
          `${id} ships with the application; copy it under another id to change it`,
        )
      throw missing(kind, id)
    }
    if (line.revision === undefined)
      throw new HttpProblem(403, 'A file', `${id} comes from the file ${line.file}; change or delete it there`)
    return line
  }
  const textOf = (request: Request): string => {
    const body = v.safeParse(Body, request.body)
    if (!body.success) throw new HttpProblem(400, 'Bad request', 'expected { text } with the entry as YAML')
    return body.output.text
  }
  /** The id in a text that holds as an entry; anything else is said with line and column. */
  const readId = (kind: EntryKind, text: string, id: string | undefined): string => {
    const read = shelf.read(kind, text, id)
    if ('taken' in read) throw new HttpProblem(409, 'Id taken', `the id "${read.taken}" is taken; expected another id`)
    if (!read.ok)
      throw new HttpProblem(422, 'Not a valid entry', read.problems.map(formatProblem).join('\n'), {
        problems: read.problems,
      })
    const found = read.value.entry.id
    if (id !== undefined && found !== id)
      throw new HttpProblem(422, 'Not a valid entry', `id: the text says "${found}"; expected "${id}"`)
    return found
  }

  routes.get('/catalog', (_request, response) => {
    shelf.reload()
    response.type('json').send(shelf.asText)
  })
  routes.get('/boards', (_request, response) => {
    response.json([...shelf.catalog.boards.values()].map(boardJson))
  })
  routes.get('/boards/:id', (request, response) => {
    const board = shelf.catalog.boards.get(request.params.id)
    if (!board) throw missing('boards', request.params.id)
    response.json(boardJson(board))
  })
  routes.get('/parts', (_request, response) => {
    response.json([...shelf.catalog.parts.values()].map(partJson))
  })
  routes.get('/parts/:id', (request, response) => {
    const part = shelf.catalog.parts.get(request.params.id)
    if (!part) throw missing('parts', request.params.id)
    response.json(partJson(part))
  })

  routes.get('/entries', (_request, response) => {
    shelf.reload()
    response.json({ entries: shelf.lines, problems: shelf.problems })
  })
  routes.get('/entries/:kind/:id/file', (request, response) => {
    const kind = kindOf(request)
    const text = shelf.yaml(kind, request.params.id)
    if (text === undefined) throw missing(kind, request.params.id)
    response.type('application/yaml').attachment(`${request.params.id}.yaml`).send(text)
  })
  routes.post('/entries/:kind', (request, response) => {
    const kind = kindOf(request)
    const text = textOf(request)
    const id = readId(kind, text, undefined)
    const made = shelf.add(kind, id, text)
    response.status(201).set('ETag', `"${made.revision}"`).set('Location', `/api/entries/${kind}/${id}/file`).json(made)
  })
  routes.put('/entries/:kind/:id', (request, response) => {
    const kind = kindOf(request)
    const before = own(kind, request.params.id)
    const match = request.get('If-Match')
    if (match === undefined)
      throw new HttpProblem(428, 'If-Match is missing', 'a save must name the revision that it changes in If-Match')
    const text = textOf(request)
    readId(kind, text, before.id)
    const saved = shelf.save(kind, before.id, Number(/^"(\d+)"$/.exec(match)?.[1] ?? Number.NaN), text)
    if (!saved)
      throw new HttpProblem(
        412,
        'Changed elsewhere',
        `the entry is at revision ${before.revision} and not at ${match}`,
        {
          current: before,
        },
      )
    response.set('ETag', `"${saved.revision}"`).json(saved)
  })
  routes.delete('/entries/:kind/:id', (request, response) => {
    const kind = kindOf(request)
    shelf.remove(kind, own(kind, request.params.id).id)
    response.status(204).end()
  })
  return routes
}
