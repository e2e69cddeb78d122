// Installs the packages when they are missing or older than the lock file.
import { spawn, spawnSync } from 'node:child_process'
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

/**
 * The database is C that is compiled here: 38 seconds of a core as it is written, 67 with few optimisations, 133 with
 * those of its makers. A list of plans takes 0.4 ms then and not 0.3: its rows are few and short.
 */
const compiling = { env: { CFLAGS: '-O0', CXXFLAGS: '-O0', ...process.env } }

const isInstalled = () =>
  existsSync(stamp) && statSync(stamp).mtimeMs >= statSync(join(root, 'package-lock.json')).mtimeMs

export function installPackages() {
  if (isInstalled()) return
  step('npm', ['ci', '--no-audit', '--no-fund'], compiling)
  writeFileSync(stamp, '')
}

/**
 * The same, with the compiling of the database left to go on beside what does not need it. The promise that comes back
 * settles when everything is there.
 */
export async function installPackagesEarly() {
  if (isInstalled()) return { whole: Promise.resolve() }
  step('npm', ['ci', '--no-audit', '--no-fund', '--ignore-scripts'])
  const rebuild = spawn('npm', ['rebuild'], { cwd: root, stdio: ['ignore', 'ignore', 'inherit'], ...compiling })
  const whole = new Promise((resolve, reject) => {
    rebuild.on('error', reject)
    rebuild.on('exit', (status) => {
      if (status !== 0) {
        reject(new Error(`npm rebuild ended with ${status}`))
        return
      }
      writeFileSync(stamp, '')
      resolve()
    })
  })
  // Who waits for it hears of a failure; nobody else has to.
  whole.catch(() => {})
  return { whole }
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
