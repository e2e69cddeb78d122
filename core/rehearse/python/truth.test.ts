import { execFileSync } from 'node:child_process'
import { expect, it } from 'vitest'
import { Machine } from '../cpp/machine.ts'
import { pythons } from '../testing/pythons.ts'
import { randomPython } from '../testing/randomPython.ts'
import { builtinNames, plainModules } from './builtins.ts'
import { compilePython } from './compile.ts'

/** What a program prints, rehearsed. */
function printedBy(text: string): string {
  const machine = new Machine()
  let printed = ''
  const builtins = builtinNames(machine, (more) => {
    printed += more
  })
  const program = compilePython([{ name: 'main.py', text }], { builtins, modules: plainModules() }, machine)
  expect(program.refusals).toEqual([])
  program.begin()
  return printed
}

/** The same program under the Python of this machine, and rehearsed: what they print must be the same. */
it.each(pythons)('%s', (_, text) => {
  expect(printedBy(text).split('\n')).toEqual(
    execFileSync('python3', ['-'], { input: text, encoding: 'utf8' }).split('\n'),
  )
})

/** Runs each program of a list by itself, in one interpreter. */
const driver = `import contextlib, io, json, sys
printed = []
for text in json.load(sys.stdin):
    out = io.StringIO()
    with contextlib.redirect_stdout(out): exec(compile(text, 'main.py', 'exec'), {'__name__': '__main__'})
    printed.append(out.getvalue())
json.dump(printed, sys.stdout)`

it('programs made by chance', () => {
  const seeds = Array.from({ length: 200 }, (_, at) => at + 1)
  const texts = seeds.map(randomPython)
  const input = JSON.stringify(texts)
  const python = ['-W', 'ignore', '-c', driver]
  const truth: unknown = JSON.parse(execFileSync('python3', python, { input, encoding: 'utf8', maxBuffer: 1e8 }))
  expect(texts.map(printedBy)).toEqual(truth)
})
