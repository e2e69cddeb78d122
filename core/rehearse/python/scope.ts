import type { Py, PyClass } from './values.ts'

/** Variables of one call, with those of the function around it; a body of a class keeps its names apart. */
export interface PyFrame {
  readonly v: Py[]
  readonly up: PyFrame | null
  readonly attrs?: Map<string, Py>
}

/** Where a name lies: so many frames up and there at a place, or in the module. */
export type Where =
  | { readonly is: 'local'; readonly depth: number; readonly slot: number }
  | { readonly is: 'global' }
  | { readonly is: 'class' }

/** Names of a function, a class or a module. */
export class PyScope {
  size = 0
  readonly kind: 'module' | 'function' | 'class'
  readonly parent: PyScope | undefined
  /** The class in whose body a function stands, once it is made. */
  readonly home: { cls: PyClass | undefined } | undefined
  readonly #names = new Map<string, number>()
  readonly #globals = new Set<string>()
  readonly #outer = new Set<string>()
  /** Names of comprehensions, which hide those around them. */
  readonly #inner: Map<string, number>[] = []
  isGenerator = false

  constructor(kind: PyScope['kind'], parent?: PyScope, home?: { cls: PyClass | undefined }) {
    this.kind = kind
    this.parent = parent
    this.home = home ?? (kind === 'function' && parent?.kind === 'function' ? parent.home : undefined)
  }

  slot(): number {
    this.size += 1
    return this.size - 1
  }

  declare(name: string): number {
    const known = this.#names.get(name)
    if (known !== undefined) return known
    const slot = this.slot()
    this.#names.set(name, slot)
    return slot
  }

  global(name: string): void {
    this.#globals.add(name)
  }

  nonlocal(name: string): void {
    this.#outer.add(name)
  }

  isElsewhere(name: string): boolean {
    return this.#globals.has(name) || this.#outer.has(name)
  }

  enter(): void {
    this.#inner.push(new Map())
  }

  leave(): void {
    this.#inner.pop()
  }

  declareInner(name: string): number {
    const slot = this.slot()
    this.#inner.at(-1)!.set(name, slot)
    return slot
  }

  find(name: string): Where {
    for (let at = this.#inner.length - 1; at >= 0; at -= 1) {
      const slot = this.#inner[at]!.get(name)
      if (slot !== undefined) return { is: 'local', depth: 0, slot }
    }
    if (this.#globals.has(name)) return { is: 'global' }
    if (this.kind === 'class') return { is: 'class' }
    if (this.kind === 'module') return { is: 'global' }
    const own = this.#outer.has(name) ? undefined : this.#names.get(name)
    if (own !== undefined) return { is: 'local', depth: 0, slot: own }
    return this.around(name)
  }

  /** The same in what stands around, where classes are passed over. */
  around(name: string): Where {
    let depth = 1
    for (let scope = this.parent; scope; scope = scope.parent) {
      if (scope.kind === 'class') continue
      if (scope.kind === 'module') {
        // A comprehension of the module, in which a function is made.
        for (const inner of [...scope.#inner].reverse()) {
          const slot = inner.get(name)
          if (slot !== undefined) return { is: 'local', depth, slot }
        }
        return { is: 'global' }
      }
      for (const inner of [...scope.#inner].reverse()) {
        const slot = inner.get(name)
        if (slot !== undefined) return { is: 'local', depth, slot }
      }
      const slot = scope.#outer.has(name) ? undefined : scope.#names.get(name)
      if (slot !== undefined) return { is: 'local', depth, slot }
      depth += 1
    }
    return { is: 'global' }
  }
}
