import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Ajv from 'ajv/dist/2020.js'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { listen } from './listen.ts'
import { openApi } from './openApi.ts'

const data = mkdtempSync(join(tmpdir(), 'markpost-'))
const ownLamp = readFileSync('catalog/parts/led.yaml', 'utf8')
  .replace('id: led', 'id: own-lamp')
  .replace('title: LED', 'title: Own lamp')
  .replace('stem: LED', 'stem: OWNLAMP')
let base = ''
let close: () => Promise<void>
beforeAll(async () => {
  const running = await listen({ port: 0, data, logLevel: 'silent', threads: false })
  base = running.address
  close = running.close
})
afterAll(async () => {
  await close()
  rmSync(data, { recursive: true })
})

const send = (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) =>
  fetch(base + path, {
    method,
    headers: { ...(body === undefined ? {} : { 'Content-Type': 'application/json' }), ...headers },
    body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
  })
const create = async (body: unknown) => {
  const response = await send('POST', '/api/plans', body)
  return { response, stored: await response.json() }
}

describe('plans over HTTP', () => {
  it('gives equal names a number, and leaves the name of a file as it is', async () => {
    const titleOf = async (body: unknown): Promise<string> => (await create(body)).stored.plan.title
    expect([await titleOf({ title: 'Same' }), await titleOf({ title: 'same' })]).toEqual(['Same', 'same 2'])
    expect(await titleOf({ title: 'Same' })).toBe('Same 3')
    const long = 'x'.repeat(200)
    expect(await titleOf({ title: long })).toBe(long)
    expect(await titleOf({ title: long })).toBe(`${'x'.repeat(190)} 2`)
    expect(await titleOf({ text: 'markpost: 1\ntitle: Same\n' })).toBe('Same')
    const { stored } = await create({ title: 'Twin' })
    const copy = async (): Promise<string> =>
      (await (await send('POST', `/api/plans/${stored.id}/copy`)).json()).plan.title
    expect([await copy(), await copy()]).toEqual(['Twin (copy)', 'Twin (copy) 2'])
    for (const { id } of await (await send('GET', '/api/plans')).json()) await send('DELETE', `/api/plans/${id}`)
  })
  it('makes, opens, saves, copies, exports and deletes a plan', async () => {
    const { response, stored } = await create({ title: 'First' })
    expect([response.status, response.headers.get('etag')]).toEqual([201, '"1"'])
    expect(response.headers.get('location')).toBe(`/api/plans/${stored.id}`)
    const plan = { ...stored.plan, parts: { A: { part: 'led' } } }
    const saved = await send('PUT', `/api/plans/${stored.id}`, { plan }, { 'If-Match': '"1"' })
    expect([saved.status, saved.headers.get('etag')]).toEqual([200, '"2"'])
    expect((await send('GET', `/api/plans/${stored.id}`, undefined, { 'If-None-Match': '"2"' })).status).toBe(304)
    const copy = await (await send('POST', `/api/plans/${stored.id}/copy`)).json()
    expect(copy.plan.title).toBe('First (copy)')
    const file = await send('GET', `/api/plans/${stored.id}/file`)
    expect(file.headers.get('content-disposition')).toContain('first.markpost.yaml')
    expect(await file.text()).toContain('A: { part: led }')
    const list = await (await send('GET', '/api/plans')).json()
    expect(list.map((one: { title: string }) => one.title)).toEqual(['First (copy)', 'First'])
    // Made after the answers, and there when the list is asked for; also for what was saved once more.
    expect(list.map((one: { summary: { parts: number } | null }) => one.summary?.parts)).toEqual([1, 1])
    await send('PUT', `/api/plans/${copy.id}`, { plan: { ...copy.plan, parts: {} } }, { 'If-Match': '"1"' })
    const [again] = await (await send('GET', '/api/plans')).json()
    expect([again.title, again.summary.parts]).toEqual(['First (copy)', 0])
    expect((await send('DELETE', `/api/plans/${copy.id}`)).status).toBe(204)
    expect((await send('GET', `/api/plans/${copy.id}`)).status).toBe(404)
  })

  it('keeps the text of an imported file, comments included', async () => {
    const text = '# mine\nmarkpost: 1\ntitle: Kept\nparts:\n  A: {part: led} # lamp\n'
    const { stored } = await create({ text, file: 'kept.yaml' })
    await send(
      'PUT',
      `/api/plans/${stored.id}`,
      { plan: { ...stored.plan, title: 'Kept more' } },
      { 'If-Match': '"1"' },
    )
    const [first, ...lines] = (await (await send('GET', `/api/plans/${stored.id}/file`)).text()).split('\n')
    expect(first).toMatch(/plan\.schema\.json$/)
    expect(lines.join('\n')).toBe(text.replace('Kept', 'Kept more'))
  })

  it('lets nobody save over what they have not seen', async () => {
    const { stored } = await create({ title: 'Two tabs' })
    const save = (revision: string, title: string) =>
      send('PUT', `/api/plans/${stored.id}`, { plan: { ...stored.plan, title } }, { 'If-Match': revision })
    expect((await save('"1"', 'mine')).status).toBe(200)
    const late = await save('"1"', 'theirs')
    expect(late.status).toBe(412)
    expect(await late.json()).toMatchObject({
      title: 'Changed elsewhere',
      current: { revision: 2, plan: { title: 'mine' } },
    })
    expect((await send('PUT', `/api/plans/${stored.id}`, { plan: stored.plan })).status).toBe(428)
  })

  it.each([
    ['truncated YAML', { text: 'markpost: 1\ntitle: "x' }, 422, /the plan:2:\d+: not valid YAML/],
    ['wrong types', { text: 'markpost: 1\ntitle: [1]\n' }, 422, /title: expected text, found a list of 1/],
    [
      'an unknown part',
      { text: 'markpost: 1\ntitle: x\nparts: { A: { part: zzz } }' },
      422,
      /the catalogue has no part "zzz"/,
    ],
    ['a binary file', { text: 'PK\u0000\u0001' }, 422, /bytes that are not text/],
    [
      'a broken plan',
      { plan: { markpost: 1, title: 'x', wires: [['A.1', 'B.2']] } },
      422,
      /names no board, supply or part/,
    ],
    [
      'a reference that would be lost',
      { plan: { markpost: 1, title: 'x', parts: JSON.parse('{"constructor":{"part":"led"}}') } },
      422,
      /reserved word/,
    ],
    ['nothing known', { what: 1 }, 400, /expected \{ title \}/],
    ['an unknown sample', { sample: 'none' }, 404, /there is no such sample/],
    ['no JSON', '{', 400, /not valid JSON/],
    ['20 MB', { text: 'x'.repeat(20_000_000) }, 413, /too large/],
  ])('%s: one clear problem, and nothing is stored', async (_, body, status, detail) => {
    const count = (await (await send('GET', '/api/plans')).json()).length
    const response = await send('POST', '/api/plans', body)
    expect(response.headers.get('content-type')).toContain('application/problem+json')
    expect(response.status).toBe(status)
    const problem = await response.json()
    expect(problem).toMatchObject({ status })
    expect(problem.detail).toMatch(detail)
    expect((await (await send('GET', '/api/plans')).json()).length).toBe(count)
  })

  it('opens samples as copies, and prints them in every format', async () => {
    const [first] = await (await send('GET', '/api/samples')).json()
    const { stored } = await create({ sample: first.id })
    for (const [as, type] of [
      ['csv', 'text/csv'],
      ['markdown', 'text/markdown'],
      ['html', 'text/html'],
      ['svg', 'image/svg+xml'],
      ['json', 'application/json'],
    ]) {
      const sheet = await send('GET', `/api/plans/${stored.id}/sheet?as=${as}`)
      expect([sheet.status, sheet.headers.get('content-type')?.split(';')[0]]).toEqual([200, type])
    }
    expect((await send('GET', `/api/plans/${stored.id}/sheet?as=doc`)).status).toBe(400)
    expect((await send('GET', `/api/plans/${stored.id}/sheet?as=csv&only=x`)).status).toBe(400)
  })

  it('answers only to names of this machine', async () => {
    const status = await new Promise<number | undefined>((done) => {
      request(`${base}/api/plans`, { headers: { Host: 'elsewhere.example' } }, (response) =>
        done(response.statusCode),
      ).end()
    })
    expect(status).toBe(403)
  })
})

describe('entries of the maker’s own', () => {
  const own = ownLamp.replaceAll('own-lamp', 'attic-lamp').replace('OWNLAMP', 'ATTICLAMP')

  it('go on the shelf, into plans, and out again', async () => {
    const made = await send('POST', '/api/entries/parts', { text: own })
    expect([made.status, made.headers.get('etag')]).toEqual([201, '"1"'])
    expect((await send('POST', '/api/entries/parts', { text: own })).status).toBe(409)
    const loaded = await (await send('GET', '/api/catalog')).json()
    expect(loaded.own.parts['attic-lamp'].title).toBe('Own lamp')
    expect((await send('GET', '/api/parts/attic-lamp')).status).toBe(200)
    expect(await (await send('GET', '/api/entries/parts/attic-lamp/file')).text()).toBe(own)

    const carried = { markpost: 1, title: 'x', own: { parts: loaded.own.parts }, parts: { A: { part: 'attic-lamp' } } }
    const { stored } = await create({ plan: carried })
    const file = await (await send('GET', `/api/plans/${stored.id}/file`)).text()
    // An entry in use is not deleted by who does not know it.
    const refused = await send('DELETE', '/api/entries/parts/attic-lamp')
    expect([refused.status, await refused.json()]).toEqual([
      409,
      expect.objectContaining({
        detail: expect.stringContaining('used in 1 plan: x'),
        plans: [{ id: stored.id, title: 'x' }],
      }),
    ])
    expect(await (await send('GET', '/api/entries/parts/attic-lamp/plans')).json()).toEqual([
      { id: stored.id, title: 'x' },
    ])
    expect((await send('DELETE', '/api/entries/parts/attic-lamp?used=known')).status).toBe(204)
    expect((await send('GET', '/api/parts/attic-lamp')).status).toBe(404)
    // The file stands on its own, as does the plan that carries the entry.
    expect((await create({ text: file })).response.status).toBe(201)
    expect((await create({ plan: { ...carried, own: undefined } })).response.status).toBe(422)
  })

  it.each([
    ['parts', 'catalog: 1\nid: [', /^entry:2:\d+: not valid YAML/, 422],
    ['parts', own.replace('anode', 'K'), /entry:\d+:\d+: pins.0: alias K fits/, 422],
    [
      'parts',
      own.replace('pin: A, needs', 'pin: Z, needs'),
      /entry:\d+:\d+: signals: wiring names Z, which is no pin/,
      422,
    ],
    ['parts', own.replace('attic-lamp', 'led'), /the id "led" is taken/, 409],
    ['boards', own, /entry:1:1: mcu: /, 422],
    ['cables', own, /"cables" is no kind of entry/, 404],
  ])('%s, broken: one clear message and nothing is kept', async (kind, text, message, status) => {
    const answer = await send('POST', `/api/entries/${kind}`, { text })
    expect([answer.status, (await answer.json()).detail]).toEqual([status, expect.stringMatching(message)])
    expect((await (await send('GET', '/api/entries')).json()).entries).toEqual([])
  })

  it('are saved over the known revision only, and those that ship not at all', async () => {
    await send('POST', '/api/entries/parts', { text: own })
    const put = (id: string, text: string, match: string) =>
      send('PUT', `/api/entries/parts/${id}`, { text }, { 'If-Match': match })
    expect((await put('attic-lamp', own.replace('Own lamp', 'Lamp 2'), '"1"')).headers.get('etag')).toBe('"2"')
    expect((await put('attic-lamp', own, '"1"')).status).toBe(412)
    expect((await put('attic-lamp', own.replace('id: attic-lamp', 'id: other'), '"2"')).status).toBe(422)
    expect((await put('led', own, '"1"')).status).toBe(403)
    await send('DELETE', '/api/entries/parts/attic-lamp')
  })

  it('come from files in the data folder too; a broken file is said and left off', async () => {
    mkdirSync(join(data, 'catalog/parts'), { recursive: true })
    mkdirSync(join(data, 'catalog/boards'), { recursive: true })
    writeFileSync(join(data, 'catalog/parts/attic-lamp.yaml'), own)
    writeFileSync(join(data, 'catalog/parts/broken.yaml'), own.replace('category: light', 'category: flame'))
    const uno = readFileSync('catalog/boards/uno-r3.yaml', 'utf8')
    writeFileSync(join(data, 'catalog/boards/my-uno.yaml'), uno.replace('id: uno-r3', 'id: my-uno'))
    const { entries, problems } = await (await send('GET', '/api/entries')).json()
    expect(entries.map((one: { id: string }) => one.id)).toEqual(['attic-lamp', 'my-uno'])
    expect(problems.join()).toMatch(/broken\.yaml:\d+:\d+: category: .*"flame"/)
    expect((await send('GET', '/api/boards/my-uno')).status).toBe(200)
    expect((await send('DELETE', '/api/entries/parts/attic-lamp')).status).toBe(403)
    rmSync(join(data, 'catalog'), { recursive: true })
    await send('GET', '/api/entries')
  })
})

describe('the OpenAPI document', () => {
  it('describes what the server answers, path by path', async () => {
    const { stored } = await create({ title: 'For the document' })
    const ids: Record<string, string> = {
      '/api/boards/{id}': 'uno-r3',
      '/api/parts/{id}': 'led',
      '/api/entries/{kind}/{id}/file': 'led',
      '/api/entries/{kind}/{id}': 'own-lamp',
      '/api/entries/{kind}/{id}/plans': 'own-lamp',
    }
    const bodies: Record<string, unknown> = {
      'post /api/plans': { title: 'x' },
      'put /api/plans/{id}': { plan: stored.plan },
      'put /api/plans/{id}/revisions/{revision}/name': { name: 'first' },
      'put /api/plans/{id}/others': { others: 'viewer' },
      'post /api/plans/{id}/answers': { lines: ['{"step":"in:GATE.1","value":0}'] },
      'post /api/entries/{kind}': { text: ownLamp },
      'put /api/entries/{kind}/{id}': { text: ownLamp },
    }
    const ajv = new Ajv({ strict: false, allErrors: true, validateFormats: false })
    for (const [path, methods] of Object.entries(openApi.paths)) {
      for (const [method, facts] of Object.entries(methods)) {
        if (method === 'delete' || path === '/api/events' || path.startsWith('/api/bin/')) continue
        // Nobody signs in where nothing is shared: see access.test.ts.
        if (method === 'post' && path === '/api/session') continue
        const body = bodies[`${method} ${path}`]
        const url =
          path
            .replace('{kind}', 'parts')
            .replace('{revision}', '1')
            .replace('{id}', ids[path] ?? stored.id) + (path.endsWith('/sheet') ? '?as=csv' : '')
        const response = await send(method.toUpperCase(), url, body, method === 'put' ? { 'If-Match': '"1"' } : {})
        expect(Object.keys(facts.responses), `${method} ${path} answered ${response.status}`).toContain(
          String(response.status),
        )
        expect(response.status, `${method} ${path}`).toBeLessThan(300)
        const schema = facts.responses[response.status]?.content?.['application/json']?.schema
        if (schema) {
          // The answer is what the description says of it, to the field.
          const holds = ajv.compile({ ...schema, components: openApi.components })
          holds(await response.json())
          expect(holds.errors, `${method} ${path}`).toBe(null)
        }
        const unknown = await send(
          method.toUpperCase(),
          path.replace('{kind}', 'parts').replace('{revision}', '1').replace('{id}', 'nothing'),
          body,
          method === 'put' ? { 'If-Match': '"1"' } : {},
        )
        if (path.includes('{id}')) expect([404, unknown.status], `${method} ${path}`).toEqual([unknown.status, 404])
      }
    }
    expect((await send('GET', '/api/nothing')).status).toBe(404)
  })
})

describe('what editors ask for', () => {
  it('is named in the first line of a plan file, and there', async () => {
    const { stored } = await create({ title: 'Named' })
    const text = await (await send('GET', `/api/plans/${stored.id}/file`)).text()
    const [, address = ''] = /^# yaml-language-server: \$schema=(\S+)\n/.exec(text) ?? []
    const response = await fetch(address)
    expect([response.status, response.headers.get('access-control-allow-origin')]).toEqual([200, '*'])
    expect(await response.json()).toMatchObject({
      title: 'Mark Post plan, format version 1',
      required: ['markpost', 'title'],
    })
    for (const name of ['board', 'part', 'driver']) expect((await send('GET', `/${name}.schema.json`)).status).toBe(200)
    // A file that comes back keeps no address of the server that it came from longer than it must.
    const again = await create({ text })
    const back = await (await send('GET', `/api/plans/${again.stored.id}/file`)).text()
    expect(back.match(/yaml-language-server/g)).toHaveLength(1)
  })
})

describe('what was before', () => {
  it('is kept by revisions with their words, looked at, named, and gone back to', async () => {
    const { stored } = await create({ title: 'Then' })
    const url = `/api/plans/${stored.id}`
    const second = { ...stored.plan, boards: { MCU: { board: 'uno-r3' } }, parts: { LAMP: { part: 'led' } } }
    await send('PUT', url, { plan: second }, { 'If-Match': '"1"' })
    await send('PUT', url, { plan: { ...second, title: 'Now', parts: {} } }, { 'If-Match': '"2"' })
    const lines = await (await send('GET', `${url}/revisions`)).json()
    expect(lines.map(({ revision, words }: { revision: number; words: string[] }) => [revision, ...words])).toEqual([
      [3, 'title "Then" becomes "Now"', 'part LAMP removed'],
      [2, 'board MCU added (uno-r3)', 'part LAMP added (led)'],
      [1],
    ])
    const was = await (await send('GET', `${url}/revisions/2`)).json()
    expect(was.plan).toMatchObject({ title: 'Then', parts: { LAMP: { part: 'led' } } })
    expect((await send('PUT', `${url}/revisions/2/name`, { name: ' with the lamp ' })).status).toBe(204)
    expect((await (await send('GET', `${url}/revisions`)).json())[1].name).toBe('with the lamp')
    expect((await send('PUT', `${url}/revisions/2/name`, { name: '' })).status).toBe(204)
    expect((await (await send('GET', `${url}/revisions`)).json())[1].name).toBe(null)
    const back = await send('PUT', url, { plan: was.plan }, { 'If-Match': '"3"' })
    expect((await back.json()).plan.parts).toHaveProperty('LAMP')
    const { steps, revision } = await (await send('GET', `${url}/past?steps=2`)).json()
    expect([
      revision,
      ...steps.map(({ label, plan }: { label: string; plan: { title: string } }) => [label, plan.title]),
    ]).toEqual([
      4,
      ['title "Then" becomes "Now", and 1 more', 'Then'],
      ['title "Now" becomes "Then", and 1 more', 'Now'],
    ])
    expect((await send('GET', `${url}/past?steps=0`)).status).toBe(400)
    for (const path of ['99', '0', 'x', '1.5']) expect((await send('GET', `${url}/revisions/${path}`)).status).toBe(404)
    for (const body of [{}, { name: 7 }, { name: 'x'.repeat(101) }, { name: 'a', more: 1 }])
      expect((await send('PUT', `${url}/revisions/2/name`, body)).status).toBe(400)
  })
  it('a deleted plan lies in the bin, comes back with its history, and can be taken away for good', async () => {
    const { stored } = await create({ title: 'Gone' })
    const inBin = async (): Promise<string[]> =>
      (await (await send('GET', '/api/bin')).json()).map(({ title }: { title: string }) => title)
    await send('DELETE', `/api/plans/${stored.id}`)
    expect((await send('GET', `/api/plans/${stored.id}`)).status).toBe(404)
    expect(await inBin()).toContain('Gone')
    expect((await send('GET', `/api/plans/${stored.id}/revisions`)).status).toBe(200)
    const back = await send('POST', `/api/bin/${stored.id}/restore`)
    expect([back.status, await back.json()]).toEqual([201, { id: stored.id, revision: 2 }])
    expect((await (await send('GET', `/api/plans/${stored.id}`)).json()).plan.title).toBe('Gone')
    expect(await inBin()).not.toContain('Gone')
    await send('DELETE', `/api/plans/${stored.id}`)
    expect((await send('DELETE', `/api/bin/${stored.id}`)).status).toBe(204)
    expect(await inBin()).not.toContain('Gone')
    expect((await send('GET', `/api/plans/${stored.id}/revisions`)).status).toBe(404)
    for (const [method, path] of [
      ['POST', `/api/bin/${stored.id}/restore`],
      ['DELETE', `/api/bin/${stored.id}`],
    ] as const)
      expect((await send(method, path)).status).toBe(404)
  })
})

describe('answers of a board', () => {
  const post = (id: string, body: string, type = 'application/x-ndjson'): Promise<Response> =>
    fetch(`${base}/api/plans/${id}/answers`, { method: 'POST', body, headers: { 'Content-Type': type } })

  it('go on to the pages that listen, and nowhere else', async () => {
    const { stored } = await create({ title: 'At the bench' })
    const listening = await fetch(`${base}/api/events`)
    const reader = listening.body!.getReader()
    const sent = await post(stored.id, 'booting\n{"step":"in:GATE.1","value":0}\n\n')
    expect([sent.status, await sent.json()]).toEqual([200, { lines: 2, pages: expect.any(Number) }])
    let heard = ''
    while (!heard.includes('"answers"')) heard += new TextDecoder().decode((await reader.read()).value)
    await reader.cancel()
    expect(heard).toContain(
      `data: ${JSON.stringify({ type: 'answers', id: stored.id, lines: ['booting', '{"step":"in:GATE.1","value":0}'] })}`,
    )
    expect((await (await send('GET', `/api/plans/${stored.id}`)).json()).revision).toBe(1)
  })

  it.each<[string, string, string, number, string]>([
    ['another type', '{}', 'text/plain', 415, 'application/x-ndjson'],
    ['a form', 'a=1', 'application/x-www-form-urlencoded', 415, 'application/x-ndjson'],
    ['other JSON', '{"answers":[]}', 'application/json', 415, '{"lines": ["…"]}'],
    ['too many', '{}\n'.repeat(501), 'application/x-ndjson', 413, '501 lines; expected at most 500'],
    [
      'a long line',
      `{}\n${'x'.repeat(201)}`,
      'application/x-ndjson',
      400,
      'line 2 has 201 bytes; expected at most 200',
    ],
  ])('are refused with what was expected: %s', async (_, body, type, status, words) => {
    const { stored } = await create({ title: 'At the bench' })
    const refused = await post(stored.id, body, type)
    expect(refused.status).toBe(status)
    expect(JSON.stringify(await refused.json())).toContain(words.replaceAll('"', '\\"'))
    expect((await post(stored.id, `${'x'.repeat(200)}\n`)).status).toBe(200)
    expect((await post(stored.id, '{}\n'.repeat(500))).status).toBe(200)
  })
})

describe('the search over HTTP', () => {
  it('answers as the command line does, saves nothing, and refuses nonsense', async () => {
    const stored = (await (await send('POST', '/api/plans', { sample: 'mended-by-monday' })).json()) as {
      id: string
      revision: number
    }
    const made = await send('POST', `/api/plans/${stored.id}/assign`, { seconds: 5 })
    expect(made.status).toBe(200)
    expect(await made.json()).toMatchObject({ status: expect.any(String), optimal: true, edits: expect.any(Array) })
    expect(await (await send('GET', `/api/plans/${stored.id}`)).json()).toMatchObject({ revision: stored.revision })
    expect((await send('POST', `/api/plans/${stored.id}/assign`, { seconds: -1 })).status).toBe(400)
  })
})
