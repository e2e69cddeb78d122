import { existsSync } from 'node:fs'
import { join } from 'node:path'
import compression from 'compression'
import express, { type Express, type RequestHandler } from 'express'
import helmet from 'helmet'
import type { Logger } from 'pino'
import { schemaFile, schemaNames } from '../core/plan/schemaLine.ts'
import { projectFolder } from '../node/builtCatalog.ts'
import type { Access } from './access.ts'
import { accessRoutes, shareRoutes } from './accessRoutes.ts'
import { archiveOf } from './archive.ts'
import type { Events } from './events.ts'
import { historyRoutes } from './historyRoutes.ts'
import { openApi } from './openApi.ts'
import { planRoutes } from './planRoutes.ts'
import { HttpProblem, problemHandler } from './problem.ts'
import type { Sample } from './samples.ts'
import type { Shelf } from './shelf.ts'
import { shelfRoutes } from './shelfRoutes.ts'
import type { PlanStore } from './store.ts'
import { patiently } from './storeTrouble.ts'
import type { Summaries } from './summaries.ts'
import type { Work } from './work/pool.ts'

export interface AppParts {
  readonly store: PlanStore
  readonly shelf: Shelf
  readonly samples: readonly Sample[]
  readonly work: Work
  readonly events: Events
  readonly summaries: Summaries
  readonly log: Logger
  readonly access: Access
  /** Folder of the built web application; left out where only the interface for programs is wanted. */
  readonly web?: string
}

/** Deepest nesting of a request's body; what follows is read by calls inside calls. */
const MOST_DEPTH = 100

function refuseDepth(body: Buffer): void {
  let depth = 0
  for (const byte of body) {
    if (byte === 0x5b || byte === 0x7b) depth += 1
    else if (byte === 0x5d || byte === 0x7d) depth -= 1
    if (depth > MOST_DEPTH)
      throw new HttpProblem(400, 'Bad request', `maps and lists inside each other; expected at most ${MOST_DEPTH} deep`)
  }
}

/** The whole HTTP application. It must be listened to on the loopback address only. */
export function createApp({ access, store, shelf, samples, work, events, summaries, log, web }: AppParts): Express {
  const app = express()
  app.disable('x-powered-by')
  app.set('etag', false)
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          upgradeInsecureRequests: null,
          workerSrc: ["'self'", 'blob:'],
          styleSrc: ["'self'"],
          fontSrc: ["'self'"],
        },
      },
      strictTransportSecurity: false,
      // Isolated from other pages, so that a running search can be asked for its best so far over shared memory.
      crossOriginEmbedderPolicy: true,
    }),
  )
  app.use(compression())
  // A page from elsewhere must not reach the plans by way of a name that it points here, nor by a form that it sends.
  app.use('/api', access.guard)
  app.use('/api', express.json({ limit: '2mb', verify: (_request, _response, body) => refuseDepth(body) }))

  // Reached without a session: it says nothing but that the server works.
  app.get('/api/health', (_request, response) => {
    store.count()
    response.json({ state: 'well' })
  })
  app.use('/api', accessRoutes(access))
  app.use('/api', access.signedIn)
  app.use('/api', shareRoutes(access, store, events))
  // What is of no single plan is for those who may see all.
  const ofAll =
    (role: 'editor' | 'viewer'): RequestHandler =>
    (request, _response, next) => {
      access.need(request, role)
      next()
    }
  app.use(['/api/bin', '/api/archive'], ofAll('editor'))
  app.use('/api/plans/:id', (request, _response, next) => {
    const looks = request.method === 'GET' || request.method === 'HEAD'
    // What the search says changes nothing that is kept.
    const asks = request.method === 'POST' && /^\/assign$/.test(request.path)
    // Whoever may change a plan does not thereby take it away from its owner.
    const takesAway = request.method === 'DELETE' && request.path === '/'
    const role = looks || asks ? 'viewer' : takesAway ? 'owner' : 'editor'
    access.need(request, role, String(request.params.id))
    next()
  })
  app.post('/api/plans', ofAll('editor'))
  app.use('/api/entries', (request, response, next) =>
    request.method === 'GET' ? next() : ofAll('editor')(request, response, next),
  )
  app.get('/api/openapi.json', (_request, response) => {
    response.json(openApi)
  })
  app.get('/api/events', (request, response) => {
    events.listen(request, response, (plan) => access.roleFor(request, plan) !== undefined)
  })
  app.get('/api/archive', async (request, response) => {
    const roleIn = access.rolesFor(request)
    const archive = await patiently(() =>
      archiveOf(store, {
        history: request.query.history !== undefined,
        may: (plan) => roleIn(plan) !== undefined,
      }),
    )
    response.type('application/zip').attachment('markpost-archive.zip').send(Buffer.from(archive))
  })
  app.get('/api/state', (_request, response) => {
    response.json({ summaries: summaries.progress })
  })
  app.use('/api', shelfRoutes({ access, store, shelf, work, events }))
  app.use('/api', historyRoutes({ access, store, shelf, work, events, summaries }))
  app.use('/api', planRoutes({ access, store, shelf, samples, work, events, summaries }))
  app.use('/api', (request) => {
    throw new HttpProblem(
      404,
      'No such address',
      `${request.method} ${request.originalUrl.slice(0, 200)} is not part of the interface; see /api/openapi.json`,
    )
  })

  // Open to editors and other programs: it says nothing of any plan.
  for (const name of schemaNames)
    app.get(`/${schemaFile(name)}`, (_request, response) => {
      response.type('application/schema+json').set('Access-Control-Allow-Origin', '*')
      response.sendFile(join(projectFolder(), 'docs', schemaFile(name)))
    })
  app.get('/link/:token', (request, response) => {
    const opened = access.openLink(request, request.params.token)
    if (!opened) throw new HttpProblem(404, 'No such link', 'this link is not sound, or has run out; ask for another')
    response.set('Set-Cookie', opened.cookie).redirect(303, `/plan/${encodeURIComponent(opened.plan)}/bench`)
  })
  if (web !== undefined && existsSync(web)) {
    app.use('/assets', express.static(join(web, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }))
    app.use(express.static(web, { maxAge: 0 }))
    app.get('/{*path}', (_request, response) => {
      response.sendFile(join(web, 'index.html'))
    })
  }
  app.use(problemHandler(log))
  return app
}
