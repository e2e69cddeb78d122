import { isRailsUnit } from '../breadboard/overRails.ts'
import type { Unit } from '../breadboard/units.ts'
import { footprintOf } from '../catalog/footprint.ts'
import { type Ink, tagBox } from './ink.ts'
import type { Box, Place } from './lanes.ts'

export interface LegPicture {
  readonly pin: string
  readonly x: number
  readonly y: number
  readonly hole: string | undefined
}

/** Height of letters: names of legs, names of parts; in pitches. */
export const SMALL = 0.52
const NAME = 0.85
/** Width of a letter of the fixed-width face, by its height. */
const LETTER = 0.6

/** Width of words in the fixed-width face, in the unit of their size. */
export const textWidth = (text: string, size: number): number => text.length * size * LETTER

/** Names of posts stand beside so narrow a board. */
export const isNarrow = ({ width }: Box): boolean => width < 4

/** What a narrow board needs above its posts for its own name, whichever way it lies. */
export const nameRoom = ({ ref }: Unit): number => tagLength(ref) + 0.6

/** As long is the name of a narrow board. */
const tagLength = (ref: string): number => textWidth(ref, SMALL_NAME) + 0.5
const SMALL_NAME = 0.6

/** What a part looks like, from its legs and the box of its body. */
export function bodyInk(unit: Unit, legs: readonly LegPicture[], box: Box): Ink[] {
  if (unit.kind === 'legs') return onTwoLegs(unit, legs)
  const isLying = (unit.kind === 'beside' && legs.every(({ hole }) => hole === undefined)) || unit.kind === 'leads'
  const narrow = isNarrow(box)
  const size = narrow ? SMALL_NAME : NAME
  const high = narrow && unit.owner?.kind === 'board' ? tagLength(unit.ref) / 2 + 0.1 : 0.75
  const middle = { x: box.left + box.width / 2, y: box.top + (isLying ? high : box.height / 2) }
  const names = legs.flatMap((leg) => legName(unit, leg, box))
  // Between two rows of names a long one stands upright.
  const breadth = Math.max(0, ...names.map((name) => (name.is === 'text' ? textWidth(name.text, SMALL) + 0.95 : 0)))
  const long = textWidth(unit.ref, size) + 0.5
  const named =
    unit.kind === 'row' && unit.hangsOver
      ? edgeTag(unit.ref, legs, box)
      : tag(unit.ref, middle, size, unit.kind === 'straddle' && long > box.width - 2 * breadth)
  return [
    { is: 'box', role: 'shell', round: 0.15, ...box },
    ...notch(unit, legs, box),
    ...legs.map(({ x, y }): Ink => ({ is: 'dot', role: 'leg', x, y, r: 0.24 })),
    // Where even so there is no room for both, the part's name stays: the table has those of its legs.
    ...names.filter((name) => !named.some((one) => one.is === 'tag' && covers(tagBox(one), name))),
    ...named,
  ]
}

/** A box lies over the name of a leg, or part of it. */
function covers({ left, top, width, height }: Box, name: Ink): boolean {
  if (name.is !== 'text') return false
  const broad = textWidth(name.text, name.size)
  const from = name.anchor === 'start' ? name.x : name.x - broad
  return from + broad > left && from < left + width && name.y >= top && name.y <= top + height
}

/** The name of a module that hangs over: along its outer edge, away from the names of its legs. */
function edgeTag(text: string, legs: readonly LegPicture[], { left, top, width, height }: Box): Ink[] {
  const isRight = (legs[0]?.x ?? left) - left < width / 2
  const size = Math.min(NAME, (height - 0.6) / (text.length * LETTER))
  const y = top + height / 2
  if (size >= 0.6) return tag(text, { x: isRight ? left + width - 0.85 : left + 0.85, y }, size, true)
  const long = textWidth(text, 0.6) + 0.5
  return tag(text, { x: isRight ? left + width - long / 2 - 0.2 : left + long / 2 + 0.2, y }, 0.6, false)
}

/** The mark at the end of a chip where pin 1 is, whichever way it stands, and a dot beside pin 1; nothing else has one. */
function notch(unit: Unit, legs: readonly LegPicture[], box: Box): Ink[] {
  if (unit.kind !== 'straddle' || unit.owner?.kind !== 'part') return []
  const foot = footprintOf(unit.owner.part, unit.owner.options)
  const first = foot.kind === 'dual-in-line' ? legs.find(({ pin }) => pin === foot.pins[0]) : undefined
  if (!first) return []
  const atTop = first.y - box.top < box.height / 2
  const middle = box.left + box.width / 2
  const y = atTop ? box.top : box.top + box.height
  const deep = atTop ? 0.4 : -0.4
  const onLeft = first.x < middle
  return [
    {
      is: 'line',
      role: 'mark',
      points: [
        { x: middle - 0.4, y },
        { x: middle - 0.3, y: y + deep },
        { x: middle + 0.3, y: y + deep },
        { x: middle + 0.4, y },
      ],
    },
    { is: 'dot', role: 'first', x: first.x + (onLeft ? 0.42 : -0.42), y: first.y + (atTop ? -0.3 : 0.3), r: 0.1 },
  ]
}

/** What stands at a leg: the name of its pin, before it the number where a chip's legs are counted. */
function written(unit: Unit, pin: string): string {
  if (unit.owner?.kind !== 'part') return pin
  const foot = footprintOf(unit.owner.part, unit.owner.options)
  return foot.kind === 'dual-in-line' ? `${foot.pins.indexOf(pin) + 1} ${pin}` : pin
}

/** A leg's name towards the middle of its body, or outside a narrow one; none where there is no room for it. */
function legName(unit: Unit, { pin, x, y }: LegPicture, { left, width }: Box): Ink[] {
  const onLeft = x - left <= left + width - x
  if (isRailsUnit(unit) && width > 6) {
    // Of two legs side by side in the rails the outer one has its name above that of the inner one.
    const isOuter = Math.min(x - left, left + width - x) < 1
    const place = { x: onLeft ? x + 0.42 : x - 0.42, y: isOuter ? y - 0.75 : y }
    return [
      { is: 'text', role: 'pin', ...place, size: SMALL, text: pin, anchor: onLeft ? 'start' : 'end', along: true },
    ]
  }
  const room = Math.max(x - left, left + width - x) - (unit.kind === 'straddle' ? width / 2 : 0) - 0.4
  // Names of a narrow board beside stand outside it.
  const outside = unit.kind === 'beside' && width < 6
  const toRight = onLeft !== outside
  const text = [written(unit, pin), pin].find((one) => outside || textWidth(one, SMALL) <= room)
  if (text === undefined) return []
  const at = { x: toRight ? x + 0.42 : x - 0.42, y }
  const role = outside ? 'post-name' : 'pin'
  return [{ is: 'text', role, ...at, size: SMALL, text, anchor: toRight ? 'start' : 'end', along: true }]
}

const tag = (text: string, { x, y }: Place, size: number, upwards: boolean): Ink[] => [
  { is: 'tag', role: 'tag', x, y, size, text, upwards },
]

/** Bodies of common parts on two legs, in pitches: along the legs, and across. */
const bodies = {
  resistor: [2.5, 0.95],
  diode: [2, 1.05],
  lamp: [2, 2],
  other: [1.8, 1.3],
} as const

const kindOf = (unit: Unit): keyof typeof bodies => {
  if (!unit.owner || unit.owner.kind === 'board') return 'other'
  const { helper, category, polarised } = unit.owner.part
  if (helper === 'resistor') return 'resistor'
  if (helper === 'diode') return 'diode'
  return category === 'light' && polarised ? 'lamp' : 'other'
}

function onTwoLegs(unit: Unit, legs: readonly LegPicture[]): Ink[] {
  const [a, b] = legs
  if (!a || !b) return []
  const span = Math.hypot(b.x - a.x, b.y - a.y) || 1
  const [ux, uy] = [(b.x - a.x) / span, (b.y - a.y) / span]
  const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }
  /** So far along the legs from the middle, and so far across. */
  const at = (along: number, across: number): Place => ({
    x: middle.x + ux * along - uy * across,
    y: middle.y + uy * along + ux * across,
  })
  const kind = kindOf(unit)
  const [long, broad] = bodies[kind]
  const half = Math.min(long, Math.max(0.8, span - 0.5)) / 2
  const shell: Ink =
    kind === 'lamp'
      ? { is: 'dot', role: 'shell', ...middle, r: Math.max(0.75, half) }
      : {
          is: 'line',
          role: 'shell',
          closed: true,
          points: [at(-half, -broad / 2), at(half, -broad / 2), at(half, broad / 2), at(-half, broad / 2)],
        }
  const marks: Ink[] = []
  const anode = legs.findIndex(({ pin }) => pin === 'A' || pin === '+')
  // The ring of a diode and the flat of a lamp are at the cathode.
  const cathode = anode === 0 ? 1 : -1
  if (anode >= 0 && kind !== 'lamp')
    marks.push({
      is: 'line',
      role: 'ring',
      points: [at(cathode * half * 0.62, -broad / 2), at(cathode * half * 0.62, broad / 2)],
    })
  if (anode >= 0 && kind === 'lamp')
    marks.push({
      is: 'line',
      role: 'ring',
      points: [at(cathode * half * 0.92, -0.45), at(cathode * half * 0.92, 0.45)],
    })
  if (anode >= 0)
    marks.push({
      is: 'text',
      role: 'pole',
      ...at(-cathode * (half + 0.28), 0.42),
      size: 0.6,
      text: '+',
      anchor: 'middle',
    })
  const size = Math.max(0.42, Math.min(0.6, (2 * half) / (unit.ref.length * LETTER)))
  return [
    { is: 'line', role: 'wire-leg', points: [a, b] },
    shell,
    ...marks,
    // The legs of a lamp are under it.
    ...(kind === 'lamp' ? [] : legs.map(({ x, y }): Ink => ({ is: 'dot', role: 'leg', x, y, r: 0.2 }))),
    {
      is: 'text',
      role: 'part',
      ...middle,
      size,
      text: unit.ref,
      anchor: 'middle',
      along: true,
      upwards: Math.abs(uy) > Math.abs(ux),
    },
  ]
}
