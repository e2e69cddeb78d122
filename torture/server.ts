import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { Agent, request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** A server of its own process on this machine, as a person starts it. */
export interface Running {
  readonly address: string
  readonly process: ChildProcess
  readonly kill: () => Promise<void>
  /** Memory of the process in megabytes. */
  readonly megabytes: () => number
}

export const freshFolder = (): string => mkdtempSync(join(tmpdir(), 'markpost-torture-'))

export async function startServer(checkout: string, data: string, env: NodeJS.ProcessEnv = {}): Promise<Running> {
  const child = spawn(process.execPath, [join(checkout, 'bin/markpost.mjs'), 'serve', '--port', '0', '--data', data], {
    cwd: checkout,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  let said = ''
  const address = await new Promise<string>((resolve, reject) => {
    child.stderr.on('data', (chunk) => {
      said += String(chunk)
    })
    child.stdout.on('data', (chunk) => {
      const found = /http:\/\/\S+/.exec(String(chunk))
      if (found) resolve(found[0])
    })
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}: ${said.trim()}`)))
  })
  return {
    address,
    process: child,
    kill: () =>
      new Promise((done) => {
        if (child.exitCode !== null || child.signalCode !== null) return done()
        child.once('exit', () => done())
        child.kill('SIGKILL')
      }),
    megabytes: () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024,
  }
}

const agent = new Agent({ keepAlive: true, maxSockets: 200 })

export interface Answer {
  readonly status: number
  readonly text: string
  readonly milliseconds: number
  readonly headers: Readonly<Record<string, string | string[] | undefined>>
}

/** One request; a connection that breaks rejects. Lighter than `fetch`, so that fifty clients do not measure themselves. */
export function ask(method: string, url: string, body?: string, headers: Record<string, string> = {}): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const start = performance.now()
    const call = request(
      url,
      {
        method,
        agent,
        headers:
          body === undefined
            ? headers
            : { 'Content-Type': 'application/json', 'Content-Length': String(Buffer.byteLength(body)), ...headers },
      },
      (response) => {
        const chunks: Buffer[] = []
        response.on('data', (chunk: Buffer) => chunks.push(chunk))
        response.on('error', reject)
        response.on('end', () =>
          resolve({
            status: response.statusCode ?? 0,
            text: Buffer.concat(chunks).toString('utf8'),
            milliseconds: performance.now() - start,
            headers: response.headers,
          }),
        )
      },
    )
    call.on('error', reject)
    call.end(body)
  })
}

export const percentile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? 0

export const sleep = (milliseconds: number): Promise<void> => new Promise((done) => setTimeout(done, milliseconds))
