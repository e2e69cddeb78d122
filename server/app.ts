import { existsSync } from 'node:fs'
import { join } from 'node:path'
import compression from 'compression'
import express, { type Express } from 'express'
import helmet from 'helmet'
import type { Logger } from 'pino'
import { openApi } from './openApi.ts'
import { planRoutes } from './planRoutes.ts'
import { HttpProblem, problemHandler } from './problem.ts'
import type { Sample } from './samples.ts'
import type { Shelf } from './shelf.ts'
import { shelfRoutes } from './shelfRoutes.ts'
import type { PlanStore } from './store.ts'

export interface AppParts {
  readonly store: PlanStore
  readonly shelf: Shelf
  readonly samples: readonly Sample[]
  readonly log: Logger
  /** Folder of the built web application; left out where only the interface for programs is wanted. */
  readonly web?: string
}

/** The whole HTTP application. It must be listened to on the loopback address only. */
export function createApp({ store, shelf, samples, log, web }: AppParts): Express {
  const app = express()
  app.disable('x-powered-by')
  app.set('etag', false)
  app.use(
    helmet({
      contentSecurityPolicy: { directives: { upgradeInsecureRequests: null, workerSrc: ["'self'", 'blob:'] } },
      strictTransportSecurity: false,
      // Isolated from other pages, so that a running search can be asked for its best so far over shared memory.
      crossOriginEmbedderPolicy: true,
    }),
  )
  app.use(compression())
  app.use('/api', (request, _response, next) => {
    // A page from elsewhere must not reach the plans by way of a name that it points here.
    const host = request.hostname
    if (!['localhost', '127.0.0.1', '[::1]', '::1'].includes(host))
      throw new HttpProblem(403, 'Not from here', `the host "${host}" is not this machine; use localhost`)
    next()
  })
  app.use('/api', express.json({ limit: '2mb' }))

  app.get('/api/openapi.json', (_request, response) => {
    response.json(openApi)
  })
  app.use('/api', shelfRoutes(shelf))
  app.use('/api', planRoutes({ store, shelf, samples }))
  app.use('/api', (request) => {
    throw new HttpProblem(
      404,
      'No such address',
      `${request.method} ${request.originalUrl} is not part of the interface; see /api/openapi.json`,
    )
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
