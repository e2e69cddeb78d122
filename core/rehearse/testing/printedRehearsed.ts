import { Machine } from '../cpp/machine.ts'
import { builtinNames } from '../python/builtins.ts'
import { compilePython } from '../python/compile.ts'
import { files } from '../python/files.ts'
import { plainModules } from '../python/plainModules.ts'

/** What a program of Python prints, rehearsed without a board. @throws Error for one that is not understood. */
export function printedRehearsed(text: string): string {
  const machine = new Machine()
  let printed = ''
  const builtins = builtinNames((more) => {
    printed += more
  })
  const disk = files()
  builtins.set('open', disk.open)
  const program = compilePython([{ name: 'main.py', text }], { builtins, modules: plainModules(disk.os) }, machine)
  if (program.refusals.length > 0) throw new Error(program.refusals.map(({ message }) => message).join('; '))
  program.begin()
  return printed
}
