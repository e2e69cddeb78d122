import { Router } from 'express'
import * as v from 'valibot'
import type { ShareAnswer, WhoAmI } from '../core/rules/answers.ts'
import type { Access } from './access.ts'
import { HttpProblem } from './problem.ts'

const Phrase = v.strictObject({ phrase: v.pipe(v.string(), v.trim(), v.maxLength(200)) })

/** Who is there: signing in, and what one may do. Reached without a session. */
export function accessRoutes(access: Access): Router {
  const routes = Router()
  routes.get('/session', (request, response) => {
    const session = access.sessionOf(request)
    response.json({
      signedIn: session !== undefined,
      role: session?.all ?? null,
      plans: session?.plans ?? {},
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

/** How others reach the server, and links to a plan: for whoever sits at it. */
export function shareRoutes(access: Access): Router {
  const routes = Router()
  routes.get('/share', (request, response) => {
    access.need(request, 'owner')
    const { sharing } = access
    const plan = typeof request.query.plan === 'string' ? request.query.plan : undefined
    const links = (role: 'editor' | 'viewer'): string[] =>
      plan === undefined || !sharing
        ? []
        : sharing.addresses.map((address) => `${address}/link/${access.linkFor(plan, role)}`)
    response.json({
      shared: sharing !== undefined,
      addresses: sharing?.addresses ?? [],
      phrases: sharing?.phrases ?? null,
      look: links('viewer'),
      change: links('editor'),
    } satisfies ShareAnswer)
  })
  return routes
}
