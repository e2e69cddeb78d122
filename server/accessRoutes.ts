import { Router } from 'express'
import * as v from 'valibot'
import type { ShareAnswer, WhoAmI } from '../core/rules/answers.ts'
import type { Access } from './access.ts'
import type { Events } from './events.ts'
import { HttpProblem } from './problem.ts'
import type { PlanStore } from './store.ts'

const Others = v.strictObject({ others: v.picklist(['editor', 'viewer', 'none']) })
const Phrase = v.strictObject({ phrase: v.pipe(v.string(), v.trim(), v.maxLength(200)) })

/** Who is there: signing in, and what one may do. Reached without a session. */
export function accessRoutes(access: Access): Router {
  const routes = Router()
  routes.get('/session', (request, response) => {
    const session = access.sessionOf(request)
    response.json({
      signedIn: session !== undefined,
      role: session?.all ?? null,
      plans: access.apart(request),
    } satisfies WhoAmI)
  })
  routes.post('/session', (request, response) => {
    const body = v.safeParse(Phrase, request.body)
    if (!body.success) throw new HttpProblem(400, 'Bad request', 'expected { phrase }')
    if (!access.sharing) throw new HttpProblem(404, 'Not shared', 'this server is for its own machine only')
    const said = body.output.phrase.toLowerCase().replace(/[\s_-]+/g, '-')
    response.set('Set-Cookie', access.signIn(request, said)).json({ signedIn: true })
  })
  return routes
}

/** How others reach the server, and what they may do with a plan: for whoever sits at it, or made the plan. */
export function shareRoutes(access: Access, store: PlanStore, events: Events): Router {
  const routes = Router()
  const { rights } = store
  routes.get('/share', (request, response) => {
    const plan = typeof request.query.plan === 'string' ? request.query.plan : undefined
    access.need(request, 'owner', plan)
    const { sharing } = access
    const links = (role: 'editor' | 'viewer'): string[] =>
      plan === undefined || !sharing
        ? []
        : sharing.addresses.map((address) => `${address}/link/${access.linkFor(plan, role)}`)
    response.json({
      shared: sharing !== undefined,
      addresses: sharing?.addresses ?? [],
      phrases: (access.sessionOf(request)?.all === 'owner' && sharing?.phrases) || null,
      others: (plan === undefined ? undefined : rights.of(plan)?.others) ?? 'editor',
      look: links('viewer'),
      change: links('editor'),
    } satisfies ShareAnswer)
  })
  routes.put('/plans/:id/others', (request, response) => {
    const plan = String(request.params.id)
    access.need(request, 'owner', plan)
    const body = v.safeParse(Others, request.body)
    if (!body.success) throw new HttpProblem(400, 'Bad request', 'expected { others } of editor, viewer or none')
    if (!store.get(plan)) throw new HttpProblem(404, 'No such plan', `there is no plan "${plan.slice(0, 80)}"`)
    rights.put(plan, { owner: rights.of(plan)?.owner ?? null, others: body.output.others })
    events.tell({ type: 'rights' })
    response.status(204).end()
  })
  return routes
}
