import type { Problem } from '../../../core/base/problem.ts'
import type { Plan } from '../../../core/plan/planSchema.ts'
import type { Loaded, Ports } from './desk.ts'
import type { SaveAnswer, Stored, TroubleKind } from './penEvents.ts'

/** Milliseconds after which an answer is given up; a save that arrives later is known again by its token. */
const PATIENCE = 20_000

interface ProblemBody {
  readonly detail?: string
  readonly kind?: string
  readonly current?: Stored
  readonly text?: string
  readonly revision?: number
  readonly problems?: readonly Problem[]
}

type Fetch = (url: string, init?: RequestInit) => Promise<Response>

/** The server over HTTP, for a desk. Whatever happens on the way comes back as a value. */
export function httpServer(fetch: Fetch): Ports['server'] {
  const url = (id: string): string => `/api/plans/${encodeURIComponent(id)}`
  return {
    load: async (id): Promise<Loaded> => {
      try {
        const response = await fetch(url(id), { signal: AbortSignal.timeout(PATIENCE) })
        if (response.ok) return { is: 'loaded', stored: storedOf((await response.json()) as Stored) }
        if (response.status === 404) return { is: 'missing' }
        const body = (await response.json()) as ProblemBody
        if (body.kind === 'damaged' && body.text !== undefined)
          return { is: 'damaged', text: body.text, revision: body.revision ?? 0, problems: body.problems ?? [] }
        return { is: 'failed', text: body.detail ?? `the server answered ${response.status}` }
      } catch {
        return { is: 'failed', text: 'the server does not answer; is it still running?' }
      }
    },
    save: async (id, revision, plan, token): Promise<SaveAnswer> => {
      try {
        const response = await fetch(url(id), {
          method: 'PUT',
          headers: { 'Content-Type': 'application/json', 'If-Match': `"${revision}"`, 'Save-Token': token },
          body: JSON.stringify({ plan } satisfies { plan: Plan }),
          signal: AbortSignal.timeout(PATIENCE),
          // A page that is being closed may end before the answer; the request goes on, when it is small enough.
          keepalive: JSON.stringify(plan).length < 60_000,
        })
        if (response.ok) return { is: 'saved', stored: storedOf((await response.json()) as Stored) }
        const body = (await response.json()) as ProblemBody
        if (response.status === 412 && body.current) return { is: 'conflict', current: storedOf(body.current) }
        const kind = troubleOf(response.status, body.kind)
        return { is: 'trouble', trouble: { kind, text: body.detail ?? `the server answered ${response.status}` } }
      } catch {
        return { is: 'trouble', trouble: { kind: 'server-away', text: 'the server does not answer' } }
      }
    },
  }
}

const storedOf = ({ revision, plan, savedBy }: Stored): Stored => ({ revision, plan, savedBy: savedBy ?? null })

function troubleOf(status: number, kind: string | undefined): TroubleKind {
  if (kind === 'disk-full' || kind === 'read-only' || kind === 'in-use' || kind === 'disk') return kind
  if (status === 404) return 'gone'
  if (kind === 'busy' || kind === 'too-long') return 'in-use'
  return status >= 500 ? 'disk' : 'refused'
}
