// Builds the command line with the server, the catalogue as one file, and (without --no-web) the web application.

import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { build } from 'esbuild'

const root = join(import.meta.dirname, '..')
const dist = join(root, 'dist')
mkdirSync(dist, { recursive: true })
rmSync(join(dist, 'catalog.json'), { force: true })
const bundle = (entries, outdir) =>
  build({
    entryPoints: Object.entries(entries).map(([out, entry]) => ({ in: join(root, entry), out })),
    outdir,
    bundle: true,
    splitting: true,
    outExtension: { '.js': '.mjs' },
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'warning',
    absWorkingDir: root,
  })
await bundle({ writeCatalog: 'scripts/writeCatalog.ts' }, join(root, '.cache'))
const step = (command, args) => {
  const done = spawnSync(command, args, { cwd: root, stdio: ['ignore', 2, 2] })
  if (done.status !== 0) process.exit(done.status ?? 1)
}
step(process.execPath, ['.cache/writeCatalog.mjs'])
rmSync(join(dist, 'cli'), { recursive: true, force: true })
await bundle({ main: 'cli/main.ts', work: 'server/work/worker.ts' }, join(dist, 'cli'))
if (!process.argv.includes('--no-web')) {
  step(process.execPath, ['node_modules/vite/bin/vite.js', 'build', '--logLevel', 'warn'])
  writeServiceWorker(join(dist, 'web'))
}

/** The worker that keeps the application for when its server is away, with the files of this build in it. */
function writeServiceWorker(web) {
  const assets = readdirSync(join(web, 'assets')).sort()
  // Fonts in old formats are fetched by no browser that has service workers.
  const files = [
    '/icon.svg',
    '/manifest.webmanifest',
    ...assets.filter((name) => !name.endsWith('.woff')).map((name) => `/assets/${name}`),
  ]
  const version = createHash('sha256')
    .update(assets.join())
    .update(readFileSync(join(web, 'index.html')))
    .digest('hex')
    .slice(0, 12)
  const text = readFileSync(join(root, 'web/offline/serviceWorker.js'), 'utf8')
  writeFileSync(
    join(web, 'service-worker.js'),
    text.replace('self.__FILES__', JSON.stringify(files)).replace('self.__VERSION__', JSON.stringify(version)),
  )
}
