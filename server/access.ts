import { createHmac, randomBytes, randomInt, timingSafeEqual } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { hostname, networkInterfaces } from 'node:os'
import { join } from 'node:path'
import type { Request, RequestHandler } from 'express'
import * as v from 'valibot'
import { HttpProblem } from './problem.ts'
import type { OthersMay, PlanRights, Rights } from './rights.ts'

/** What somebody may do with a plan: everything here, change it, look at it. */
export type Role = 'owner' | 'editor' | 'viewer'
const RANK: Readonly<Record<Role, number>> = { viewer: 1, editor: 2, owner: 3 }

/** What a session may do: with every plan, or with some. */
export interface Session {
  /** By which plans know who made them; undefined for this machine. */
  readonly who: string | undefined
  readonly all: Role | undefined
  readonly plans: Readonly<Record<string, Role>>
}

const OWNER: Session = { who: undefined, all: 'owner', plans: {} }
const KEY_BYTES = 32
const COOKIE = 'markpost-session'
/** Milliseconds that a session lasts. */
const LASTS = 30 * 86_400_000
/** Tries of one address before it waits, and milliseconds that it waits then, doubled by each further one. */
const FREE_TRIES = 5
const FIRST_WAIT = 2000
const LONGEST_WAIT = 600_000
/** Tries of all addresses together in a minute. */
const MOST_A_MINUTE = 60

const Signed = v.strictObject({
  until: v.number(),
  who: v.optional(v.string()),
  all: v.optional(v.picklist(['editor', 'viewer'])),
  plans: v.optional(v.record(v.string(), v.picklist(['editor', 'viewer'])), {}),
})

/** Words of which pass phrases are made: short, and told apart when they are read aloud. */
const WORDS =
  'acorn amber anvil apple arrow aspen badge bagel barge basil beach berry birch bison blaze bloom bolt boot brick brook brush cabin candy canoe cedar chalk chess chili cider cliff cloak clock cloud clove coral crane creek crown daisy delta diner drift eagle ember fable falcon fern ferry flint flute forge frost gecko ginger glade globe grape gravel grove harp hazel heron honey husky igloo ivory jelly jetty kayak kettle koala lark latch lemon lilac lizard lotus lunar maple marble meadow melon mint mocha moss nectar nickel nutmeg oasis ocean olive onyx opal otter panda pearl pebble pecan piano pilot plaza plume poppy prism quail quartz quill raven reed ridge robin rocket rustic saddle salmon satin scout shell sierra silk slate sloop spice spruce stork sugar sunset table talon teal thistle tiger timber topaz torch tulip tundra velvet violet walnut wharf willow wren yacht zebra zinc'.split(
    ' ',
  )
const phrase = (): string => Array.from({ length: 5 }, () => WORDS[randomInt(WORDS.length)]).join('-')

const NO_RIGHTS: Pick<Rights, 'of' | 'all' | 'hidesAny'> = { of: () => undefined, all: () => [], hidesAny: () => false }

export interface Sharing {
  /** Phrases by what they let one do. */
  readonly phrases: Readonly<Record<'editor' | 'viewer', string>>
  /** Addresses at which others reach this machine. */
  readonly addresses: readonly string[]
}

/**
 * Who may do what. Without sharing there is only this machine, and everything is allowed. With it, whoever comes from
 * elsewhere says a phrase or brings a link, and carries a signed cookie from then on.
 */
export class Access {
  readonly #key: Buffer
  readonly sharing: Sharing | undefined
  readonly #secure: boolean
  readonly #rights: Pick<Rights, 'of' | 'all' | 'hidesAny'>
  readonly #hosts: ReadonlySet<string>
  readonly #tries = new Map<string, { count: number; until: number }>()
  #minute = { at: 0, count: 0 }

  constructor(
    options: {
      readonly data?: string
      readonly sharing?: Sharing | undefined
      readonly secure?: boolean
      readonly rights?: Pick<Rights, 'of' | 'all' | 'hidesAny'>
    } = {},
  ) {
    this.#rights = options.rights ?? NO_RIGHTS
    this.sharing = options.sharing
    this.#secure = options.secure ?? false
    this.#key = options.data === undefined ? randomBytes(KEY_BYTES) : keyIn(options.data)
    this.#hosts = new Set(['localhost', '127.0.0.1', '[::1]', '::1', ...(options.sharing ? ownNames() : [])])
  }

  /** Refuses names that are not this machine's, and changes that another page asks for. */
  readonly guard: RequestHandler = (request, _response, next) => {
    const host = request.hostname
    if (!this.#hosts.has(host.toLowerCase()))
      throw new HttpProblem(403, 'Not from here', `the host "${host.slice(0, 80)}" is not this machine; use localhost`)
    if (request.method === 'GET' || request.method === 'HEAD') return next()
    const site = request.get('Sec-Fetch-Site')
    if (site !== undefined && site !== 'same-origin' && site !== 'none')
      throw new HttpProblem(403, 'Not from here', 'another page asked for this change; only pages of Mark Post may')
    const origin = request.get('Origin')
    if (origin !== undefined && origin !== `${request.protocol}://${request.get('Host')}`)
      throw new HttpProblem(403, 'Not from here', `the page "${origin.slice(0, 80)}" is none of Mark Post's`)
    next()
  }

  /** Sends away who has no session. */
  readonly signedIn: RequestHandler = (request, _response, next) => {
    if (!this.sessionOf(request))
      throw new HttpProblem(401, 'Who is there?', 'say the pass phrase that the server has printed', {
        kind: 'sign-in',
      })
    next()
  }

  sessionOf(request: Request): Session | undefined {
    if (!this.sharing || isOwnMachine(request)) return OWNER
    const opened = this.#cookieOf(request)
    return opened ? { who: opened.who, all: opened.all, plans: opened.plans } : undefined
  }

  /** What a request may do with a plan; undefined for nothing. */
  roleFor(request: Request, plan: string | undefined): Role | undefined {
    const session = this.sessionOf(request)
    return plan === undefined ? session?.all : roleOf(session, plan, this.#rights.of(plan))
  }

  /** The same for many plans: who asks, and the rights of all, are looked up once. */
  rolesFor(request: Request): (plan: string) => Role | undefined {
    const session = this.sessionOf(request)
    if (session?.all === 'owner') return () => 'owner'
    const rights = new Map(this.#rights.all().map((one) => [one.plan, one]))
    return (plan) => roleOf(session, plan, rights.get(plan))
  }

  /** True for who may see every plan that there is. */
  seesAll(request: Request): boolean {
    const all = this.sessionOf(request)?.all
    return all === 'owner' || (all !== undefined && !this.#rights.hidesAny())
  }

  /** Plans with which a request may do something else than with the others; hidden ones are not named. */
  apart(request: Request): Record<string, Role> {
    const session = this.sessionOf(request)
    if (!session || session.all === 'owner') return {}
    const roleIn = this.rolesFor(request)
    const plans = new Set([...Object.keys(session.plans), ...this.#rights.all().map(({ plan }) => plan)])
    return Object.fromEntries(
      [...plans].flatMap((plan): [string, Role][] => {
        const role = roleIn(plan)
        return role === undefined || role === session.all ? [] : [[plan, role]]
      }),
    )
  }

  /** @throws HttpProblem with 403 for a request that may do less. */
  need(request: Request, role: Role, plan?: string): void {
    const has = this.roleFor(request, plan)
    if (has !== undefined && RANK[has] >= RANK[role]) return
    throw new HttpProblem(
      403,
      'Not allowed',
      has === undefined
        ? 'this plan is not shared with you'
        : role === 'owner'
          ? plan === undefined
            ? 'only whoever sits at the machine of the server may do this'
            : 'only whoever made this plan, or sits at the machine of the server, may do this'
          : 'this link is to look only; ask for one to change',
      { kind: 'role' },
    )
  }

  /** The cookie for a phrase that is right. Wrong ones make one wait, longer each time. */
  signIn(request: Request, said: string, now = Date.now()): string {
    const from = request.socket.remoteAddress ?? ''
    const known = this.#tries.get(from)
    if (known && known.until > now)
      throw new HttpProblem(429, 'Too many tries', `wait ${Math.ceil((known.until - now) / 1000)} seconds`, {
        kind: 'wait',
      })
    if (now - this.#minute.at > 60_000) this.#minute = { at: now, count: 0 }
    this.#minute.count += 1
    if (this.#minute.count > MOST_A_MINUTE)
      throw new HttpProblem(429, 'Too many tries', 'too many tries from everywhere; wait a minute', { kind: 'wait' })
    const role = (['editor', 'viewer'] as const).find((one) => same(said, this.sharing?.phrases[one] ?? ''))
    if (!role) {
      const count = (known?.count ?? 0) + 1
      const wait = count < FREE_TRIES ? 0 : Math.min(LONGEST_WAIT, FIRST_WAIT * 2 ** (count - FREE_TRIES))
      this.#tries.set(from, { count, until: now + wait })
      // Who tries from many addresses must not fill the memory.
      if (this.#tries.size > 10_000) this.#tries.delete(this.#tries.keys().next().value!)
      throw new HttpProblem(401, 'Wrong phrase', 'this is not the phrase; it was printed when the server was started', {
        kind: 'sign-in',
      })
    }
    this.#tries.delete(from)
    // Who comes back with a phrase is who they were.
    const { who = newName(), plans = {} } = this.#cookieOf(request, now) ?? {}
    return this.#cookie({ until: now + LASTS, who, all: role, plans })
  }

  /** The token of a link to one plan. */
  linkFor(plan: string, role: 'editor' | 'viewer', now = Date.now()): string {
    return this.#signed({ until: now + LASTS, plans: { [plan]: role } })
  }

  /** The cookie for who brings a link, joined with what their session already may; undefined for one that is not sound. */
  openLink(request: Request, token: string, now = Date.now()): { cookie: string; plan: string } | undefined {
    const opened = this.#opened(token, now)
    const [plan] = Object.keys(opened?.plans ?? {})
    if (!opened || plan === undefined) return undefined
    const before = this.sessionOf(request)
    const all = before?.all === 'owner' ? undefined : before?.all
    // A link to look takes nothing away from who may change it already.
    const role = before?.plans[plan] === 'editor' ? 'editor' : opened.plans[plan]!
    const cookie = this.#cookie({
      until: now + LASTS,
      who: before?.who ?? newName(),
      ...(all ? { all } : {}),
      plans: { ...(before?.plans as Record<string, 'editor' | 'viewer'> | undefined), [plan]: role },
    })
    return { cookie, plan }
  }

  #cookieOf(request: Request, now?: number): v.InferOutput<typeof Signed> | undefined {
    const cookie = (request.get?.('Cookie') ?? '')
      .split(';')
      .map((one) => one.trim())
      .find((one) => one.startsWith(`${COOKIE}=`))
    return cookie === undefined ? undefined : this.#opened(cookie.slice(COOKIE.length + 1), now)
  }

  #cookie(payload: v.InferOutput<typeof Signed>): string {
    return `${COOKIE}=${this.#signed(payload)}; HttpOnly; SameSite=Strict; Path=/; Max-Age=${LASTS / 1000}${this.#secure ? '; Secure' : ''}`
  }

  #signed(payload: v.InferOutput<typeof Signed>): string {
    const text = Buffer.from(JSON.stringify(payload)).toString('base64url')
    return `${text}.${this.#sum(text)}`
  }

  #sum(text: string): string {
    // Other phrases make other sessions: a server that is started anew with others asks again.
    const phrases = this.sharing ? `${this.sharing.phrases.editor} ${this.sharing.phrases.viewer}` : ''
    return createHmac('sha256', this.#key).update(`${phrases}\n${text}`).digest('base64url')
  }

  #opened(token: string, now = Date.now()): v.InferOutput<typeof Signed> | undefined {
    const [text = '', sum = ''] = token.split('.')
    if (!same(sum, this.#sum(text))) return undefined
    try {
      const read = v.safeParse(Signed, JSON.parse(Buffer.from(text, 'base64url').toString('utf8')))
      return read.success && read.output.until > now ? read.output : undefined
    } catch {
      return undefined
    }
  }
}

function roleOf(session: Session | undefined, plan: string, rights: PlanRights | undefined): Role | undefined {
  if (!session || session.all === 'owner') return session?.all
  if (rights !== undefined && rights.owner !== null && rights.owner === session.who) return 'owner'
  const roles = [session.plans[plan], limited(session.all, rights?.others)].filter((one) => one !== undefined)
  return roles.sort((a, b) => RANK[b] - RANK[a])[0]
}

/** What a session may do with a plan, where its owner lets others do so much. */
function limited(all: Role | undefined, others: OthersMay | undefined): Role | undefined {
  if (all === undefined || others === undefined) return all
  if (others === 'none') return undefined
  return RANK[others] < RANK[all] ? others : all
}

const newName = (): string => randomBytes(9).toString('base64url')

/** Compares in the same time whatever is the same of both. */
function same(a: string, b: string): boolean {
  const [one, other] = [a, b].map((text) => createHmac('sha256', 'equal').update(text).digest())
  return a !== '' && timingSafeEqual(one!, other!)
}

/** From the machine itself, not by way of another that passes requests on. */
function isOwnMachine(request: Request): boolean {
  const from = request.socket.remoteAddress ?? ''
  const isLoopback = from === '127.0.0.1' || from === '::1' || from === '::ffff:127.0.0.1'
  return isLoopback && request.get('X-Forwarded-For') === undefined && request.get('Forwarded') === undefined
}

/** The key with which sessions are signed: it stays, so that a server that is started anew knows them again. */
function keyIn(data: string): Buffer {
  const file = join(data, 'session.key')
  const known = existsSync(file) ? readFileSync(file) : undefined
  if (known?.length === KEY_BYTES) return known
  const key = randomBytes(KEY_BYTES)
  writeFileSync(file, key, { mode: 0o600 })
  return key
}

/** A text as JSON; undefined for one that is none: then new phrases are made. */
function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}

const lanAddresses = (): string[] =>
  Object.values(networkInterfaces()).flatMap((all) =>
    (all ?? []).flatMap(({ family, internal, address }) => (family === 'IPv4' && !internal ? [address] : [])),
  )

function ownNames(): string[] {
  const name = hostname().toLowerCase()
  return [...lanAddresses(), name, `${name}.local`]
}

/** Phrases for a server that is shared at a port; those that were used before are kept in its data folder. */
export function sharingAt(data: string, port: number, secure: boolean): Sharing {
  const file = join(data, 'share.json')
  const Phrases = v.strictObject({ editor: v.string(), viewer: v.string() })
  let phrases: v.InferOutput<typeof Phrases> | undefined
  if (existsSync(file)) {
    const read = v.safeParse(Phrases, parsed(readFileSync(file, 'utf8')))
    if (read.success) phrases = read.output
  }
  if (!phrases) {
    phrases = { editor: phrase(), viewer: phrase() }
    writeFileSync(file, JSON.stringify(phrases), { mode: 0o600 })
  }
  return {
    phrases,
    addresses: lanAddresses().map((address) => `${secure ? 'https' : 'http'}://${address}:${port}`),
  }
}
