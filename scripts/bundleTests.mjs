// Bundles the unit tests into `.cache/tests`, with what several of them use in pieces of its own: loading some thousand
// modules one by one takes a tenth of the time of all tests. Source maps lead each failure back to its line.
import { readdirSync, readFileSync, rmSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'

const root = join(import.meta.dirname, '..')
const outdir = join(root, '.cache/tests')
// The same as in `vitest.config.ts`.
const folders = ['core', 'node', 'server', 'cli', 'web', 'benchmarks', 'torture', 'scripts']
const tests = folders.flatMap((folder) =>
  readdirSync(join(root, folder), { recursive: true })
    .filter((name) => name.endsWith('.test.ts'))
    .map((name) => join(root, folder, name)),
)

/** What a module finds beside itself it finds beside its source. */
const besideSource = {
  name: 'beside-source',
  setup({ onLoad }) {
    onLoad({ filter: /\.tsx?$/ }, ({ path }) => {
      const text = readFileSync(path, 'utf8')
      if (!/import\.meta\.(?:url|dirname)/.test(text)) return undefined
      const contents = text
        .replaceAll('import.meta.url', JSON.stringify(pathToFileURL(path).href))
        .replaceAll('import.meta.dirname', JSON.stringify(dirname(path)))
      return { contents, loader: path.endsWith('x') ? 'tsx' : 'ts' }
    })
  },
}

rmSync(outdir, { recursive: true, force: true })
await build({
  entryPoints: [...tests, join(root, 'core/testing/setup.ts')],
  outdir,
  outbase: root,
  outExtension: { '.js': '.mjs' },
  bundle: true,
  splitting: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  sourcemap: 'linked',
  jsx: 'automatic',
  define: { 'import.meta.env.DEV': 'true', 'import.meta.env.PROD': 'false' },
  plugins: [besideSource],
  logLevel: 'warning',
  absWorkingDir: root,
})
