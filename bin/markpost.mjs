#!/usr/bin/env node
// Starts the built command line; builds it first where that has not happened yet.
import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'

const built = join(import.meta.dirname, '../dist/cli/main.mjs')
if (!existsSync(built)) {
  const made = spawnSync(process.execPath, [join(import.meta.dirname, '../scripts/build.mjs'), '--no-web'], {
    stdio: ['ignore', 2, 2],
  })
  if (made.status !== 0) process.exit(made.status ?? 1)
}
try {
  const { main } = await import(pathToFileURL(built).href)
  process.exitCode = await main(process.argv.slice(2))
} catch (error) {
  console.error(
    `markpost: cannot start: ${String(error?.message ?? error).split('\n')[0]}; npm run build makes it anew`,
  )
  process.exitCode = 2
}
