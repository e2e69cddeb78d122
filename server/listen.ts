import { once } from 'node:events'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { homedir } from 'node:os'
import { join } from 'node:path'
import { pino } from 'pino'
import { readPlan } from '../core/plan/readPlan.ts'
import { SUMMARY_VERSION, summarise } from '../core/rules/summary.ts'
import { resolve } from '../core/wiring/resolve.ts'
import { createApp } from './app.ts'
import { loadCatalog, projectFolder } from './builtCatalog.ts'
import { readSamples } from './samples.ts'
import { Shelf } from './shelf.ts'
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
  const shipped = loadCatalog()
  const samples = readSamples(join(folder, 'demo'), shipped)
  const data = options.data ?? join(homedir(), '.markpost')
  const store = new PlanStore(data, join(folder, 'server/migrations'))
  const shelf = new Shelf(shipped, join(folder, 'catalog'), store, join(data, 'catalog'))
  if (options.demo && store.list().length === 0)
    for (const { title, text } of [...samples].reverse()) {
      const plan = readPlan(text, title, shipped)
      if (plan.ok) store.create(title, text, summarise(resolve(plan.value, shipped)))
    }
  refreshSummaries(store, shelf)
  const log = pino({ level: options.logLevel ?? 'warn' }, pino.destination(2))
  const server = createServer(createApp({ store, shelf, samples, log, web: join(folder, 'dist/web') }))
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

/** Makes summaries anew that an older program wrote; a plan that no longer fits the catalogue keeps its old one. */
function refreshSummaries(store: PlanStore, shelf: Shelf): void {
  for (const { id, title, text, summary } of store.list()) {
    if (summary.version === SUMMARY_VERSION) continue
    const plan = readPlan(text, title, shelf.catalog)
    if (plan.ok) store.refreshSummary(id, summarise(resolve(plan.value, shelf.catalog)))
  }
}
