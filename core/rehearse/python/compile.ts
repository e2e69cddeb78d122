import type { Machine } from '../cpp/machine.ts'
import type { Refusal } from '../cpp/program.ts'
import type { Exec, PyLibrary } from './expressions.ts'
import { PythonCompiler } from './flow.ts'
import { parsePython } from './parser.ts'
import { PyScope } from './scope.ts'
import { type Py, PyModule, Unknown } from './values.ts'

export interface PyCompiled {
  readonly refusals: readonly Refusal[]
  /** Runs the program from its first line. */
  readonly begin: () => void
  readonly headers: readonly { readonly name: string; readonly at: number }[]
}

/**
 * Compiles a Python program of one or more files to closures; `main.py`, `code.py` or the first is run, the others can be imported.
 * @throws SourceError for a text whose syntax cannot be read.
 */
export function compilePython(
  files: readonly { readonly name: string; readonly text: string }[],
  library: PyLibrary,
  machine: Machine,
): PyCompiled {
  const nameOf = (file: { readonly name: string }): string => file.name.replace(/^.*\//, '').replace(/\.py$/, '')
  // The file that firmware starts with, or the first one.
  const start = Math.max(
    0,
    files.findIndex((file) => nameOf(file) === 'main' || nameOf(file) === 'code'),
  )
  // What is described here stands in for a file of the same name, as what is built into a firmware goes before files.
  const own = new Map(
    files.flatMap((file, index) =>
      index !== start && library.modules.has(nameOf(file)) ? [] : [[nameOf(file), index]],
    ),
  )
  const refusals: Refusal[] = []
  const made = new Map<string, PyModule>()
  const unknown: { name: string; at: number }[] = []
  const load = (name: string, at: number): PyModule => {
    const known = made.get(name)
    if (known) return known
    const index = own.get(name)
    if (index !== undefined) return run(index, name)
    const given = library.modules.get(name)
    if (!given) {
      if (!unknown.some((one) => one.name === name)) unknown.push({ name, at })
      return new PyModule(name, new Undescribed())
    }
    const { attrs } = given()
    const tell = (attr: string): void => {
      const whole = `${name}.${attr}`
      if (!unknown.some((one) => one.name === whole)) unknown.push({ name: whole, at: machine.at })
    }
    // Names of pins are all known; of other modules the rest is not described.
    const module = new PyModule(
      name,
      attrs instanceof Map && attrs.constructor === Map ? new Partly(attrs, tell) : attrs,
    )
    made.set(name, module)
    return module
  }
  const compiled = new Map<number, { exec: Exec; size: () => number; attrs: Map<string, Py> }>()
  const prepare = (index: number, name: string): void => {
    const attrs = new Map<string, Py>([['__name__', name]])
    const compiler = new PythonCompiler(machine, library, attrs, load, refusals)
    const scope = new PyScope('module')
    const exec = compiler.block(parsePython(files[index]!.text, index), scope)
    compiled.set(index, { exec, size: () => scope.size, attrs })
  }
  for (const [name, index] of own) prepare(index, index === start ? '__main__' : name)
  const run = (index: number, name: string): PyModule => {
    const { exec, size, attrs } = compiled.get(index)!
    const module = new PyModule(name, attrs)
    made.set(name, module)
    exec({ v: new Array(size()), up: null })
    return module
  }
  const begin = (): void => {
    made.clear()
    run(start, '__main__')
  }
  return { refusals, begin, headers: unknown }
}

/** Names of a module that nobody has described: whatever it is asked for. */
class Undescribed extends Map<string, Py> {
  override get(name: string): Py {
    return super.get(name) ?? new Unknown()
  }
}

/** Names of a module that is described in part: what is not is told of, and gives nought. */
class Partly extends Map<string, Py> {
  readonly #tell: (name: string) => void

  constructor(known: ReadonlyMap<string, Py>, tell: (name: string) => void) {
    super(known)
    this.#tell = tell
  }

  override get(name: string): Py {
    if (super.has(name) || name.startsWith('__')) return super.get(name)
    this.#tell?.(name)
    return new Unknown()
  }
}
