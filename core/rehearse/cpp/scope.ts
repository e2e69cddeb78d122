import type { StructType, Type } from './types.ts'
import type { Get, Value } from './values.ts'

/** A variable: where it lies, and what is known of it. */
export interface Local {
  readonly where: 'frame' | 'global'
  readonly slot: number
  readonly type: Type
  /** Its place holds a pointer to what it stands for. */
  readonly isReference: boolean
  /** Its value never changes and is known. */
  readonly known?: Value
}

interface Captured {
  readonly from: Local
  readonly to: number
  readonly byReference: boolean
}

/** Names inside one function, block by block; a lambda sees those around it and takes along what it uses. */
export class FunctionScope {
  size = 1
  /** Namespace that its function stands in, with `::` behind it. */
  space = ''
  readonly self: StructType | undefined
  readonly outer: FunctionScope | undefined
  readonly captured: Captured[] = []
  readonly initial: { readonly to: number; readonly get: Get }[] = []
  /** Type that it returns; undefined until a lambda has said it. */
  returns: { type: Type; byReference: boolean } | undefined
  readonly #blocks: Map<string, Local>[] = [new Map()]
  readonly #types: Map<string, Type>[] = [new Map()]
  readonly #byReference: (name: string) => boolean

  constructor(
    self: StructType | undefined,
    outer?: FunctionScope,
    byReference: (name: string) => boolean = () => true,
  ) {
    this.self = self
    this.outer = outer
    this.#byReference = byReference
  }

  enter(): void {
    this.#blocks.push(new Map())
    this.#types.push(new Map())
  }

  leave(): void {
    this.#blocks.pop()
    this.#types.pop()
  }

  slot(): number {
    this.size += 1
    return this.size - 1
  }

  declare(name: string, type: Type, isReference: boolean, known?: Value): Local {
    const local: Local = {
      where: 'frame',
      slot: this.slot(),
      type,
      isReference,
      ...(known === undefined ? {} : { known }),
    }
    this.#blocks.at(-1)!.set(name, local)
    return local
  }

  /** A variable that lies elsewhere: static in a function. */
  name(name: string, local: Local): void {
    this.#blocks.at(-1)!.set(name, local)
  }

  nameType(name: string, type: Type): void {
    this.#types.at(-1)!.set(name, type)
  }

  type(name: string): Type | undefined {
    for (let at = this.#types.length - 1; at >= 0; at -= 1) {
      const found = this.#types[at]!.get(name)
      if (found) return found
    }
    return this.outer?.type(name)
  }

  find(name: string): Local | undefined {
    for (let at = this.#blocks.length - 1; at >= 0; at -= 1) {
      const found = this.#blocks[at]!.get(name)
      if (found) return found
    }
    const around = this.outer?.find(name)
    if (!around || around.where === 'global' || around.known !== undefined) return around
    const byReference = this.#byReference(name) || around.isReference
    const to = this.slot()
    this.captured.push({ from: around, to, byReference })
    const local: Local = { where: 'frame', slot: to, type: around.type, isReference: byReference }
    this.#blocks[0]!.set(name, local)
    return local
  }
}
