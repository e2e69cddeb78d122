import type { Branch } from '../electrical/network.ts'
import type { Net } from '../wiring/model.ts'
import type { Circuit } from './circuit.ts'
import { type Actor, groundworkOf, type Strand } from './groundwork.ts'

/** What hangs together without crossing a node that is held stiffly. */
export interface Island {
  /** Nets of it that are held by nothing stiff. */
  readonly nets: readonly Net[]
  /** Nets and pins' supplies at its edge, with the volts at which they are held. */
  readonly held: ReadonlyMap<number, number>
  readonly strands: readonly Strand[]
  readonly actors: readonly Actor[]
}

/**
 * Splits a circuit into islands and lists for each what lies in it always and what may change. What no element and no
 * second driver meets is left out: there a pin sees its line's levels, and nothing flows.
 */
export function islandsOf(circuit: Circuit): Island[] {
  const { held: fixed, strands: all, actors } = groundworkOf(circuit)
  const root = new Map<number, number>()
  const find = (node: number): number => {
    let at = node
    for (let up = root.get(at); up !== undefined && up !== at; up = root.get(at)) at = up
    return at
  }
  const join = ({ a, b }: Branch): void => {
    for (const node of [a, b]) if (!fixed.has(node) && !root.has(node)) root.set(node, node)
    if (!fixed.has(a) && !fixed.has(b)) root.set(find(a), find(b))
  }
  for (const strand of all) join(strand)
  const isFree = (node: number): boolean => !fixed.has(node)
  for (const { positions } of actors) {
    const strands = positions.flatMap((one) => one.strands)
    strands.forEach(join)
    // What one actor moves hangs together, such as the two ways of a switch whose middle lies on a supply.
    const [first, ...others] = strands.flatMap(({ a, b }) => [a, b]).filter(isFree)
    if (first !== undefined) for (const other of others) root.set(find(other), find(first))
  }
  // What lies between two held nodes is an island of its own; it is found by its first strand.
  const islands = new Map<string, { nets: Set<Net>; held: Map<number, number>; strands: Strand[]; actors: Actor[] }>()
  const at = ({ a, b }: Branch): string => {
    const free = fixed.has(a) ? (fixed.has(b) ? undefined : b) : a
    return free === undefined ? `${Math.min(a, b)} ${Math.max(a, b)}` : String(find(free))
  }
  const islandAt = (key: string) => {
    let island = islands.get(key)
    if (!island) {
      island = { nets: new Set(), held: new Map(), strands: [], actors: [] }
      islands.set(key, island)
    }
    return island
  }
  const take = (island: ReturnType<typeof islandAt>, { a, b }: Branch): void => {
    for (const node of [a, b]) {
      const held = fixed.get(node)
      if (held !== undefined) island.held.set(node, held)
      else island.nets.add(circuit.wiring.nets[node] as Net)
    }
  }
  for (const strand of all) {
    const island = islandAt(at(strand))
    island.strands.push(strand)
    take(island, strand)
  }
  for (const actor of actors) {
    const strands = actor.positions.flatMap((one) => one.strands)
    const first = strands.find(({ a, b }) => isFree(a) || isFree(b)) ?? strands[0]
    if (!first) continue
    const island = islandAt(at(first))
    island.actors.push(actor)
    for (const strand of strands) take(island, strand)
  }
  return [...islands.values()]
    .filter(({ strands, actors }) => strands.length > 0 || actors.some(({ what }) => !('port' in what)))
    .map((island) => ({ ...island, nets: [...island.nets] }))
}
