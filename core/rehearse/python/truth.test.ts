import { execFileSync } from 'node:child_process'
import { expect, it } from 'vitest'
import { Machine } from '../cpp/machine.ts'
import { pythons } from '../testing/pythons.ts'
import { builtinNames, plainModules } from './builtins.ts'
import { compilePython } from './compile.ts'

/** The same program under the Python of this machine, and rehearsed: what they print must be the same. */
it.each(pythons)('%s', (_, text) => {
  const machine = new Machine()
  let printed = ''
  const builtins = builtinNames(machine, (more) => {
    printed += more
  })
  const program = compilePython([{ name: 'main.py', text }], { builtins, modules: plainModules() }, machine)
  expect(program.refusals).toEqual([])
  program.begin()
  expect(printed.split('\n')).toEqual(execFileSync('python3', ['-'], { input: text, encoding: 'utf8' }).split('\n'))
})
