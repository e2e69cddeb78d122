import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs'
import { request as ask } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Access } from './access.ts'
import { listen } from './listen.ts'

const data = mkdtempSync(join(tmpdir(), 'markpost-'))
let running: Awaited<ReturnType<typeof listen>>
beforeAll(async () => {
  running = await listen({ port: 0, data, logLevel: 'silent', threads: false, share: true })
})
afterAll(async () => {
  await running.close()
  rmSync(data, { recursive: true })
})

interface Said {
  readonly status: number
  readonly headers: Readonly<Record<string, string | string[] | undefined>>
  // biome-ignore lint/suspicious/noExplicitAny: whatever the server says
  readonly body: any
}
/** A request as another machine makes it: what was passed on does not count as this machine. */
function from(
  who: string,
  method: string,
  path: string,
  { body, ...headers }: Record<string, unknown> = {},
): Promise<Said> {
  return new Promise((resolve, reject) => {
    const sent = body === undefined ? undefined : JSON.stringify(body)
    const asked = ask(
      running.address + path,
      {
        method,
        headers: {
          ...(who === 'here' ? {} : { 'X-Forwarded-For': who }),
          ...(sent === undefined ? {} : { 'Content-Type': 'application/json' }),
          ...(headers as Record<string, string>),
        },
      },
      (response) => {
        let text = ''
        response.on('data', (chunk) => {
          text += String(chunk)
        })
        response.on('end', () => {
          let read: unknown = text
          try {
            read = JSON.parse(text)
          } catch {
            // A page, not an answer.
          }
          resolve({ status: response.statusCode ?? 0, headers: response.headers, body: read })
        })
      },
    )
    asked.on('error', reject)
    asked.end(sent)
  })
}
const cookieOf = ({ headers }: Said): string => String(headers['set-cookie']).split(';')[0]!
const signIn = async (role: 'editor' | 'viewer'): Promise<string> =>
  cookieOf(await from('10.0.0.9', 'POST', '/api/session', { body: { phrase: running.sharing!.phrases[role] } }))
const plan = async (title: string): Promise<string> =>
  (await from('here', 'POST', '/api/plans', { body: { title } })).body.id

describe('a shared server', () => {
  it('lets nobody from elsewhere in without a phrase or a link', async () => {
    const id = await plan('Secret')
    for (const [method, path] of [
      ['GET', '/api/plans'],
      ['GET', `/api/plans/${id}`],
      ['GET', '/api/catalog'],
      ['GET', '/api/events'],
      ['GET', '/api/archive'],
      ['GET', '/api/share'],
      ['POST', '/api/plans'],
      ['DELETE', `/api/plans/${id}`],
    ] as const)
      expect([path, (await from('10.0.0.9', method, path)).status]).toEqual([path, 401])
    expect((await from('10.0.0.9', 'GET', '/api/health')).body).toEqual({ state: 'well' })
    expect((await from('10.0.0.9', 'GET', '/api/session')).body).toEqual({ signedIn: false, role: null, plans: {} })
  })
  it('whoever sits at it needs none, and is told how others come', async () => {
    expect((await from('here', 'GET', '/api/session')).body.role).toBe('owner')
    const { body } = await from('here', 'GET', '/api/share')
    expect(body.phrases).toEqual(running.sharing!.phrases)
    expect(body.phrases.editor).toMatch(/^\w+(-\w+){4}$/)
    expect(body.phrases.editor).not.toBe(body.phrases.viewer)
  })
  it('a phrase is taken as it is said, gives a cookie that no script reads, and its role', async () => {
    const said = await from('10.0.0.9', 'POST', '/api/session', {
      body: { phrase: ` ${running.sharing!.phrases.editor.toUpperCase().replaceAll('-', ' ')} ` },
    })
    expect(said.status).toBe(200)
    expect(String(said.headers['set-cookie'])).toMatch(/HttpOnly; SameSite=Strict; Path=\/; Max-Age=2592000$/)
    const Cookie = cookieOf(said)
    const made = await from('10.0.0.9', 'POST', '/api/plans', { body: { title: 'Theirs' }, Cookie })
    expect(made.status).toBe(201)
    expect((await from('10.0.0.9', 'GET', '/api/share', { Cookie })).status).toBe(403)
  })
  it('who may look only changes nothing', async () => {
    const id = await plan('Look')
    const Cookie = await signIn('viewer')
    const opened = await from('10.0.0.9', 'GET', `/api/plans/${id}`, { Cookie })
    expect(opened.status).toBe(200)
    for (const [method, path, body] of [
      ['PUT', `/api/plans/${id}`, { plan: opened.body.plan }],
      ['DELETE', `/api/plans/${id}`, undefined],
      ['POST', `/api/plans/${id}/copy`, undefined],
      ['POST', `/api/plans/${id}/answers`, { lines: ['x'] }],
      ['PUT', `/api/plans/${id}/revisions/1/name`, { name: 'x' }],
      ['POST', '/api/plans', { title: 'x' }],
      ['POST', '/api/entries/parts', { text: 'x' }],
      ['GET', '/api/bin', undefined],
      ['GET', '/api/archive', undefined],
    ] as const) {
      const said = await from('10.0.0.9', method, path, { body, Cookie, 'If-Match': '"1"' })
      expect([method, path, said.status]).toEqual([method, path, 403])
    }
    expect((await from('10.0.0.9', 'GET', `/api/plans/${id}/sheet?as=csv`, { Cookie })).status).toBe(200)
    expect((await from('here', 'GET', `/api/plans/${id}`)).body.revision).toBe(1)
  })
  it('a link opens one plan, to look at or to change, and no other', async () => {
    const [one, other] = [await plan('One'), await plan('Other')]
    const { body } = await from('here', 'GET', `/api/share?plan=${one}`)
    const tokenOf = (links: readonly string[]): string => links[0]?.split('/').at(-1) ?? ''
    const access = body.look.length > 0 ? undefined : 'this machine is on no network'
    if (access) return
    const looking = await from('10.0.0.9', 'GET', `/link/${tokenOf(body.look)}`)
    expect([looking.status, looking.headers.location]).toEqual([303, `/plan/${one}/bench`])
    const Cookie = cookieOf(looking)
    expect((await from('10.0.0.9', 'GET', `/api/plans/${one}`, { Cookie })).status).toBe(200)
    expect((await from('10.0.0.9', 'GET', `/api/plans/${other}`, { Cookie })).status).toBe(403)
    expect((await from('10.0.0.9', 'GET', '/api/plans', { Cookie })).body.map(({ id }: { id: string }) => id)).toEqual([
      one,
    ])
    const put = (cookie: string): Promise<Said> =>
      from('10.0.0.9', 'PUT', `/api/plans/${one}`, {
        body: { text: 'markpost: 1\ntitle: Changed\n' },
        'If-Match': '"1"',
        Cookie: cookie,
      })
    expect((await put(Cookie)).status).toBe(403)
    const changing = await from('10.0.0.9', 'GET', `/link/${tokenOf(body.change)}`, { Cookie })
    expect((await put(cookieOf(changing))).status).toBe(200)
    const broken = `${tokenOf(body.change).slice(0, -2)}xx`
    expect((await from('10.0.0.9', 'GET', `/link/${broken}`)).status).toBe(404)
  })
  describe('knows who made a plan', () => {
    const list = async (Cookie: string): Promise<[string, string][]> =>
      (await from('10.0.0.9', 'GET', '/api/plans?limit=500', { Cookie })).body.map(
        ({ title, role }: { title: string; role: string }) => [title, role],
      )
    const others = (id: string, may: string, Cookie?: string): Promise<Said> =>
      from(Cookie === undefined ? 'here' : '10.0.0.9', 'PUT', `/api/plans/${id}/others`, {
        body: { others: may },
        ...(Cookie ? { Cookie } : {}),
      })
    const save = async (id: string, Cookie: string): Promise<number> => {
      const { body } = await from('here', 'GET', `/api/plans/${id}`)
      const said = await from('10.0.0.9', 'PUT', `/api/plans/${id}`, {
        body: { text: `markpost: 1\ntitle: ${body.plan.title}\nnotes: n${body.revision}\n` },
        'If-Match': `"${body.revision}"`,
        Cookie,
      })
      return said.status
    }

    it('who keeps it from others, shows it, or lets them change it, and alone takes it away', async () => {
      const [anna, ben, look] = [await signIn('editor'), await signIn('editor'), await signIn('viewer')]
      const made = await from('10.0.0.9', 'POST', '/api/plans', { body: { title: 'Of Anna' }, Cookie: anna })
      const { id } = made.body
      const roles = async (): Promise<unknown[]> =>
        (await Promise.all([anna, ben, look].map(list))).map((all) => all.find(([title]) => title === 'Of Anna')?.[1])
      expect(await roles()).toEqual(['owner', 'editor', 'viewer'])
      expect([await save(id, anna), await save(id, ben), await save(id, look)]).toEqual([200, 200, 403])
      expect((await from('10.0.0.9', 'DELETE', `/api/plans/${id}`, { Cookie: ben })).status).toBe(403)
      expect((await others(id, 'none', ben)).status).toBe(403)
      expect((await from('10.0.0.9', 'GET', `/api/share?plan=${id}`, { Cookie: ben })).status).toBe(403)

      expect((await others(id, 'viewer', anna)).status).toBe(204)
      expect(await roles()).toEqual(['owner', 'viewer', 'viewer'])
      expect([await save(id, anna), await save(id, ben)]).toEqual([200, 403])
      expect((await from('10.0.0.9', 'GET', '/api/session', { Cookie: ben })).body).toMatchObject({
        role: 'editor',
        plans: { [id]: 'viewer' },
      })

      await others(id, 'none', anna)
      expect(await roles()).toEqual(['owner', undefined, undefined])
      expect(await save(id, ben)).toBe(403)
      for (const path of ['', '/file', '/revisions', '/revisions/1', '/past', '/sheet?as=csv'])
        expect([path, (await from('10.0.0.9', 'GET', `/api/plans/${id}${path}`, { Cookie: ben })).status]).toEqual([
          path,
          403,
        ])
      expect(JSON.stringify((await from('10.0.0.9', 'GET', '/api/session', { Cookie: ben })).body)).not.toContain(id)
      const archive = async (Cookie: string): Promise<number> =>
        Number((await from('10.0.0.9', 'GET', '/api/archive', { Cookie })).headers['content-length'])
      expect(await archive(anna)).toBeGreaterThan(await archive(ben))
      // A link that its owner gives is worth more than what all others may.
      const { body } = await from('10.0.0.9', 'GET', `/api/share?plan=${id}`, { Cookie: anna })
      expect([body.phrases, body.others]).toEqual([null, 'none'])
      if (body.look.length > 0) {
        const linked = cookieOf(
          await from('10.0.0.9', 'GET', `/link/${body.look[0].split('/').at(-1)}`, { Cookie: ben }),
        )
        expect((await from('10.0.0.9', 'GET', `/api/plans/${id}`, { Cookie: linked })).status).toBe(200)
        expect(await save(id, linked)).toBe(403)
      }

      // Who sits at the machine may do everything with it; the bin shows it to those two alone.
      expect((await list(anna)).some(([title]) => title === 'Of Anna')).toBe(true)
      expect((await others(id, 'editor')).status).toBe(204)
      expect(await roles()).toEqual(['owner', 'editor', 'viewer'])
      expect((await from('10.0.0.9', 'DELETE', `/api/plans/${id}`, { Cookie: anna })).status).toBe(204)
      const bin = async (Cookie: string): Promise<string[]> =>
        (await from('10.0.0.9', 'GET', '/api/bin', { Cookie })).body.map((one: { title: string }) => one.title)
      expect(await bin(anna)).toEqual(['Of Anna'])
      expect(await bin(ben)).toEqual([])
      expect((await from('10.0.0.9', 'POST', `/api/bin/${id}/restore`, { Cookie: ben })).status).toBe(403)
      expect((await from('10.0.0.9', 'POST', `/api/bin/${id}/restore`, { Cookie: anna })).status).toBe(201)
      expect(await roles()).toEqual(['owner', 'editor', 'viewer'])
    })
    it('of this machine: those who come by a phrase change it, and do not take it away', async () => {
      const id = await plan('Of here')
      const ben = await signIn('editor')
      expect(await save(id, ben)).toBe(200)
      expect((await from('10.0.0.9', 'DELETE', `/api/plans/${id}`, { Cookie: ben })).status).toBe(403)
      // A copy is theirs.
      const copy = await from('10.0.0.9', 'POST', `/api/plans/${id}/copy`, { Cookie: ben })
      expect((await from('10.0.0.9', 'DELETE', `/api/plans/${copy.body.id}`, { Cookie: ben })).status).toBe(204)
    })
    it('stays who they are when they say a phrase again', async () => {
      const anna = await signIn('editor')
      const { id } = (await from('10.0.0.9', 'POST', '/api/plans', { body: { title: 'Again' }, Cookie: anna })).body
      const again = cookieOf(
        await from('10.0.0.9', 'POST', '/api/session', {
          body: { phrase: running.sharing!.phrases.viewer },
          Cookie: anna,
        }),
      )
      expect((await list(again)).find(([title]) => title === 'Again')).toEqual(['Again', 'owner'])
      expect(await save(id, again)).toBe(200)
    })
    it('says what cannot be', async () => {
      expect((await others('nothing', 'none')).status).toBe(404)
      const id = await plan('Odd')
      for (const may of ['owner', '', 7]) expect((await others(id, may as string)).status).toBe(400)
    })
  })
  it('hears of no other plan than those it may see', async () => {
    const [one, other] = [await plan('Heard'), await plan('Unheard')]
    const { body } = await from('here', 'GET', `/api/share?plan=${one}`)
    if (body.look.length === 0) return
    const Cookie = cookieOf(await from('10.0.0.9', 'GET', `/link/${body.look[0].split('/').at(-1)}`))
    const heard = await new Promise<string>((resolve) => {
      let text = ''
      const asked = ask(
        `${running.address}/api/events`,
        { headers: { Cookie, 'X-Forwarded-For': '10.0.0.9' } },
        (response) => {
          response.on('data', (chunk) => {
            text += String(chunk)
            if (text.includes('heard-line')) {
              asked.destroy()
              resolve(text)
            }
          })
          response.on('error', () => undefined)
          void (async () => {
            for (const id of [other, one])
              await from('here', 'POST', `/api/plans/${id}/answers`, {
                body: { lines: [id === one ? 'heard-line' : 'other-line'] },
              })
          })()
        },
      )
      asked.on('error', () => undefined)
      asked.end()
    })
    expect(heard).not.toContain('other-line')
  })
  it('wrong phrases make one wait, each time longer, and only whom they come from', async () => {
    const access = new Access({ sharing: { phrases: { editor: 'a-b', viewer: 'c-d' }, addresses: [] } })
    const by = (address: string) => ({ socket: { remoteAddress: address } }) as never
    const waits: number[] = []
    let now = 1_000_000
    for (let n = 0; n < 9; n += 1) {
      expect(() => access.signIn(by('10.0.0.1'), 'wrong', now)).toThrow('not the phrase')
      let wait = 0
      for (; wait < 700_000; wait += 1000)
        try {
          access.signIn(by('10.0.0.1'), 'a-b', now + wait)
          break
        } catch (error) {
          expect((error as Error).message).toContain('wait')
        }
      waits.push(wait)
      if (wait === 0) break
      now += wait
    }
    // A right one is taken at once, and forgets what was before.
    expect(waits).toEqual([0])
    for (let n = 0; n < 5; n += 1) expect(() => access.signIn(by('10.0.0.2'), 'wrong', now)).toThrow('not the phrase')
    expect(() => access.signIn(by('10.0.0.2'), 'a-b', now + 1999)).toThrow('wait 1 seconds')
    expect(access.signIn(by('10.0.0.3'), 'c-d', now)).toContain('markpost-session=')
    expect(() => access.signIn(by('10.0.0.2'), 'wrong', now + 2000)).toThrow('not the phrase')
    expect(() => access.signIn(by('10.0.0.2'), 'a-b', now + 5999)).toThrow('wait 1 seconds')
    expect(access.signIn(by('10.0.0.2'), 'a-b', now + 6000)).toContain('markpost-session=')
    for (let n = 0; n < 60; n += 1)
      try {
        access.signIn(by(`10.1.0.${n}`), 'wrong', now + 6000)
      } catch {
        // One more of many.
      }
    expect(() => access.signIn(by('10.2.0.1'), 'a-b', now + 6000)).toThrow('too many tries from everywhere')
  })
  it('a session runs out, and is none of another server’s', async () => {
    const sharing = { phrases: { editor: 'a-b', viewer: 'c-d' }, addresses: [] }
    const access = new Access({ sharing })
    const cookie = access.signIn({ socket: {} } as never, 'a-b', 1000).split(';')[0]!
    const asking = (value: string) =>
      ({
        socket: { remoteAddress: '10.0.0.1' },
        get: (name: string) => (name === 'Cookie' ? value : undefined),
      }) as never
    expect(access.sessionOf(asking(cookie))).toBe(undefined)
    const now = access.signIn({ socket: {} } as never, 'a-b').split(';')[0]!
    expect(access.sessionOf(asking(`other=1; ${now}`))).toEqual({
      who: expect.any(String),
      all: 'editor',
      plans: {},
    })
    expect(new Access({ sharing }).sessionOf(asking(now))).toBe(undefined)
    const [text = '', sum = ''] = now.slice('markpost-session='.length).split('.')
    const forged = Buffer.from(Buffer.from(text, 'base64url').toString().replace('editor', 'viewer')).toString(
      'base64url',
    )
    expect(access.sessionOf(asking(`markpost-session=${forged}.${sum}`))).toBe(undefined)
  })
  it('keeps its key and its phrases where nobody else reads them, over a restart', () => {
    for (const name of ['session.key', 'share.json']) expect(statSync(join(data, name)).mode & 0o777).toBe(0o600)
    expect(JSON.parse(readFileSync(join(data, 'share.json'), 'utf8'))).toEqual(running.sharing!.phrases)
  })
})

describe('every server', () => {
  it('refuses names that are not its own', async () => {
    expect((await from('here', 'GET', '/api/plans', { Host: 'elsewhere.example' })).status).toBe(403)
    expect((await from('here', 'GET', '/api/plans', { Host: 'localhost' })).status).toBe(200)
  })
  it('refuses changes that another page asks for', async () => {
    const body = { title: 'x' }
    const make = (headers: Record<string, string>): Promise<Said> =>
      from('here', 'POST', '/api/plans', { body, ...headers })
    expect((await make({ Origin: 'http://elsewhere.example' })).status).toBe(403)
    expect((await make({ Origin: 'null' })).status).toBe(403)
    expect((await make({ 'Sec-Fetch-Site': 'cross-site' })).status).toBe(403)
    expect((await make({ 'Sec-Fetch-Site': 'same-site' })).status).toBe(403)
    expect((await make({ Origin: running.address, 'Sec-Fetch-Site': 'same-origin' })).status).toBe(201)
    expect((await make({})).status).toBe(201)
  })
  it('waits only so long for a head and a body', () => {
    expect(running.server.headersTimeout).toBeLessThanOrEqual(15_000)
    expect(running.server.requestTimeout).toBeLessThanOrEqual(60_000)
  })
})
