import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { listen } from './listen.ts'

/** What somebody else would do with the description: make a client of it, hold a program against its types, run it. */
const root = new URL('..', import.meta.url).pathname
// Beneath the packages, so that the made client finds its own.
mkdirSync(join(root, '.cache'), { recursive: true })
const folder = mkdtempSync(join(root, '.cache/client-'))
let running: Awaited<ReturnType<typeof listen>>
beforeAll(async () => {
  running = await listen({ port: 0, data: join(folder, 'data'), logLevel: 'silent', threads: false })
})
afterAll(async () => {
  await running.close()
  rmSync(folder, { recursive: true })
})

const program = (wrong = ''): string => `
import * as client from './made.ts'
client.defaults.baseUrl = process.env.MARKPOST ?? ''
export async function work(): Promise<unknown> {
  const made = await client.postPlans({ title: 'From a client' })
  const { id, revision, plan } = made
  const lamp = { ...plan, boards: { MCU: { board: 'uno-r3' } }, parts: { KEY: { part: 'button' } } }
  const saved = await client.putPlan(id, \`"\${revision}"\`, { plan: lamp })
  const assigned = await client.postPlanAssign(id, { seconds: 2 })
  const list = await client.getPlans({ q: 'client', limit: 5, sort: 'title' })
  const revisions = await client.getPlanRevisions(id)
  const sheet = await client.getPlanSheet(id, 'csv', {})
  const refused = await client.putPlan(id, '"1"', { plan: lamp }).catch((error: { status: number; data: client.Problem }) => error)
  await client.deletePlan(id, {})
  const bin = await client.getBin()
  ${wrong}
  return {
    saved: saved.revision, optimal: assigned.optimal, edits: assigned.edits.length > 0,
    list: list.map(({ title, summary }) => [title, summary?.boards[0]]),
    words: revisions.map(({ words }) => words.length), sheet: String(sheet).slice(0, 3),
    refused: 'data' in refused ? [refused.status, refused.data.title] : [], bin: bin.map(({ title }) => title),
  }
}
`
const typeErrors = (): string => {
  try {
    execFileSync(
      process.execPath,
      [
        join(root, 'node_modules/typescript/bin/tsc'),
        ...'--ignoreConfig --noEmit --strict --skipLibCheck --module nodenext --target es2022 --allowImportingTsExtensions --types node'.split(
          ' ',
        ),
        join(folder, 'program.ts'),
      ],
      { cwd: root, encoding: 'utf8' },
    )
    return ''
  } catch (error) {
    return (error as { stdout: string }).stdout
  }
}

it('a client that is made from the description holds its types and does a whole task', {
  timeout: 60_000,
}, async () => {
  const description = await (await fetch(`${running.address}/api/openapi.json`)).text()
  writeFileSync(join(folder, 'api.json'), description)
  execFileSync(process.execPath, [
    join(root, 'node_modules/oazapfts/dist/cli.js'),
    '--optimistic',
    join(folder, 'api.json'),
    join(folder, 'made.ts'),
  ])
  writeFileSync(join(folder, 'program.ts'), program('const never: number = list[0]!.title; void never'))
  expect(typeErrors()).toContain("Type 'string' is not assignable to type 'number'")
  writeFileSync(join(folder, 'program.ts'), program())
  expect(typeErrors()).toBe('')

  const outfile = join(folder, 'program.mjs')
  await build({
    entryPoints: [join(folder, 'program.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
  })
  process.env.MARKPOST = running.address
  const { work } = (await import(/* @vite-ignore */ pathToFileURL(outfile).href)) as { work: () => Promise<unknown> }
  expect(await work()).toEqual({
    saved: 2,
    optimal: true,
    edits: true,
    list: [['From a client', 'uno-r3']],
    words: [2, 0],
    sheet: expect.any(String),
    refused: [412, 'Changed elsewhere'],
    bin: ['From a client'],
  })
})
