import { once } from 'node:events'
import { readFileSync } from 'node:fs'
import { createServer, type RequestListener, type Server } from 'node:http'
import { createServer as createTlsServer } from 'node:https'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { createSecureContext } from 'node:tls'
import { pino } from 'pino'
import { loadCatalog, projectFolder } from '../node/builtCatalog.ts'
import { usualData } from '../node/usualData.ts'
import { Access, type Sharing, sharingAt } from './access.ts'
import { createApp } from './app.ts'
import { keepCopies } from './copies.ts'
import { Events } from './events.ts'
import { readSamples } from './samples.ts'
import { Shelf } from './shelf.ts'
import { PlanStore } from './store.ts'
import { patiently } from './storeTrouble.ts'
import { Summaries } from './summaries.ts'
import { inPlace, threads, type Work } from './work/pool.ts'

export interface ServeOptions {
  readonly port: number
  /** Folder of the database; `.markpost` in the home folder when left out. */
  readonly data?: string
  /** Puts the samples into an empty store. */
  readonly demo?: boolean
  /** Begins with an empty database where one has gone missing. */
  readonly fresh?: boolean
  readonly logLevel?: string
  /** Others on the local network may come, by a pass phrase. */
  readonly share?: boolean
  /** Files of a certificate and its key, in PEM: then it is TLS. */
  readonly cert?: string
  readonly key?: string
  /** False: heavy work is done in the server's own thread, as tests of its answers may. */
  readonly threads?: boolean
}

/** Starts the application on the loopback address; port 0 takes any free one. */
export async function listen(
  options: ServeOptions,
): Promise<{ address: string; server: Server; sharing: Sharing | undefined; close: () => Promise<void> }> {
  const tls = tlsOf(options)
  const folder = projectFolder()
  const log = pino({ level: options.logLevel ?? 'warn' }, pino.destination(2))
  const shipped = loadCatalog()
  const samples = readSamples(join(folder, 'demo'), shipped)
  const data = options.data ?? usualData()
  const store = new PlanStore(data, join(folder, 'server/migrations'), { fresh: options.fresh ?? false })
  const work: Work = options.threads === false ? inPlace : (threads() ?? inPlace)
  const shelf = new Shelf(shipped, join(folder, 'catalog'), store, join(data, 'catalog'), work)
  const events = new Events(store)
  const copies = keepCopies(data, store, log)
  const summaries = new Summaries({ store, shelf, work, events, log })
  if (options.demo && (await patiently(() => store.count())) === 0)
    for (const { title, text } of [...samples].reverse()) {
      const { bytes } = await shelf.now()
      const kept = await work.run('keep', { shelf: bytes, from: { text, file: title, misfits: 'refuse' } })
      if (kept.ok) summaries.written(store.create(kept.value).id)
    }
  const web = join(folder, 'dist/web')
  const made = (app: RequestListener): Server => (tls === undefined ? createServer(app) : createTlsServer(tls, app))
  let handle: RequestListener = (_request, response) => response.writeHead(503).end()
  const server = made((request, response) => handle(request, response))
  // A body that drips in, or never comes, holds nothing up.
  server.headersTimeout = 15_000
  server.requestTimeout = 60_000
  server.listen(options.port, options.share ? '0.0.0.0' : '127.0.0.1')
  await Promise.race([once(server, 'listening'), once(server, 'error').then(([error]) => Promise.reject(error))])
  // Neither keeps the port from opening.
  const renewed = summaries.renew().catch((error: unknown) => {
    log.error({ error }, 'summaries could not be made anew')
  })
  const { port } = server.address() as AddressInfo
  const secure = tls !== undefined
  const sharing = options.share ? sharingAt(data, port, secure) : undefined
  const access = new Access({ ...(sharing ? { data, sharing } : {}), secure, rights: store.rights })
  handle = createApp({ store, shelf, samples, work, events, summaries, log, web, access })
  const close = async (): Promise<void> => {
    const stopped = summaries.stop()
    await copies.stop()
    events.close()
    server.closeAllConnections()
    await new Promise<void>((done) => server.close(() => done()))
    await work.close()
    await Promise.all([renewed, stopped])
    store.close()
  }
  return { address: `${secure ? 'https' : 'http'}://127.0.0.1:${port}`, server, sharing, close }
}

/** A certificate or key that cannot be used, in one sentence. */
export class TlsError extends Error {
  override name = 'TlsError'
}

/** Certificate and key, where both are given. */
function tlsOf({ cert, key }: ServeOptions): { cert: Buffer; key: Buffer } | undefined {
  if (cert === undefined && key === undefined) return undefined
  if (cert === undefined || key === undefined)
    throw new TlsError('TLS needs both: expected --cert with the certificate and --key with its key')
  try {
    const pair = { cert: readFileSync(cert), key: readFileSync(key) }
    createSecureContext(pair)
    return pair
  } catch (error) {
    throw new TlsError(`${cert}, ${key}: ${(error as Error).message}; expected a certificate and its key in PEM`)
  }
}
