import { sheetFormats } from '../core/sheets/output.ts'
import { pageNames } from '../core/sheets/pages.ts'

import planSchema from '../docs/plan.schema.json' with { type: 'json' }

const problem = {
  description: 'Problem (RFC 9457)',
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
}
const json = (description: string, schema: object, headers?: object) => ({
  description,
  content: { 'application/json': { schema } },
  ...(headers ? { headers } : {}),
})
const etag = { ETag: { description: 'Revision in quotes', schema: { type: 'string' } } }
const stored = json('The plan', { $ref: '#/components/schemas/StoredPlan' }, etag)
const id = { name: 'id', in: 'path', required: true, schema: { type: 'string' } }
const revision = { name: 'revision', in: 'path', required: true, schema: { type: 'integer', minimum: 1 } }
const kind = { name: 'kind', in: 'path', required: true, schema: { enum: ['boards', 'parts'] } }
const entry = json('The entry', { $ref: '#/components/schemas/StoredEntry' }, etag)
const entryBody = {
  required: true,
  content: {
    'application/json': {
      schema: { type: 'object', required: ['text'], properties: { text: { type: 'string' } } },
    },
  },
}
const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` })
const listOf = (description: string, name: string) => json(description, { type: 'array', items: ref(name) })
/** Objects whose facts are those of the catalogue, which has a description of its own. */
const entries = (name: string) => json(name, { type: 'array', items: { type: 'object', required: ['id', 'title'] } })
const text = { type: 'string' }
const whole = { type: 'integer' }
const fields = (required: Readonly<Record<string, object>>, optional: Readonly<Record<string, object>> = {}) => ({
  type: 'object',
  required: Object.keys(required),
  properties: { ...required, ...optional },
})
const role = { enum: ['owner', 'editor', 'viewer'] }
const orNull = (schema: object) => ({ oneOf: [schema, { type: 'null' }] })
/** Fields of every change that must name the revision it was made from. */
const ifMatch = { name: 'If-Match', in: 'header', required: true, schema: text }

const described = {
  openapi: '3.1.0',
  info: {
    title: 'Mark Post',
    version: '1',
    description: 'Plans of wiring, their checks and sheets. Served on the loopback address only.',
  },
  paths: {
    '/api/catalog': {
      get: {
        summary: 'Boards and parts with all their facts',
        responses: { 200: json('The catalogue', { type: 'object' }) },
      },
    },
    '/api/boards': { get: { summary: 'Boards with functions expanded', responses: { 200: entries('Boards') } } },
    '/api/boards/{id}': {
      get: {
        summary: 'One board',
        parameters: [id],
        responses: { 200: json('Board', { type: 'object' }), 404: problem },
      },
    },
    '/api/parts': { get: { summary: 'Parts', responses: { 200: entries('Parts') } } },
    '/api/parts/{id}': {
      get: {
        summary: 'One part',
        parameters: [id],
        responses: { 200: json('Part', { type: 'object' }), 404: problem },
      },
    },
    '/api/entries': {
      get: {
        summary: 'Entries of the maker’s own, and what keeps broken ones off the shelf',
        responses: { 200: json('Entries and problems', ref('Entries')) },
      },
    },
    '/api/entries/{kind}': {
      post: {
        summary: 'Add a board or part of one’s own from YAML',
        parameters: [kind],
        requestBody: entryBody,
        responses: { 201: entry, 400: problem, 404: problem, 409: problem, 413: problem, 422: problem },
      },
    },
    '/api/entries/{kind}/{id}': {
      put: {
        summary: 'Save an entry over the revision named in If-Match',
        parameters: [kind, id, ifMatch],
        requestBody: entryBody,
        responses: {
          200: entry,
          400: problem,
          403: problem,
          404: problem,
          412: problem,
          413: problem,
          422: problem,
          428: problem,
        },
      },
      delete: {
        summary: 'Delete an entry of one’s own; 409 names the plans that use it, unless the query says used=known',
        parameters: [kind, id, { name: 'used', in: 'query', schema: { enum: ['known'] } }],
        responses: { 204: { description: 'Deleted' }, 403: problem, 404: problem, 409: problem },
      },
    },
    '/api/entries/{kind}/{id}/file': {
      get: {
        summary: 'Any entry of the catalogue as YAML',
        parameters: [kind, id],
        responses: {
          200: { description: 'YAML', content: { 'application/yaml': { schema: { type: 'string' } } } },
          404: problem,
        },
      },
    },
    '/api/entries/{kind}/{id}/plans': {
      get: {
        summary: 'Plans in which an entry is used',
        parameters: [kind, id],
        responses: {
          200: json('Plans', { type: 'array', items: fields({ id: text, title: text }) }),
          403: problem,
          404: problem,
        },
      },
    },
    '/api/events': {
      get: {
        summary: 'What changes, as server-sent events',
        description:
          'Each event is one JSON object: { type: "plan", id, revision }, { type: "plan-deleted", id }, { type: "rights" }, { type: "shelf" }, { type: "anything" } after another program wrote to the database, { type: "summaries", done, of }.',
        responses: {
          200: { description: 'Events', content: { 'text/event-stream': { schema: { type: 'string' } } } },
          204: { description: 'Too many listen already' },
        },
      },
    },
    '/api/state': {
      get: {
        summary: 'What the server is at',
        responses: {
          200: json('How far the making of summaries is', fields({ summaries: fields({ done: whole, of: whole }) })),
        },
      },
    },
    '/api/openapi.json': { get: { summary: 'This document', responses: { 200: json('OpenAPI', { type: 'object' }) } } },
    '/api/samples': {
      get: { summary: 'Plans that ship with the application', responses: { 200: listOf('Samples', 'SampleLine') } },
    },
    '/api/plans': {
      get: {
        summary: 'A page of the list of plans, with their summaries',
        parameters: [
          { name: 'limit', in: 'query', schema: { type: 'integer', minimum: 1, maximum: 500, default: 100 } },
          { name: 'offset', in: 'query', schema: { type: 'integer', minimum: 0, default: 0 } },
          { name: 'sort', in: 'query', schema: { enum: ['changed', 'title'], default: 'changed' } },
          { name: 'q', in: 'query', description: 'Words that stand in title or boards.', schema: { type: 'string' } },
        ],
        responses: {
          200: json(
            'Plans; the summary is null while it is made, or when the plan cannot be read',
            { type: 'array', items: ref('PlanLine') },
            { 'Total-Count': { description: 'Plans on all pages', schema: { type: 'integer' } } },
          ),
          400: problem,
          503: problem,
        },
      },
      post: {
        summary: 'Make a plan: empty, from a sample, from a plan file, or from a plan',
        requestBody: {
          required: true,
          content: {
            'application/json': {
              schema: {
                oneOf: [
                  fields({ title: text }),
                  fields({ sample: text }),
                  fields({ text }, { file: text }),
                  fields({ plan: ref('Plan') }),
                ],
              },
            },
          },
        },
        responses: { 201: stored, 400: problem, 404: problem, 413: problem, 422: problem },
      },
    },
    '/api/plans/{id}': {
      get: {
        summary: 'Open a plan',
        description: 'A kept text that cannot be read is answered with 409, the problems and the text itself.',
        parameters: [id],
        responses: {
          200: stored,
          304: { description: 'Not changed', headers: etag },
          404: problem,
          409: problem,
          503: problem,
        },
      },
      put: {
        summary: 'Save a plan over the revision named in If-Match',
        description:
          'Nothing is kept that does not read back (422). A Save-Token is answered as savedBy with the revision that it made, so that a save whose answer was lost is known again.',
        parameters: [id, ifMatch, { name: 'Save-Token', in: 'header', schema: { type: 'string', maxLength: 80 } }],
        requestBody: {
          required: true,
          content: {
            'application/json': {
              schema: {
                oneOf: [
                  {
                    type: 'object',
                    required: ['plan'],
                    properties: { plan: { $ref: '#/components/schemas/Plan' } },
                  },
                  { type: 'object', required: ['text'], properties: { text: { type: 'string' } } },
                ],
              },
            },
          },
        },
        responses: {
          200: stored,
          400: problem,
          404: problem,
          412: problem,
          413: problem,
          422: problem,
          428: problem,
          503: problem,
          507: problem,
        },
      },
      delete: {
        summary: 'Delete a plan; with If-Match that revision only',
        parameters: [id, { name: 'If-Match', in: 'header', schema: { type: 'string' } }],
        responses: { 204: { description: 'Deleted' }, 404: problem, 412: problem, 503: problem },
      },
    },
    '/api/plans/{id}/others': {
      put: {
        summary: 'What those may do with a plan who come by a phrase: for whoever made it or sits at the server',
        parameters: [id],
        requestBody: {
          required: true,
          content: { 'application/json': { schema: fields({ others: { enum: ['editor', 'viewer', 'none'] } }) } },
        },
        responses: { 204: { description: 'Kept' }, 400: problem, 403: problem, 404: problem },
      },
    },
    '/api/plans/{id}/copy': {
      post: {
        summary: 'Duplicate a plan',
        parameters: [id],
        responses: { 201: stored, 404: problem, 409: problem, 422: problem, 503: problem },
      },
    },
    '/api/plans/{id}/past': {
      get: {
        summary: 'The last steps of a plan, the oldest first: the plan before each, and what was done',
        parameters: [id, { name: 'steps', in: 'query', schema: { type: 'integer', minimum: 1, maximum: 50 } }],
        responses: {
          200: json(
            'The steps',
            fields({ revision: whole, steps: { type: 'array', items: fields({ label: text, plan: ref('Plan') }) } }),
          ),
          400: problem,
          404: problem,
        },
      },
    },
    '/api/plans/{id}/revisions': {
      get: {
        summary: 'Revisions of a plan that are kept, the newest first, with what changed in words',
        parameters: [id],
        responses: { 200: listOf('Revisions', 'RevisionLine'), 404: problem, 503: problem },
      },
    },
    '/api/plans/{id}/revisions/{revision}': {
      get: {
        summary: 'A plan as it was',
        parameters: [id, revision],
        responses: {
          200: json('The plan', fields({ revision: whole, plan: ref('Plan') })),
          404: problem,
          409: problem,
        },
      },
    },
    '/api/plans/{id}/revisions/{revision}/name': {
      put: {
        summary: 'Name a revision, so that it is kept; an empty name takes it away',
        parameters: [id, revision],
        requestBody: {
          required: true,
          content: {
            'application/json': {
              schema: { type: 'object', required: ['name'], properties: { name: { type: 'string', maxLength: 100 } } },
            },
          },
        },
        responses: { 204: { description: 'Named' }, 400: problem, 404: problem },
      },
    },
    '/api/session': {
      get: {
        summary: 'What this caller may do',
        responses: { 200: json('Role, and plans with which it is another', ref('WhoAmI')) },
      },
      post: {
        summary: 'Sign in with the phrase of a shared server',
        requestBody: {
          required: true,
          content: {
            'application/json': {
              schema: { type: 'object', required: ['phrase'], properties: { phrase: { type: 'string' } } },
            },
          },
        },
        responses: {
          200: json('Signed in', fields({ signedIn: { type: 'boolean' } })),
          400: problem,
          401: problem,
          404: problem,
          429: problem,
        },
      },
    },
    '/api/share': {
      get: {
        summary: 'Addresses and phrases for whoever sits at the server; with a plan its links, for whoever made it too',
        parameters: [{ name: 'plan', in: 'query', schema: { type: 'string' } }],
        responses: { 200: json('Sharing', ref('Sharing')), 403: problem },
      },
    },
    '/api/health': {
      get: {
        summary: 'Whether the server works and its database answers',
        responses: { 200: json('It does', fields({ state: { const: 'well' } })), 503: problem },
      },
    },
    '/api/archive': {
      get: {
        summary: 'All plans and own entries as one ZIP archive of plain text',
        parameters: [{ name: 'history', in: 'query', schema: { type: 'string' } }],
        responses: {
          200: {
            description: 'The archive',
            content: { 'application/zip': { schema: { type: 'string', format: 'binary' } } },
          },
          503: problem,
        },
      },
    },
    '/api/bin': {
      get: {
        summary: 'Plans that were deleted, the last first',
        responses: { 200: listOf('Deleted plans', 'BinPlan') },
      },
    },
    '/api/bin/{id}': {
      delete: {
        summary: 'Take a deleted plan away for good, with its history',
        parameters: [id],
        responses: { 204: { description: 'Gone' }, 404: problem },
      },
    },
    '/api/bin/{id}/restore': {
      post: {
        summary: 'Put a deleted plan back as it was',
        parameters: [id],
        responses: { 201: json('Its id and revision', fields({ id: text, revision: whole })), 404: problem },
      },
    },
    '/api/plans/{id}/answers': {
      post: {
        summary: 'Hands what a board says to the page at the bench',
        description:
          'Lines of the test program, at most 500 of at most 200 bytes each. They reach the open Bring-up page of the plan, which ticks its steps; nothing is kept here. `pages` is how many browsers listen.',
        parameters: [id],
        requestBody: {
          required: true,
          content: {
            'application/x-ndjson': { schema: { type: 'string' } },
            'application/json': {
              schema: {
                type: 'object',
                required: ['lines'],
                properties: { lines: { type: 'array', items: { type: 'string' } } },
              },
            },
          },
        },
        responses: {
          200: {
            description: 'Handed on',
            content: {
              'application/json': {
                schema: fields({ lines: whole, pages: whole }),
              },
            },
          },
          400: problem,
          404: problem,
          413: problem,
          415: problem,
          503: problem,
        },
      },
    },
    '/api/plans/{id}/assign': {
      post: {
        summary: 'Wires what is open, without saving it',
        description: 'The answer of `assign --json`, with the edits that carry it out.',
        parameters: [id],
        requestBody: {
          content: {
            'application/json': {
              schema: { type: 'object', properties: { seconds: { type: 'number', minimum: 0.1, maximum: 20 } } },
            },
          },
        },
        responses: {
          200: {
            description: 'The best answer found in the time given',
            content: {
              'application/json': {
                schema: ref('Assigned'),
              },
            },
          },
          400: problem,
          404: problem,
          409: problem,
          503: problem,
        },
      },
    },
    '/api/plans/{id}/file': {
      get: {
        summary: 'The plan file',
        parameters: [id],
        responses: {
          200: { description: 'YAML', content: { 'application/yaml': { schema: { type: 'string' } } } },
          404: problem,
        },
      },
    },
    '/api/plans/{id}/sheet': {
      get: {
        summary: 'Sheets of a plan',
        parameters: [
          id,
          { name: 'as', in: 'query', required: true, schema: { enum: sheetFormats } },
          {
            name: 'only',
            in: 'query',
            description: `One of ${pageNames.join(', ')}; as HTML several with commas between them.`,
            schema: { type: 'string' },
          },
          { name: 'paper', in: 'query', schema: { enum: ['A4', 'Letter'] } },
        ],
        responses: {
          200: { description: 'The sheet in the asked format' },
          400: problem,
          404: problem,
          409: problem,
          503: problem,
        },
      },
    },
  },
  components: {
    schemas: {
      Plan: planSchema,
      StoredPlan: fields(
        { id: text, revision: whole, created: text, changed: text, plan: ref('Plan') },
        { savedBy: { type: ['string', 'null'] } },
      ),
      PlanLine: fields(
        { id: text, title: text, revision: whole, created: text, changed: text, summary: orNull(ref('Summary')) },
        { role },
      ),
      Summary: fields(
        {
          boards: { type: 'array', items: text },
          parts: whole,
          placed: whole,
          needed: whole,
          counts: fields({ fault: whole, caution: whole, tip: whole }),
        },
        { stage: text, worst: orNull(fields({ severity: text, message: text })) },
      ),
      SampleLine: fields({ id: text, title: text, notes: text }),
      StoredEntry: fields({ kind: kind.schema, id: text, text, revision: whole }, { created: text, changed: text }),
      Entries: fields({
        entries: {
          type: 'array',
          items: fields({ kind: kind.schema, id: text, title: text }, { revision: whole, file: text }),
        },
        problems: { type: 'array', items: { type: 'object' } },
      }),
      RevisionLine: fields({
        revision: whole,
        saved: text,
        name: { type: ['string', 'null'] },
        words: { type: 'array', items: text },
      }),
      BinPlan: fields({ id: text, title: text, revision: whole, deleted: text }),
      WhoAmI: fields({
        signedIn: { type: 'boolean' },
        role: orNull(role),
        plans: { type: 'object', additionalProperties: role },
      }),
      Sharing: fields({
        shared: { type: 'boolean' },
        addresses: { type: 'array', items: text },
        phrases: orNull(fields({ editor: text, viewer: text })),
        others: { enum: ['editor', 'viewer', 'none'] },
        look: { type: 'array', items: text },
        change: { type: 'array', items: text },
      }),
      Assigned: fields({
        status: text,
        optimal: { type: 'boolean' },
        cost: { type: 'number' },
        bound: { type: 'number' },
        placed: { type: 'array', items: { type: 'object' } },
        unplaced: { type: 'array', items: { type: 'object' } },
        edits: { type: 'array', items: { type: 'object' } },
      }),
      Problem: fields({ type: text, title: text, status: whole, detail: text }),
    },
  },
}

/** `put /api/plans/{id}/revisions/{revision}/name`: `putPlanRevisionName`. */
function operationId(method: string, path: string): string {
  const words = path
    .replace(/\.json$/, '')
    .split('/')
    .slice(2)
    .filter((word) => word !== '')
  const named = words.flatMap((word, index): string[] => {
    if (word.startsWith('{')) return []
    const isOne = words[index + 1]?.startsWith('{') ?? false
    const name = isOne && word !== 'entries' ? word.replace(/s$/, '') : isOne ? 'entry' : word
    return [`${name[0]?.toUpperCase()}${name.slice(1)}`]
  })
  return `${method}${named.join('')}`
}

interface Operation {
  readonly operationId: string
  readonly responses: Readonly<Record<string, { readonly content?: Readonly<Record<string, { schema: object }>> }>>
}

/** The interface for programs, OpenAPI 3.1. The tests hold the server to it. */
export const openApi = {
  ...described,
  paths: Object.fromEntries(
    Object.entries(described.paths).map(([path, methods]) => [
      path,
      Object.fromEntries(
        Object.entries(methods as Record<string, Omit<Operation, 'operationId'>>).map(
          ([method, facts]): [string, Operation] => [method, { operationId: operationId(method, path), ...facts }],
        ),
      ),
    ]),
  ),
}
