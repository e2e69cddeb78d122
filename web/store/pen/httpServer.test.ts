import { expect, it } from 'vitest'
import { planOf } from '../../../core/testing/plans.ts'
import { httpServer } from './httpServer.ts'

const plan = planOf({ parts: { A: 'led' } })
const answering = (status: number, body: unknown) => {
  const asked: [string, RequestInit | undefined][] = []
  const server = httpServer(async (url, init) => {
    asked.push([url, init])
    if (status === 0) throw new TypeError('Failed to fetch')
    return new Response(typeof body === 'string' ? body : JSON.stringify(body), { status })
  })
  return { server, asked }
}

it.each([
  [
    'saved',
    200,
    { revision: 5, plan, savedBy: 't-1', id: 'x' },
    { is: 'saved', stored: { revision: 5, plan, savedBy: 't-1' } },
  ],
  [
    'changed elsewhere',
    412,
    { current: { revision: 7, plan, savedBy: 'o-1' } },
    { is: 'conflict', current: { revision: 7, plan, savedBy: 'o-1' } },
  ],
  ['deleted', 404, { detail: 'no such plan' }, { is: 'trouble', trouble: { kind: 'gone', text: 'no such plan' } }],
  [
    'disk full',
    507,
    { detail: 'full', kind: 'disk-full' },
    { is: 'trouble', trouble: { kind: 'disk-full', text: 'full' } },
  ],
  [
    'read-only',
    503,
    { detail: 'ro', kind: 'read-only' },
    { is: 'trouble', trouble: { kind: 'read-only', text: 'ro' } },
  ],
  ['locked', 503, { detail: 'busy', kind: 'in-use' }, { is: 'trouble', trouble: { kind: 'in-use', text: 'busy' } }],
  [
    'not valid',
    422,
    { detail: 'title: too long' },
    { is: 'trouble', trouble: { kind: 'refused', text: 'title: too long' } },
  ],
  ['a fault of the server', 500, { detail: 'wrong' }, { is: 'trouble', trouble: { kind: 'disk', text: 'wrong' } }],
  ['nobody', 0, '', { is: 'trouble', trouble: { kind: 'server-away', text: 'the server does not answer' } }],
  [
    'something else that answers',
    502,
    '<html>',
    { is: 'trouble', trouble: { kind: 'server-away', text: 'the server does not answer' } },
  ],
])('a save: %s', async (_, status, body, expected) => {
  const { server, asked } = answering(status, body)
  expect(await server.save('a b', 4, plan, 't-1')).toEqual(expected)
  expect(asked[0]).toEqual([
    '/api/plans/a%20b',
    expect.objectContaining({
      method: 'PUT',
      headers: expect.objectContaining({ 'If-Match': '"4"', 'Save-Token': 't-1' }),
    }),
  ])
})

it.each([
  ['there', 200, { revision: 5, plan }, { is: 'loaded', stored: { revision: 5, plan, savedBy: null } }],
  ['not there', 404, {}, { is: 'missing' }],
  [
    'damaged',
    409,
    { kind: 'damaged', text: 'torn', revision: 3, problems: [] },
    { is: 'damaged', text: 'torn', revision: 3, problems: [] },
  ],
  ['busy', 503, { detail: 'busy' }, { is: 'failed', text: 'busy' }],
  ['nobody', 0, '', { is: 'failed', text: 'the server does not answer; is it still running?' }],
])('a plan that is %s', async (_, status, body, expected) => {
  expect(await answering(status, body).server.load('x')).toEqual(expected)
})
