import { UnionFind } from '../base/unionFind.ts'
import type { Net } from './model.ts'
import type { Mutable } from './sources.ts'

export class NetBuilder {
  readonly #sets = new UnionFind()
  readonly #wired = new Set<string>()
  readonly #metal = new Set<string>()
  add(end: string): void {
    this.#sets.add(end)
  }
  /** An end that only carries wires on. */
  addMetal(end: string): void {
    this.#sets.add(end)
    this.#metal.add(end)
  }
  join(a: string, b: string): void {
    this.#sets.join(a, b)
  }
  wire(a: string, b: string): void {
    this.#sets.join(a, b)
    this.#wired.add(a).add(b)
  }
  build(): { nets: Mutable<Net>[]; netOf: Map<string, Mutable<Net>> } {
    const nets: (Mutable<Net> & { all: string[] })[] = []
    const byRoot = new Map<string, Mutable<Net> & { all: string[] }>()
    const netOf = new Map<string, Mutable<Net>>()
    for (const end of this.#sets.members()) {
      const root = this.#sets.find(end)
      let net = byRoot.get(root)
      if (!net) {
        net = { index: nets.length, ends: [], all: [], sources: [], ground: false, wired: false }
        nets.push(net)
        byRoot.set(root, net)
      }
      net.all.push(end)
      if (this.#wired.has(end)) net.wired = true
      netOf.set(end, net)
    }
    for (const net of nets) {
      const acting = net.all.filter((end) => !this.#metal.has(end))
      net.ends = acting.length > 0 ? acting : net.all
    }
    return { nets, netOf }
  }
}
