import type { Element } from '../circuit/circuit.ts'
import { circuitOf } from '../circuit/circuit.ts'
import type { Net, Wiring } from '../wiring/model.ts'
import { type Joint, joinedBy, type Metal, type Piece, type Spot } from './metal.ts'

/** One touch of the meter's two tips. */
export interface Touch {
  readonly id: string
  readonly a: Spot
  readonly b: Spot
  /** `sounds`: one piece of metal; `silent`: two that must not touch. */
  readonly hears: 'sounds' | 'silent'
  /** What the touch proves: joints in a row, or that two nets do not touch. */
  readonly proves: readonly string[]
  /** Why a silent touch may still give a reading: what lies between the two. */
  readonly through: string | undefined
  readonly net: Net
  readonly other: Net | undefined
}

/** Resistance in ohms under which a meter sounds. */
const SOUNDS_BELOW = 50

/**
 * The least touches that cover every joint that can be loose and every likely short. The metal of a net is a tree: n
 * leaves are covered by half as many paths, each leaf with the one half-way round. Of neighbours one touch a pair of
 * nets is enough, wherever they lie beside each other.
 */
export function continuityTouches(wiring: Wiring, metal: Metal): Touch[] {
  const byNet = new Map<Net, Piece[]>()
  for (const piece of metal.pieces) byNet.set(piece.net, [...(byNet.get(piece.net) ?? []), piece])
  const touching = new Map<number, { joint: Joint; to: number }[]>()
  for (const joint of metal.joints)
    for (const [from, to] of [
      [joint.a, joint.b],
      [joint.b, joint.a],
    ] as const)
      touching.set(from, [...(touching.get(from) ?? []), { joint, to }])
  const opens = [...byNet].flatMap(([net, pieces]) => opensOf(metal, net, pieces, touching))
  return [...opens, ...shortsOf(wiring, metal)]
}

/** Paths through the tree of one net, so that every joint lies on one. */
function opensOf(
  metal: Metal,
  net: Net,
  pieces: readonly Piece[],
  touching: ReadonlyMap<number, readonly { joint: Joint; to: number }[]>,
): Touch[] {
  const touches: Touch[] = []
  const seen = new Set<number>()
  for (const start of rootsOf(pieces, touching)) {
    if (seen.has(start.index)) continue
    const parent = new Map<number, { joint: Joint; from: number }>()
    const leaves: number[] = []
    walk(start.index, touching, seen, parent, leaves)
    // The root is a leaf as well where one way leads on from it.
    const branches = (touching.get(start.index) ?? []).filter(({ to }) => parent.get(to)?.from === start.index).length
    if (branches === 1) leaves.unshift(start.index)
    if (leaves.length < 2) continue
    const half = Math.ceil(leaves.length / 2)
    for (let at = 0; at < half; at += 1) {
      const one = leaves[at] as number
      const two = leaves[(at + Math.floor(leaves.length / 2)) % leaves.length] as number
      const joints = pathBetween(one, two, parent)
      if (joints.every(({ kind }) => kind === 'inside')) continue
      touches.push(soundOf(metal, net, one, two, joints))
    }
  }
  return touches
}

/** Where to begin: a place in the middle of things, so that its net hangs below it as a tree. */
function rootsOf(pieces: readonly Piece[], touching: ReadonlyMap<number, readonly unknown[]>): Piece[] {
  const degree = ({ index }: Piece): number => touching.get(index)?.length ?? 0
  return [...pieces].sort((one, two) => degree(two) - degree(one) || one.index - two.index)
}

function walk(
  start: number,
  touching: ReadonlyMap<number, readonly { joint: Joint; to: number }[]>,
  seen: Set<number>,
  parent: Map<number, { joint: Joint; from: number }>,
  leaves: number[],
): void {
  const stack: number[] = [start]
  seen.add(start)
  while (stack.length > 0) {
    const here = stack.pop() as number
    // What is joined inside a board comes first, so that no loose joint is taken for one that another way hides.
    const next = [...(touching.get(here) ?? [])]
      .filter(({ to }) => !seen.has(to))
      .sort((one, two) => Number(two.joint.kind === 'inside') - Number(one.joint.kind === 'inside'))
    let own = 0
    for (const { joint, to } of next) {
      if (seen.has(to)) continue
      seen.add(to)
      parent.set(to, { joint, from: here })
      stack.push(to)
      own += 1
    }
    if (own === 0 && here !== start) leaves.push(here)
  }
}

/** Joints on the way between two pieces of a tree. */
function pathBetween(one: number, two: number, parent: ReadonlyMap<number, { joint: Joint; from: number }>): Joint[] {
  const upFrom = (at: number): { joint: Joint; at: number }[] => {
    const way: { joint: Joint; at: number }[] = []
    for (let step = parent.get(at), here = at; step; step = parent.get(here)) {
      way.push({ joint: step.joint, at: here })
      here = step.from
    }
    return way
  }
  const [a, b] = [upFrom(one), upFrom(two)]
  const shared = new Set(a.map(({ joint }) => joint))
  const meets = b.filter(({ joint }) => shared.has(joint)).map(({ joint }) => joint)
  const common = new Set(meets)
  return [...a, ...b].map(({ joint }) => joint).filter((joint) => !common.has(joint))
}

const pairId = (kind: string, a: Spot, b: Spot): string => `${kind}:${[a.id, b.id].sort().join('-')}`

function soundOf(metal: Metal, net: Net, one: number, two: number, joints: readonly Joint[]): Touch {
  const [a, b] = [metal.pieces[one]?.spot as Spot, metal.pieces[two]?.spot as Spot]
  return {
    id: pairId('continuity', a, b),
    a,
    b,
    hears: 'sounds',
    proves: joints.filter(({ kind }) => kind !== 'inside').map(({ words }) => words),
    through: undefined,
    net,
    other: undefined,
  }
}

function shortsOf(wiring: Wiring, metal: Metal): Touch[] {
  // What a part joins inside is no joint of this list: each side is proved by itself.
  const sets = joinedBy(metal, metal.joints)
  const pairs = new Map<string, { one: Piece; two: Piece; places: string[] }>()
  for (const [a, b] of metal.neighbours) {
    const [one, two] = [metal.pieces[a], metal.pieces[b]]
    if (!one || !two) continue
    const key = [a, b]
      .map((piece) => sets.find(String(piece)))
      .sort()
      .join(' ')
    const known = pairs.get(key)
    const place = `${one.spot.hole ?? one.spot.id} beside ${two.spot.hole ?? two.spot.id}`
    if (known) known.places.push(place)
    else pairs.set(key, { one, two, places: [place] })
  }
  return [...pairs.values()].map(
    ({ one, two, places }): Touch => ({
      id: pairId('apart', one.spot, two.spot),
      a: one.spot,
      b: two.spot,
      hears: 'silent',
      proves: places,
      through: betweenNets(wiring, one.net, two.net),
      net: one.net,
      other: two.net,
    }),
  )
}

/** What of low resistance lies between two nets, so that the meter gives a reading although nothing is wrong. */
export function betweenNets(wiring: Wiring, one: Net, two: Net): string | undefined {
  const found = circuitOf(wiring)
    .on(one)
    .find(({ netA, netB }) => (netA === one && netB === two) || (netA === two && netB === one))
  return found && readsThrough(found)
}

function readsThrough({ kind, part, ohms }: Element): string | undefined {
  if (kind === 'winding' || kind === 'load') return `${part.ref} lies between: a few ohms are right`
  if (kind === 'shunt') return `${part.ref} lies between: it sounds, and is right`
  if (kind === 'contact') return `${part.ref} lies between: silent only while it is not pressed`
  if (kind === 'resistor' && ohms !== undefined && ohms < SOUNDS_BELOW)
    return `${part.ref} lies between: ${ohms} Ω is right`
  if (kind === 'capacitor') return `${part.ref} lies between: a short chirp while it charges is right`
  return undefined
}

/** Touches that a maker without this list would make: each joint, and each place where two nets lie side by side. */
export const everyJoint = ({ joints, neighbours }: Metal): number =>
  joints.filter(({ kind }) => kind !== 'inside').length + neighbours.length
