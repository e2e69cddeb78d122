import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { listen } from './listen.ts'

const data = mkdtempSync(join(tmpdir(), 'markpost-'))
let base = ''
let close: () => Promise<void>
const start = async (): Promise<void> => {
  const running = await listen({ port: 0, data, logLevel: 'silent', threads: false })
  base = running.address
  close = running.close
}
beforeAll(start)
afterAll(async () => {
  await close()
  rmSync(data, { recursive: true })
})

const send = (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) =>
  fetch(base + path, {
    method,
    headers: { ...(body === undefined ? {} : { 'Content-Type': 'application/json' }), ...headers },
    body: body === undefined ? undefined : JSON.stringify(body),
  })
const made = async (body: unknown) => (await send('POST', '/api/plans', body)).json()
const row = (sql: string, ...values: unknown[]): unknown => {
  const db = new Database(join(data, 'markpost.db'))
  try {
    return db.prepare(sql).run(...values)
  } finally {
    db.close()
  }
}
const lamp = readFileSync('catalog/parts/led.yaml', 'utf8')
  .replace('id: led', 'id: own-lamp')
  .replace('stem: LED', 'stem: OWNLAMP')

describe('written means readable', () => {
  const hostile: [string, (plan: object) => object, RegExp][] = [
    [
      'a letter that stands for lost bytes',
      (plan) => ({ ...plan, title: 'x \uFFFD' }),
      /title: the text holds characters/,
    ],
    ['half of a pair of surrogates', (plan) => ({ ...plan, title: 'x \uD83D' }), /title: the text holds characters/],
    ['a zero byte', (plan) => ({ ...plan, notes: 'x \0' }), /notes: the text holds characters/],
    [
      'a text over the limit',
      (plan) => ({
        ...plan,
        accepted: Array.from({ length: 9000 }, (_, n) => ({
          rule: 'boot-strap',
          at: [`MCU.GPIO${n}`],
          because: 'x'.repeat(90),
        })),
      }),
      /characters; expected at most 1,000,000/,
    ],
    [
      'a reserved word as option',
      (plan) => ({ ...plan, parts: { A: { part: 'led', options: JSON.parse('{"constructor":1}') } } }),
      /parts\.A\.options\.constructor: .*reserved word/,
    ],
    [
      'an inherited name as option',
      (plan) => ({ ...plan, parts: { A: { part: 'led', options: { toString: 1 } } } }),
      /no option "toString"/,
    ],
    [
      'an inherited name as wire',
      (plan) => ({ ...plan, wires: [['toString.A', 'valueOf.B']] }),
      /names no board, supply or part/,
    ],
    [
      'nesting without end',
      (plan) => ({ ...plan, own: { parts: { x: JSON.parse('['.repeat(80) + ']'.repeat(80)) }, boards: {} } }),
      /deep/,
    ],
  ]
  it.each(hostile)('%s: 422 with reason and place, and nothing is kept', async (_, spoil, said) => {
    const stored = await made({ title: 'Sound' })
    for (const [method, path] of [
      ['PUT', `/api/plans/${stored.id}`],
      ['POST', '/api/plans'],
    ] as const) {
      const answer = await send(method, path, { plan: spoil(stored.plan) }, { 'If-Match': '"1"' })
      expect([answer.status, (await answer.json()).detail]).toEqual([
        expect.toSatisfy((one) => one === 422 || one === 400),
        expect.stringMatching(said),
      ])
    }
    const now = await send('GET', `/api/plans/${stored.id}`)
    expect([now.status, (await now.json()).revision]).toEqual([200, 1])
  })

  it.each([
    ['a value with a tag', 'markpost: 1\ntitle: x\nparts: { A: { part: !!float led } }\n'],
    [
      'names for values, of which one is taken away',
      'markpost: 1\ntitle: x\nparts:\n  A: &lamp { part: led }\n  B: *lamp\n',
    ],
    [
      'an odd indent',
      'markpost:   1\ntitle:   "x"\nparts:\n        A:   { part:   led }\n        B:   { part: led }\n',
    ],
    ['JSON', '{"markpost":1,"title":"x","parts":{"A":{"part":"led"},"B":{"part":"led"}}}'],
    ['another end of lines', 'markpost: 1\r\ntitle: x\r\nparts:\r\n  A: { part: led }\r\n  B: { part: led }\r\n'],
  ])('%s: whatever is taken can be changed, saved and opened', async (_, text) => {
    const answer = await send('POST', '/api/plans', { text })
    expect(answer.status).toBe(201)
    const stored = await answer.json()
    const { A: _gone, ...parts } = { B: { part: 'button' }, ...stored.plan.parts }
    const plan = { ...stored.plan, parts }
    const saved = await send('PUT', `/api/plans/${stored.id}`, { plan }, { 'If-Match': '"1"' })
    expect(saved.status).toBe(200)
    expect((await (await send('GET', `/api/plans/${stored.id}`)).json()).plan).toEqual(plan)
  })

  it('.inf and like numbers are refused where they enter', async () => {
    const answer = await send('POST', '/api/plans', {
      text: 'markpost: 1\ntitle: x\nsupplies: { P: { volts: .inf } }\n',
    })
    expect([answer.status, (await answer.json()).detail]).toEqual([
      422,
      'the plan:3:25: supplies.P.volts: expected a finite number, found Infinity',
    ])
  })
})

describe('a plan outlives its catalogue', () => {
  it('opens after its entry is gone, and carries entries that it uses by itself', async () => {
    await send('POST', '/api/entries/parts', { text: lamp })
    const carried = await made({ text: 'markpost: 1\ntitle: carried\nparts: { L: { part: own-lamp } }\n' })
    expect(carried.plan.own.parts).toHaveProperty('own-lamp')
    // One that was saved before plans carried their entries.
    const bare = await made({ title: 'bare' })
    row(
      'UPDATE plans SET text = ? WHERE id = ?',
      'markpost: 1\ntitle: bare\nparts: { L: { part: own-lamp }, R: { part: resistor } }\nwires: [[L.A, R.1]]\n',
      bare.id,
    )
    await send('DELETE', '/api/entries/parts/own-lamp?used=known')
    expect((await (await send('GET', `/api/plans/${carried.id}`)).json()).plan.parts.L.part).toBe('own-lamp')
    const opened = await send('GET', `/api/plans/${bare.id}`)
    expect(opened.status).toBe(200)
    const { plan } = await opened.json()
    expect([Object.keys(plan.parts), plan.aside.map((one: { at: string[] }) => one.at.join('.'))]).toEqual([
      ['R'],
      ['parts.L', 'wires'],
    ])
    const saved = await send(
      'PUT',
      `/api/plans/${bare.id}`,
      { plan: { ...plan, title: 'bare, changed' } },
      { 'If-Match': '"1"' },
    )
    expect(saved.status).toBe(200)
    expect((await send('GET', `/api/plans/${bare.id}/sheet?as=csv`)).status).toBe(200)
    await send('POST', '/api/entries/parts', { text: lamp })
    const whole = (await (await send('GET', `/api/plans/${bare.id}`)).json()).plan
    expect([whole.aside, whole.wires]).toEqual([undefined, [['L.A', 'R.1']]])
    await send('DELETE', '/api/entries/parts/own-lamp?used=known')
  })

  it('a kept text that cannot be read is named, offered, and can be mended; the rest works', async () => {
    const stored = await made({ title: 'Torn' })
    row("UPDATE plans SET text = 'markpost: 1\ntitle: [', summary = 'nonsense' WHERE id = ?", stored.id)
    const answer = await send('GET', `/api/plans/${stored.id}`)
    expect([answer.status, await answer.json()]).toEqual([
      409,
      expect.objectContaining({
        kind: 'damaged',
        text: 'markpost: 1\ntitle: [',
        detail: expect.stringMatching(/Torn:2:9: not valid YAML/),
      }),
    ])
    expect(await (await send('GET', `/api/plans/${stored.id}/file`)).text()).toMatch(/\nmarkpost: 1\ntitle: \[$/)
    await close()
    await start()
    const list = await (await send('GET', '/api/plans')).json()
    expect(list.find((one: { id: string }) => one.id === stored.id)).toMatchObject({ title: 'Torn', summary: null })
    const mended = await send(
      'PUT',
      `/api/plans/${stored.id}`,
      { text: 'markpost: 1\ntitle: Mended\n' },
      { 'If-Match': '"1"' },
    )
    expect([mended.status, (await mended.json()).plan.title]).toEqual([200, 'Mended'])
  })
})

describe('who saved what', () => {
  it('a save whose answer was lost is known again by its token', async () => {
    const stored = await made({ title: 'Token' })
    const put = (token: string) =>
      send('PUT', `/api/plans/${stored.id}`, { plan: stored.plan }, { 'If-Match': '"1"', 'Save-Token': token })
    expect(await (await put('mine-1')).json()).toMatchObject({ revision: 2, savedBy: 'mine-1' })
    expect(await (await put('mine-2')).json()).toMatchObject({
      status: 412,
      current: { savedBy: 'mine-1', revision: 2 },
    })
  })

  it('DELETE keeps to If-Match', async () => {
    const stored = await made({ title: 'Kept' })
    expect((await send('DELETE', `/api/plans/${stored.id}`, undefined, { 'If-Match': '"9"' })).status).toBe(412)
    expect((await send('GET', `/api/plans/${stored.id}`)).status).toBe(200)
    expect((await send('DELETE', `/api/plans/${stored.id}`, undefined, { 'If-Match': '"1"' })).status).toBe(204)
  })

  it('tells every page what changes, also what another program wrote', async () => {
    const stop = new AbortController()
    const response = await fetch(`${base}/api/events`, { signal: stop.signal })
    const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader()
    let heard = ''
    const until = async (what: string): Promise<void> => {
      while (!heard.includes(what)) heard += (await reader.read()).value ?? ''
    }
    const stored = await made({ title: 'Heard' })
    await until(`{"type":"plan","id":"${stored.id}","revision":1}`)
    await send('DELETE', `/api/plans/${stored.id}`)
    await until('plan-deleted')
    row("UPDATE plans SET title = title || '!'")
    await until('"anything"')
    stop.abort()
  })
})

describe('nothing stops the server', () => {
  it('a pipe, a folder and a link to nowhere among the entry files are said', async () => {
    const parts = join(data, 'catalog/parts')
    mkdirSync(join(parts, 'folder.yaml'), { recursive: true })
    execFileSync('mkfifo', [join(parts, 'pipe.yaml')])
    execFileSync('ln', ['-s', 'nowhere', join(parts, 'link.yaml')])
    const { problems } = await (await send('GET', '/api/entries')).json()
    expect(problems.join('\n')).toMatch(
      /folder\.yaml: not a file[\s\S]*link\.yaml: there is no such file[\s\S]*pipe\.yaml: not a file/,
    )
    rmSync(join(data, 'catalog'), { recursive: true })
  })

  it.each([
    ['GET', '/api/plans?limit=no'],
    ['GET', '/api/plans?offset=-1'],
    ['GET', '/api/plans?limit[toString]=1&q[]=a'],
    ['GET', `/api/plans/${'x'.repeat(5000)}`],
    ['GET', '/api/plans/constructor/sheet?as=toString'],
    ['GET', '/api/parts/toString'],
    ['GET', '/api/entries/parts/constructor/file'],
    ['GET', '/api/plans/%E0%A4%A'],
    ['DELETE', '/api/entries/parts/__proto__'],
  ])('%s %s is answered in words', async (method, path) => {
    const { status } = await send(method, path)
    expect(status).toBeGreaterThanOrEqual(200)
    expect(status).toBeLessThan(500)
  })

  it('brackets without end are refused before anybody reads them', async () => {
    const response = await fetch(`${base}/api/plans`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: `{"plan":${'['.repeat(500_000)}`,
    })
    expect([response.status, (await response.json()).detail]).toEqual([400, expect.stringContaining('100 deep')])
  })

  it('two servers on one folder: each sees what the other saved, and nobody saves over it', async () => {
    const second = await listen({ port: 0, data, logLevel: 'silent', threads: false })
    const stored = await made({ title: 'Shared' })
    const there = (method: string, body?: unknown) =>
      fetch(`${second.address}/api/plans/${stored.id}`, {
        method,
        headers: { 'Content-Type': 'application/json', 'If-Match': '"1"' },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      })
    expect((await there('GET')).status).toBe(200)
    const plan = { ...stored.plan, title: 'Saved by the first' }
    expect((await send('PUT', `/api/plans/${stored.id}`, { plan }, { 'If-Match': '"1"' })).status).toBe(200)
    expect(await (await there('GET')).json()).toMatchObject({ revision: 2, plan: { title: 'Saved by the first' } })
    expect((await there('PUT', { plan: stored.plan })).status).toBe(412)
    await send('POST', '/api/entries/parts', { text: lamp })
    expect((await fetch(`${second.address}/api/parts/own-lamp`)).status).toBe(200)
    await send('DELETE', '/api/entries/parts/own-lamp?used=known')
    await second.close()
  })

  it('a lock held by another program keeps nobody else waiting, and is said', async () => {
    const stored = await made({ title: 'Locked' })
    const other = new Database(join(data, 'markpost.db'))
    other.exec('BEGIN IMMEDIATE')
    const saving = send('PUT', `/api/plans/${stored.id}`, { plan: stored.plan }, { 'If-Match': '"1"' })
    await new Promise((done) => setTimeout(done, 50))
    const before = performance.now()
    expect((await send('GET', `/api/plans/${stored.id}`)).status).toBe(200)
    expect(performance.now() - before).toBeLessThan(1000)
    const answer = await saving
    expect([answer.status, (await answer.json()).kind]).toEqual([503, 'in-use'])
    other.exec('COMMIT')
    other.close()
    expect((await send('PUT', `/api/plans/${stored.id}`, { plan: stored.plan }, { 'If-Match': '"1"' })).status).toBe(
      200,
    )
  })
})
