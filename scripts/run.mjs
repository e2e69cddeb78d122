// Runs a TypeScript file of this project: bundles it and starts the bundle. Usage: node scripts/run.mjs FILE [ARGUMENT…]
import { mkdirSync } from 'node:fs'
import { basename, join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'

const [entry, ...rest] = process.argv.slice(2)
const folder = join(import.meta.dirname, '../.cache/run')
mkdirSync(folder, { recursive: true })
const outfile = join(folder, `${basename(entry).replace(/\.\w+$/, '')}.mjs`)
await build({
  entryPoints: [entry],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  sourcemap: 'inline',
  logLevel: 'warning',
})
process.argv = [process.argv[0], entry, ...rest]
await import(pathToFileURL(outfile).href)
