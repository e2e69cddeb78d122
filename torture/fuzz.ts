import { readdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { seeded } from '../core/base/random.ts'
import { projectFolder } from '../node/builtCatalog.ts'
import { emptyShelf } from '../server/work/shelfBytes.ts'
import { tasks } from '../server/work/tasks.ts'
import { ask, freshFolder, startServer } from './server.ts'

type Random = () => number

/** Milliseconds from which an answer is counted as slow, and from which it is a fault. */
const SLOW = 1000
const HANGS = 10_000

/** Names that meet what objects inherit, numbers at every edge, texts that no file keeps. */
const hostile: readonly unknown[] = [
  'constructor',
  'toString',
  '__proto__',
  'prototype',
  'hasOwnProperty',
  'valueOf',
  '',
  ' ',
  '.',
  '..',
  'MCU.',
  '.GPIO4',
  0,
  -0,
  -1,
  1e308,
  -1e308,
  1e-308,
  2 ** 53,
  0.1,
  Number.MAX_SAFE_INTEGER,
  null,
  true,
  false,
  [],
  {},
  [[]],
  [{}],
  'x'.repeat(5000),
  'A'.repeat(39),
  '\u0000',
  '\uFFFD',
  '\uD800',
  '\u202E',
  '\r\n',
  '=1+1',
  '日本',
  '🙂',
  '{',
  '- a',
  '&a',
  '*a',
  '!!float led',
  '.inf',
  '.nan',
  '0x76',
  '1e999',
]

const readAll = (folder: string): string[] =>
  readdirSync(folder)
    .filter((name) => name.endsWith('.yaml'))
    .map((name) => readFileSync(join(folder, name), 'utf8'))

/** A text with some letters changed, doubled, cut out or put elsewhere. */
function bytes(random: Random, seedText: string): string {
  let text = seedText
  for (let n = Math.floor(random() * 6); n >= 0; n -= 1) {
    const at = Math.floor(random() * text.length)
    const length = Math.floor(random() * 30)
    const dice = random()
    if (dice < 0.25) text = text.slice(0, at) + text.slice(at + length)
    else if (dice < 0.5) text = text.slice(0, at) + String.fromCodePoint(Math.floor(random() * 0x2fff)) + text.slice(at)
    else if (dice < 0.75)
      text = text.slice(0, at) + text.slice(at, at + length).repeat(1 + Math.floor(random() * 5)) + text.slice(at)
    else text = text.slice(0, at) + '[]{}:,-&*!|>\'"%@`#?\n\t '[Math.floor(random() * 24)] + text.slice(at + 1)
  }
  return text
}

/** A value of any shape. */
function grammar(random: Random, depth = 0): unknown {
  const dice = random()
  if (depth > 4 || dice < 0.4) return hostile[Math.floor(random() * hostile.length)]
  const size = Math.floor(random() * 5)
  if (dice < 0.6) return Array.from({ length: size }, () => grammar(random, depth + 1))
  const keys = [
    'boards',
    'parts',
    'wires',
    'options',
    'part',
    'board',
    'title',
    'at',
    'legs',
    'own',
    'bench',
    'toString',
    'constructor',
    'x y',
    '1',
  ]
  return Object.fromEntries(
    Array.from({ length: size }, () => [keys[Math.floor(random() * keys.length)], grammar(random, depth + 1)]),
  )
}

/** A sound value with one to three of its values or keys made hostile. */
function spoiled(random: Random, value: unknown): unknown {
  const copy: unknown = structuredClone(value)
  for (let n = Math.floor(random() * 3); n >= 0; n -= 1) {
    let at: unknown = copy
    for (;;) {
      if (typeof at !== 'object' || at === null) break
      const keys = Object.keys(at)
      const key = keys[Math.floor(random() * keys.length)]
      if (key === undefined) break
      const inner: unknown = Reflect.get(at, key)
      if (typeof inner === 'object' && inner !== null && random() < 0.75) {
        at = inner
        continue
      }
      const bad = random() < 0.8 ? hostile[Math.floor(random() * hostile.length)] : grammar(random, 3)
      if (random() < 0.25 && !Array.isArray(at)) Reflect.set(at, String(hostile[Math.floor(random() * 8)]), bad)
      else if (random() < 0.1) Reflect.deleteProperty(at, key)
      else Reflect.set(at, key, bad)
      break
    }
  }
  return copy
}

const stringify = (value: unknown): string => {
  try {
    return JSON.stringify(value) ?? 'null'
  } catch {
    return 'null'
  }
}

interface Tally {
  inputs: number
  taken: number
  slow: number
  slowest: number
  readonly crashes: string[]
}

/** Feeds inputs to the reader, the checks, the sheets and the search, and counts what breaks or takes over a second. */
export async function tortureByFuzzing(checkout: string, inputs: number): Promise<string[]> {
  const tally: Tally = { inputs: 0, taken: 0, slow: 0, slowest: 0, crashes: [] }
  const root = projectFolder()
  const plans = readAll(join(root, 'demo'))
  const opened = plans
    .map((text) => tasks.open({ shelf: emptyShelf, text, title: 'seed' }))
    .flatMap((one) => (one.ok ? [JSON.parse(one.value) as object] : []))
  const small = opened.map((plan) => plan)
  const entries = (['parts', 'boards'] as const).flatMap((kind) =>
    readAll(join(root, 'catalog', kind)).map((text) => ({ kind, text })),
  )
  const time = (what: string, call: () => boolean, note: () => string): void => {
    const start = performance.now()
    tally.inputs += 1
    try {
      if (call()) tally.taken += 1
    } catch (error) {
      if (tally.crashes.length < 20)
        tally.crashes.push(
          `${what}: ${error instanceof Error ? error.stack?.split('\n').slice(0, 4).join(' | ') : String(error)} :: ${note().slice(0, 300)}`,
        )
    }
    const took = performance.now() - start
    // How slow it is depends on what else the machine does, and is a figure; what hangs is a fault.
    if (took > SLOW) tally.slow += 1
    if (took > HANGS && tally.crashes.length < 20)
      tally.crashes.push(`${what}: took ${Math.round(took)} ms :: ${note().slice(0, 300)}`)
    tally.slowest = Math.max(tally.slowest, took)
  }
  const keep = (from: Parameters<typeof tasks.keep>[0]['from'], before?: string): boolean => {
    const kept = tasks.keep({ shelf: emptyShelf, from, before })
    if (!kept.ok) return false
    const again = tasks.open({ shelf: emptyShelf, text: kept.value.text, title: 'again' })
    if (!again.ok) throw new Error(`kept, and cannot be opened: ${again.problems[0]?.message}`)
    return true
  }
  const share = Math.floor(inputs / 5)
  const random = seeded(inputs)
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!
  for (let n = 0; n < share; n += 1) {
    const text = bytes(random, one(plans))
    time(
      'bytes',
      () => keep({ text, file: 'f', misfits: random() < 0.5 ? 'refuse' : 'set-aside' }),
      () => text,
    )
  }
  for (let n = 0; n < share; n += 1) {
    const value = random() < 0.5 ? grammar(random) : { markpost: 1, title: 'x', ...(grammar(random) as object) }
    const text = stringify(value)
    if (random() < 0.5)
      time(
        'grammar as text',
        () => keep({ text, file: 'f', misfits: 'set-aside' }),
        () => text,
      )
    else
      time(
        'grammar as value',
        () => keep({ plan: value }),
        () => text,
      )
  }
  for (let n = 0; n < share; n += 1) {
    const plan = spoiled(random, one(small))
    time(
      'hostile plan',
      () => keep({ plan }, random() < 0.3 ? one(plans) : undefined),
      () => stringify(plan),
    )
    if (n % 40 === 0) {
      const text = stringify(plan)
      const as = one(['csv', 'markdown', 'html', 'svg', 'json'] as const)
      time(
        'sheet',
        () => 'ok' in tasks.sheet({ shelf: emptyShelf, text, as, only: undefined, paper: 'A4', revision: 1 }),
        () => text,
      )
      time(
        'search',
        () => tasks.assign({ shelf: emptyShelf, text, milliseconds: 300 }).ok,
        () => text,
      )
    }
  }
  for (let n = 0; n < share; n += 1) {
    const { kind, text } = one(entries)
    const spoiledText =
      random() < 0.4 ? bytes(random, text) : text.replace(/: ([^\n{[]+)$/m, () => `: ${String(one(hostile))}`)
    const texts =
      random() < 0.5
        ? [{ kind, from: 'e', text: spoiledText }]
        : [{ kind, from: 'e', text: stringify(spoiled(random, parsed(text))) }]
    time(
      'own entry',
      () => {
        const [read] = tasks.entries({ shelf: emptyShelf, texts })
        if (!read?.ok) return false
        // What holds is put to use.
        const plan = {
          markpost: 1,
          title: 'x',
          own: { [kind]: { [read.id]: JSON.parse(read.raw) } },
          boards: kind === 'boards' ? { MCU: { board: read.id } } : { MCU: { board: 'uno-r3' } },
          parts: kind === 'parts' ? { A: { part: read.id } } : { A: { part: 'led' } },
          bench: { breadboards: { BB1: { kind: 'full' } } },
        }
        keep({ plan })
        if (n % 10 === 0)
          tasks.sheet({
            shelf: emptyShelf,
            text: stringify(plan),
            as: 'html',
            only: undefined,
            paper: 'A4',
            revision: 1,
          })
        return true
      },
      () => texts[0]!.text,
    )
  }
  const http = await fuzzHttp(checkout, random, inputs - tally.inputs, small, time)
  return [
    `${tally.inputs.toLocaleString('en')} fuzzed inputs (bytes, grammar, hostile values, own entries, ${http.toLocaleString('en')} over HTTP): ${tally.crashes.length} crashes or worse, ${tally.slow} over a second, slowest ${Math.round(tally.slowest)} ms, ${tally.taken.toLocaleString('en')} taken`,
    ...tally.crashes.map((line) => `FAILED: ${line}`),
  ]
}

const parsedTexts = new Map<string, unknown>()
function parsed(text: string): unknown {
  if (!parsedTexts.has(text)) parsedTexts.set(text, yaml(text))
  return parsedTexts.get(text)
}
function yaml(text: string): unknown {
  const [read] = tasks.entries({
    shelf: emptyShelf,
    texts: [{ kind: 'parts', from: 'seed', text: text.replace(/^id: (.*)$/m, 'id: seed-$1') }],
  })
  return read?.ok ? JSON.parse(read.raw) : {}
}

async function fuzzHttp(
  checkout: string,
  random: Random,
  inputs: number,
  plans: readonly object[],
  time: (what: string, call: () => boolean, note: () => string) => void,
): Promise<number> {
  const data = freshFolder()
  const server = await startServer(checkout, data)
  const id = JSON.parse((await ask('POST', `${server.address}/api/plans`, JSON.stringify({ title: 'Fuzz' }))).text)
    .id as string
  const paths = [
    '/api/plans',
    `/api/plans/${id}`,
    `/api/plans/${id}/sheet`,
    `/api/plans/${id}/file`,
    `/api/plans/${id}/copy`,
    '/api/entries/parts',
    '/api/entries/boards/x',
    '/api/boards/x',
    '/api/parts/led',
    '/api/plans/none',
    '/api/none',
    '/api/catalog',
    '/api/state',
    '/api/samples',
    '/',
  ]
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!
  const word = (): string => encodeURIComponent(stringify(one(hostile)).slice(0, 60)).replaceAll('%22', '')
  const client = async (count: number): Promise<void> => {
    for (let n = 0; n < count; n += 1) {
      const method = one(['GET', 'GET', 'PUT', 'POST', 'POST', 'DELETE', 'PATCH', 'HEAD'])
      let path = one(paths)
      if (random() < 0.3) path = path.replace(id, word())
      if (random() < 0.4)
        path += `?${one(['as', 'only', 'limit', 'offset', 'q', 'sort', 'paper', 'used'])}=${random() < 0.5 ? one(['csv', 'html', 'svg', 'build,build', 'cover', '5']) : word()}`
      const body = ['GET', 'HEAD', 'DELETE'].includes(method)
        ? undefined
        : random() < 0.2
          ? bytes(random, '{"plan":{"markpost":1,"title":"x"}}')
          : stringify(
              one([
                { plan: spoiled(random, one(plans)) },
                { title: grammar(random) },
                { text: bytes(random, stringify(one(plans))) },
                grammar(random),
              ]),
            )
      // The plan that is worked on stays.
      if (method === 'DELETE' && path.includes(id)) continue
      const headers: Record<string, string> = {
        'If-Match': one(['"1"', '"2"', '*', 'W/"1"', '"x"', '']),
        ...(random() < 0.1 ? { 'Content-Type': one(['text/plain', 'application/json; charset=x', 'a/b']) } : {}),
      }
      let answer: Awaited<ReturnType<typeof ask>> | undefined
      let failure: unknown
      try {
        answer = await ask(method, server.address + path, body, headers)
      } catch (error) {
        failure = error
      }
      time(
        'HTTP',
        () => {
          if (failure) throw failure
          const { status, milliseconds } = answer!
          if (status === 500) throw new Error(`500: ${answer!.text}`)
          if (milliseconds > HANGS) throw new Error(`took ${Math.round(milliseconds)} ms`)
          return status < 300
        },
        () => `${method} ${path} ${body ?? ''}`,
      )
    }
  }
  await Promise.all([client(Math.floor(inputs / 2)), client(Math.ceil(inputs / 2))])
  const isAlive = (await ask('GET', `${server.address}/api/state`)).status === 200
  time(
    'HTTP',
    () => {
      if (!isAlive || server.process.exitCode !== null) throw new Error('the server is gone')
      return true
    },
    () => '',
  )
  await server.kill()
  rmSync(data, { recursive: true })
  return inputs
}
