// Installs if needed, builds, and starts the application with the sample plans. Arguments go to `markpost serve`.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { installPackages, step } from './install.mjs'

const root = join(import.meta.dirname, '..')
installPackages()
step(process.execPath, ['scripts/build.mjs'])
const server = spawn(process.execPath, ['bin/markpost.mjs', 'serve', '--demo', ...process.argv.slice(2)], {
  cwd: root,
  stdio: 'inherit',
})
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (code) => {
  process.exitCode = code ?? 0
})
