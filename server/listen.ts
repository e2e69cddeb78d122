import { once } from 'node:events'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { homedir } from 'node:os'
import { join } from 'node:path'
import { pino } from 'pino'
import { readPlan } from '../core/plan/readPlan.ts'
import { summarise } from '../core/rules/summary.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { createApp } from './app.ts'
import { loadCatalog, projectFolder } from './builtCatalog.ts'
import { readSamples } from './samples.ts'
import { PlanStore } from './store.ts'

export interface ServeOptions {
  readonly port: number
  /** Folder of the database; `.markpost` in the home folder when left out. */
  readonly data?: string
  /** Puts the samples into an empty store. */
  readonly demo?: boolean
  readonly logLevel?: string
}

/** Starts the application on the loopback address; port 0 takes any free one. */
export async function listen(
  options: ServeOptions,
): Promise<{ address: string; server: Server; close: () => Promise<void> }> {
  const folder = projectFolder()
  const catalog = loadCatalog()
  const samples = readSamples(join(folder, 'demo'), catalog)
  const store = new PlanStore(options.data ?? join(homedir(), '.markpost'), join(folder, 'server/migrations'))
  if (options.demo && store.list().length === 0)
    for (const { title, text } of [...samples].reverse()) {
      const plan = readPlan(text, title, catalog)
      if (plan.ok) store.create(title, text, summarise(resolve(plan.value, catalog)))
    }
  const log = pino({ level: options.logLevel ?? 'warn' }, pino.destination(2))
  const server = createServer(createApp({ store, catalog, samples, log, web: join(folder, 'dist/web') }))
  server.listen(options.port, '127.0.0.1')
  await Promise.race([once(server, 'listening'), once(server, 'error').then(([error]) => Promise.reject(error))])
  const { port } = server.address() as AddressInfo
  const close = async (): Promise<void> => {
    server.closeAllConnections()
    await new Promise<void>((done) => server.close(() => done()))
    store.close()
  }
  return { address: `http://127.0.0.1:${port}`, server, close }
}
