import { UnionFind } from '../base/unionFind.ts'
import type { Net } from './model.ts'
import type { Mutable } from './sources.ts'

export class NetBuilder {
  readonly #sets = new UnionFind()
  readonly #wired = new Set<string>()
  add(end: string): void {
    this.#sets.add(end)
  }
  join(a: string, b: string): void {
    this.#sets.join(a, b)
  }
  wire(a: string, b: string): void {
    this.#sets.join(a, b)
    this.#wired.add(a).add(b)
  }
  build(): { nets: Mutable<Net>[]; netOf: Map<string, Mutable<Net>> } {
    const nets: (Mutable<Net> & { ends: string[] })[] = []
    const byRoot = new Map<string, Mutable<Net> & { ends: string[] }>()
    const netOf = new Map<string, Mutable<Net>>()
    for (const end of this.#sets.members()) {
      const root = this.#sets.find(end)
      let net = byRoot.get(root)
      if (!net) {
        net = { index: nets.length, ends: [], sources: [], ground: false, wired: false }
        nets.push(net)
        byRoot.set(root, net)
      }
      net.ends.push(end)
      if (this.#wired.has(end)) net.wired = true
      netOf.set(end, net)
    }
    return { nets, netOf }
  }
}
