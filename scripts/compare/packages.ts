import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/** A package of a registry that holds facts of boards or parts. */
export type Package =
  | { readonly kind: 'npm'; readonly name: string; readonly version: string }
  | { readonly kind: 'debian'; readonly name: string; readonly inner?: { tar: string; folders: readonly string[] } }
  | { readonly kind: 'debian-source'; readonly name: string; readonly suite: string }

/** Source of the kernel: only what is read of it is unpacked. */
export const KERNEL: Package = {
  kind: 'debian',
  name: 'linux-source-6.1',
  inner: {
    tar: 'usr/src/linux-source-6.1.tar.xz',
    folders: ['Documentation/devicetree/bindings', 'arch/arm/boot/dts', 'arch/arm64/boot/dts'],
  },
}

export type Unpacked =
  | { readonly ok: true; readonly folder: string; readonly version: string }
  | { readonly ok: false; readonly why: string }

const ARCHIVE = 'http://deb.debian.org/debian'

/**
 * Fetches a package from its registry and unpacks it into a folder of the cache, once.
 * @returns the folder and the version, or why it is not to be had here; nothing is installed.
 */
export async function unpack(wanted: Package, cache: string): Promise<Unpacked> {
  const target = join(cache, `${wanted.kind}-${wanted.name.replace(/[@/]/g, '_')}`)
  const kept = existsSync(target) ? readdirSync(target)[0] : undefined
  if (kept !== undefined) return { ok: true, folder: join(target, kept), version: kept }
  const work = `${target}.work`
  rmSync(work, { recursive: true, force: true })
  mkdirSync(join(work, 'out'), { recursive: true })
  try {
    const version = await fetchInto(wanted, work)
    mkdirSync(target, { recursive: true })
    renameSync(join(work, 'out'), join(target, version))
    return { ok: true, folder: join(target, version), version }
  } catch (thrown) {
    return { ok: false, why: thrown instanceof Error ? thrown.message : String(thrown) }
  } finally {
    rmSync(work, { recursive: true, force: true })
  }
}

async function fetchInto(wanted: Package, work: string): Promise<string> {
  const out = join(work, 'out')
  if (wanted.kind === 'npm') {
    run('npm', ['pack', '--silent', `${wanted.name}@${wanted.version}`], work)
    run('tar', ['-xzf', join(work, only(work, '.tgz')), '-C', out, '--strip-components=1'], work)
    return wanted.version
  }
  if (wanted.kind === 'debian-source') {
    const index = join(work, 'Sources.xz')
    await download(`${ARCHIVE}/dists/${wanted.suite}/main/source/Sources.xz`, index)
    const listed = spawnSync('xz', ['-dc', index], { encoding: 'utf8', maxBuffer: 1 << 30 })
    const about = listed.stdout.split('\n\n').find((one) => one.startsWith(`Package: ${wanted.name}\n`)) ?? ''
    const place = /^Directory: (.+)$/m.exec(about)?.[1]
    const found = /^ \w+ \d+ (\S+_([^\s_]+)\.orig\.tar\.xz)$/m.exec(about)
    if (place === undefined || found === null) throw new Error(`${wanted.suite} holds no source of ${wanted.name}`)
    const file = join(work, 'source.tar.xz')
    await download(`${ARCHIVE}/${place}/${encodeURIComponent(found[1] ?? '')}`, file)
    run('tar', ['-xJf', file, '-C', out, '--strip-components=1'], work)
    return found[2] ?? 'unknown'
  }
  run('apt-get', ['download', wanted.name], work)
  const archive = only(work, '.deb')
  const { inner } = wanted
  const version = decodeURIComponent(archive.split('_')[1] ?? 'unknown')
  run('dpkg', ['-x', archive, inner === undefined ? out : join(work, 'outer')], work)
  if (inner !== undefined) {
    const some = inner.folders.map((folder) => `*/${folder}/*`)
    run(
      'tar',
      ['-xJf', join(work, 'outer', inner.tar), '-C', out, '--strip-components=1', '--wildcards', ...some],
      work,
    )
  }
  return version
}

async function download(address: string, file: string): Promise<void> {
  const answer = await fetch(address, { signal: AbortSignal.timeout(180_000) })
  if (!answer.ok) throw new Error(`${address} answered ${answer.status}`)
  writeFileSync(file, new Uint8Array(await answer.arrayBuffer()))
}

function run(command: string, given: readonly string[], cwd: string): void {
  const done = spawnSync(command, given, { cwd, encoding: 'utf8' })
  if (done.status === 0) return
  const said = done.error?.message ?? done.stderr.trim().split('\n').at(-1) ?? ''
  throw new Error(`${command} ${given[0]} failed: ${said}`)
}

function only(folder: string, ending: string): string {
  const found = readdirSync(folder).find((name) => name.endsWith(ending))
  if (found === undefined) throw new Error(`the registry gave no ${ending} file`)
  return found
}
