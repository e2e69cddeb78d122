// Installs the packages when they are missing or older than the lock file.
import { spawnSync } from 'node:child_process'
import { existsSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const root = join(import.meta.dirname, '..')
const stamp = join(root, 'node_modules/.markpost-installed')

/** Runs a command in the project's folder; ends the process when it fails. */
export function step(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (done.error) {
    console.error(`${command}: ${done.error.message}`)
    process.exit(1)
  }
  if (done.status !== 0) process.exit(done.status ?? 1)
}

export function installPackages() {
  if (existsSync(stamp) && statSync(stamp).mtimeMs >= statSync(join(root, 'package-lock.json')).mtimeMs) return
  step('npm', ['ci', '--no-audit', '--no-fund'])
  writeFileSync(stamp, '')
}

/** Debian's Chromium drives the browser tests; nothing else is downloaded. */
export function installChromium() {
  if (existsSync('/usr/bin/chromium')) return
  const isRoot = process.getuid?.() === 0
  const apt = (...args) => (isRoot ? step('apt-get', args) : step('sudo', ['apt-get', ...args]))
  console.error('Installing Debian’s Chromium for the browser tests …')
  apt('update', '-qq')
  apt('install', '-y', '-qq', '--no-install-recommends', 'chromium')
}
