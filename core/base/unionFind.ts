/** Disjoint sets of ends; members keep the order in which they came. */
export class UnionFind {
  readonly #parent = new Map<string, string>()

  add(member: string): void {
    if (!this.#parent.has(member)) this.#parent.set(member, member)
  }

  find(member: string): string {
    let root = member
    for (let up = this.#parent.get(root); up !== undefined && up !== root; up = this.#parent.get(root)) root = up
    for (let at = member; at !== root; ) {
      const next = this.#parent.get(at) as string
      this.#parent.set(at, root)
      at = next
    }
    return root
  }

  join(a: string, b: string): void {
    this.add(a)
    this.add(b)
    this.#parent.set(this.find(b), this.find(a))
  }

  members(): IterableIterator<string> {
    return this.#parent.keys()
  }
}
