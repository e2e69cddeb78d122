import { assign } from '../assign/assign.ts'
import { staysInBox } from '../assign/left.ts'
import { type OpenEnd, openEnds } from '../assign/openEnds.ts'
import type { Edit, Fix } from '../plan/edit.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import type { Report, Rule } from './finding.ts'
import { listWords } from './shared.ts'

export const pinUnplaced: Rule = {
  meta: {
    id: 'pin-unplaced',
    severities: ['fault', 'caution', 'tip'],
    about:
      'A required pin of a part has no wire yet and is not marked as left open on purpose; or other lines are wired than those over which it speaks. A source that is there beside enough others is a tip, and so is what only helps others while none asks for it.',
    messages: {
      open: '{part}: {open}.',
      half: '{part} speaks over {open}, and {wired} {wired:is/are} wired in {wired:its/their} place.',
      boxed: '{part} feeds nothing: {because}.',
      unused: '{part} has no wire, and everything else has its own.',
    },
    lacking: ['open'],
    fixable: true,
  },
  check(wiring, report) {
    const boxed = new Map(staysInBox(wiring).map((one) => [one.ref, one]))
    for (const part of wiring.parts) {
      const half = otherHalf(wiring, part)
      if (half) {
        sayHalf(wiring, part, half, report)
        continue
      }
      const open = openEnds(wiring, part).filter((one) => one.required && one.why !== 'other-rule')
      if (open.length === 0) continue
      const pins = open.map((one) => one.end.slice(part.ref.length + 1))
      const left = boxed.get(part.ref)
      report({
        severity: left === undefined || left.is === 'unfit' ? 'caution' : 'tip',
        at: open.map((one) => one.end),
        ...(left === undefined
          ? { message: 'open', data: { part: part.ref, open: words(wiring, open, part.ref) } }
          : { message: left.is === 'unused' ? 'unused' : 'boxed', data: { part: part.ref, because: left.why } }),
        why: `${open.map((one) => `${one.end.slice(part.ref.length + 1)} ${one.what}`).join('; ')}. Place ${pins.length === 1 ? 'it' : 'them'}, or mark what you leave open on purpose.`,
        numbers: { open: open.length },
        propose: (): readonly Fix[] => {
          const leave: Edit[] = open.map((one) => ({ do: 'leave-open', end: one.end }))
          const { edits } = assign(wiring, { refs: new Set([part.ref]) })
          return [
            ...(edits.length > 0 ? [{ title: `Place what is open on ${part.ref}`, edits }] : []),
            { title: `Leave ${listWords(pins)} open on purpose`, edits: leave },
          ]
        },
      })
    }
  },
}

/** Lines of a way of speaking that are all open, and others in their place that have a wire. */
interface Half {
  readonly open: readonly string[]
  readonly wired: readonly string[]
}

/** Of a part that can do with fewer lines: as many of the others are wired, and none of those that it needs then. */
function otherHalf(wiring: Wiring, { ref, part, mode }: PartInstance): Half | undefined {
  const ends = (signals: readonly { readonly pin: string }[]): string[] => signals.map(({ pin }) => `${ref}.${pin}`)
  const isWired = (end: string): boolean => wiring.netOf(end).wired
  const open = ends(mode?.signals ?? [])
  if (open.length < 2 || open.some(isWired)) return undefined
  const others = ends(part.modes.flatMap(({ signals }) => signals)).filter((end) => !open.includes(end))
  const wired = [...new Set(others)].filter(isWired)
  return wired.length === open.length ? { open, wired } : undefined
}

function sayHalf(wiring: Wiring, { ref }: PartInstance, { open, wired }: Half, report: (one: Report) => void): void {
  const bare = (end: string): string => end.slice(ref.length + 1)
  report({
    severity: 'fault',
    at: [...wired, ...open],
    message: 'half',
    data: { part: ref, open: open.map(bare), wired: wired.map(bare) },
    why: 'With fewer lines the part takes what it is told over these alone, one half after the other; the rest is left open.',
    numbers: { lines: open.length },
    propose: () => {
      const moved = new Map(wired.map((end, at) => [end, open[at] as string]))
      const mine = wiring.plan.wires.filter(([from, to]) => moved.has(from) || moved.has(to))
      if (mine.some(([, , facts]) => facts?.locked)) return []
      return [
        {
          title: `Move the wires to ${listWords(open.map(bare))}`,
          edits: mine.flatMap(([from, to]): Edit[] => [
            { do: 'disconnect', from, to },
            { do: 'connect', from: moved.get(from) ?? from, to: moved.get(to) ?? to },
          ]),
        },
      ]
    },
  })
}

/** What waits for a wire, and what has one that ends nowhere. */
function words(wiring: Wiring, open: readonly OpenEnd[], ref: string): string {
  const name = ({ end }: OpenEnd): string => end.slice(ref.length + 1)
  const bare = open.filter(({ end }) => !wiring.netOf(end).wired).map(name)
  const dead = open.filter(({ end }) => wiring.netOf(end).wired).map(name)
  return [
    ...(bare.length > 0 ? [`${listWords(bare)} ${bare.length === 1 ? 'has' : 'have'} no wire yet`] : []),
    ...(dead.length > 0
      ? [`${listWords(dead)} ${dead.length === 1 ? 'has a wire that leads' : 'have wires that lead'} nowhere yet`]
      : []),
  ].join(', and ')
}
