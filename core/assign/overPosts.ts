import { footprintOf } from '../catalog/footprint.ts'
import { splitEnd } from '../plan/ends.ts'
import type { Wiring } from '../wiring/model.ts'
import { connect, type Decision } from './progress.ts'

/**
 * A cable whose signal goes to a post of a row that is made for its plug takes its supply and ground there too: the plug
 * goes on as a whole, and what feeds it is led to the row once.
 */
export function overPosts(now: Wiring, decisions: readonly Decision[]): readonly Decision[] {
  return now.parts.reduce<readonly Decision[]>((sofar, { ref, part, options }) => {
    const foot = footprintOf(part, options)
    if (foot.kind !== 'leads' || !foot.housing) return sofar
    const own = foot.pins.map((pin) => `${ref}.${pin}`)
    for (const onto of now.parts)
      for (const row of onto.part.plugPosts) {
        const posts = row.map((pin) => `${onto.ref}.${pin}`)
        for (const way of [posts, [...posts].reverse()]) {
          const led = ledOver(now, own, way, sofar)
          if (led) return led
        }
      }
    return sofar
  }, decisions)
}

/** The decisions with a plug put on its posts; undefined where it does not fit there, or what feeds it cannot. */
function ledOver(
  now: Wiring,
  own: readonly string[],
  posts: readonly string[],
  decisions: readonly Decision[],
): readonly Decision[] | undefined {
  if (own.length !== posts.length) return undefined
  const isSignal = (end: string): boolean => now.signal(end) !== undefined
  const pairs = own.map((end, at) => [end, posts[at] as string] as const)
  const onSignal = pairs.filter(([end]) => isSignal(end))
  if (onSignal.length === 0 || !onSignal.every(([end, post]) => now.netOf(end) === now.netOf(post))) return undefined
  const feeding = pairs.filter(([end]) => !isSignal(end))
  const wires = feeding.map(([end]) => decisions.filter(({ from }) => from === end))
  if (wires.some(({ length }) => length !== 1)) return undefined
  let after = decisions
  for (const [at, [end, post]] of feeding.entries()) {
    const wire = wires[at]?.[0] as Decision
    if (wire.to === post) continue
    const led = now.netOf(wire.to)
    const before = after.find(({ from }) => from === post)
    const there = before ? now.netOf(before.to) : now.netOf(post)
    if ((before || there.wired) && there !== led) return undefined
    const { ref } = splitEnd(post)
    after = after.map((one) => (one === wire ? connect(end, post, `the plug goes onto the posts of ${ref}`) : one))
    const feeds = connect(post, wire.to, wire.why)
    // Its ground goes to that of what feeds the row, so that the current does not run through the board.
    if (before) after = led.ground ? after.map((one) => (one === before ? feeds : one)) : after
    else if (!there.wired) after = [...after, feeds]
  }
  return after
}
