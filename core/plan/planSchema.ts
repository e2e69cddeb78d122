import * as v from 'valibot'
import { KeptRehearsal } from './rehearsalSchema.ts'
import { reservedWords } from './reservedWords.ts'

/** The plan file as `docs/plan-format.md` describes it. Keys keep their order. */

export const Ref = v.pipe(
  v.string(),
  v.maxLength(40, 'expected at most 40 characters'),
  v.regex(/^[A-Za-z][A-Za-z0-9_-]*$/, 'expected a reference: a letter, then letters, digits, _ or -'),
)

const OneLine = v.pipe(v.string(), v.maxLength(200, 'expected at most 200 characters'))
const Notes = v.pipe(v.string(), v.maxLength(20_000, 'expected at most 20 000 characters'))
const CatalogId = v.pipe(
  v.string(),
  v.maxLength(80, 'expected at most 80 characters'),
  v.regex(/^[a-z0-9][a-z0-9-]*$/, 'expected a catalogue id such as bme280'),
)
export const End = v.pipe(v.string(), v.maxLength(120), v.regex(/^[^.\s]+\..+$/, 'expected an end written REF.PIN'))

export const PlanBoard = v.strictObject({
  board: CatalogId,
  /** Model, where the catalogue tells several apart under one header. */
  variant: v.optional(CatalogId),
  title: v.optional(OneLine),
  uses: v.optional(v.array(CatalogId)),
  /** Clock in hertz that programs set on an I2C controller, by its id; 100 kHz when left out. */
  clocks: v.optional(
    v.record(CatalogId, v.pipe(v.number(), v.minValue(1000, 'expected 1000 Hz or more'), v.maxValue(5_000_000))),
  ),
})
export const PlanSupply = v.strictObject({
  volts: v.pipe(v.number(), v.minValue(0.5, 'expected at least 0.5 V'), v.maxValue(60, 'expected at most 60 V')),
  limitMilliamps: v.optional(
    v.pipe(v.number(), v.minValue(0, 'expected 0 or more'), v.maxValue(1_000_000, 'expected at most 1 000 000 mA')),
  ),
  title: v.optional(OneLine),
})
export const OptionValues = v.record(
  v.pipe(v.string(), v.maxLength(80, 'expected at most 80 characters')),
  v.union([OneLine, v.pipe(v.number(), v.finite('expected a finite number'))]),
)
export const PlanPart = v.strictObject({
  part: CatalogId,
  title: v.optional(OneLine),
  mode: v.optional(CatalogId),
  /** Board that the part belongs to, in a plan of several boards. */
  on: v.optional(Ref),
  options: v.optional(OptionValues),
  /** Added by the tool, since the kit had none: still to be bought, or to be looked for in the box. */
  buy: v.optional(v.literal(true, 'expected true, or the key left out')),
})
/** Solderless breadboard of the bench; those of a plan lie side by side in their order. */
const Row = v.pipe(v.number(), v.integer('expected a whole number'), v.minValue(1), v.maxValue(63))
const RowRange = v.pipe(
  v.strictTuple([Row, Row], 'expected two rows: [20, 30]'),
  v.check(([from, to]) => from <= to, 'expected the first row before the last'),
)

export const Breadboard = v.strictObject({
  kind: v.picklist(['full', 'half', 'mini']),
  /** Rails cut in the middle, as on some full boards. */
  rails: v.optional(v.picklist(['continuous', 'split'])),
  /** Where the + rail lies in each pair; left when left out. */
  plus: v.optional(v.picklist(['left', 'right', 'outer', 'inner'])),
  /** False: the gap of split rails stays open. */
  bridged: v.optional(v.boolean()),
  /** Clipped to the one before, the rails between taken off. */
  joined: v.optional(v.boolean()),
  /** Rows that the program leaves free for what comes later, from and to, both counted. */
  reserved: v.optional(v.pipe(v.array(RowRange), v.maxLength(20, 'expected at most 20 stretches of rows'))),
  /** Board whose parts stand on it. */
  for: v.optional(Ref),
})
export type Breadboard = v.InferOutput<typeof Breadboard>

export const HoleName = v.pipe(
  v.string(),
  v.maxLength(60),
  v.regex(/^[A-Za-z][A-Za-z0-9_-]*\.([a-j]|[LR][+-])\d{1,2}$/, 'expected a hole such as BB1.c12 or BB1.L+12'),
)

/**
 * A place that the maker chose: the hole of the top left leg, the holes of two legs, or beside the breadboard, there also
 * on which side and from which row on.
 */
export const BenchPlace = v.strictObject({
  at: v.optional(HoleName),
  turned: v.optional(v.boolean()),
  legs: v.optional(v.record(v.string(), HoleName)),
  beside: v.optional(v.boolean()),
  side: v.optional(v.picklist(['left', 'right'])),
  row: v.optional(v.pipe(v.number(), v.integer('expected a whole number'), v.minValue(-40), v.maxValue(140))),
})
export type BenchPlace = v.InferOutput<typeof BenchPlace>

export const Bench = v.strictObject({
  breadboards: v.optional(v.record(Ref, Breadboard), {}),
  places: v.optional(v.record(Ref, BenchPlace), {}),
  /** Holes over which the maker leads the wire of an end: a rail that carries its net, or a row of its own. */
  via: v.optional(v.record(End, HoleName)),
  /** Rows left free between bodies; one when left out. */
  spareRows: v.optional(v.pipe(v.number(), v.integer('expected a whole number'), v.minValue(0), v.maxValue(6))),
  /** Wires that are in, each as its two ends: `BB1.a5 BB1.L+7`. */
  done: v.optional(v.array(v.pipe(v.string(), v.maxLength(160))), []),
})
export type Bench = v.InferOutput<typeof Bench>

const Preference = v.picklist(['analog', 'interrupt', 'pwm', 'buses', 'straps', 'console', 'onboard', 'expanders'])
/** What the search can weigh less or more; in words in `core/assign/preferences.ts`. */
export type Preference = v.InferOutput<typeof Preference>

/** What a wire carries, as far as its colour says so. */
export const wireKinds = [
  'ground',
  'supply',
  'second-supply',
  'data',
  'clock',
  'spi',
  'serial',
  'analog',
  'input',
  'output',
] as const
const WireKind = v.picklist(wireKinds)
export type WireKind = (typeof wireKinds)[number]
/** Colours that jumper wires are sold in. */
export const wireColourNames = [
  'black',
  'red',
  'orange',
  'yellow',
  'green',
  'blue',
  'purple',
  'grey',
  'white',
  'brown',
] as const
const WireColour = v.picklist(wireColourNames)
export type WireColour = (typeof wireColourNames)[number]

export const Settings = v.strictObject({
  /** What the search weighs less or more than usual. */
  prefer: v.optional(v.record(Preference, v.picklist(['less', 'more']))),
  /** Colours of the house, by what a wire carries. */
  colours: v.optional(v.record(WireKind, WireColour)),
  /** Questions that were answered, and are not asked again. */
  asked: v.optional(v.pipe(v.array(v.pipe(v.string(), v.maxLength(500))), v.maxLength(200))),
  /** False in a task that is to be solved by oneself: pins are not placed and findings not fixed by the program. */
  hints: v.optional(v.literal(false, 'expected false, or the key left out')),
})

/** Name of a constant, in every language that constants are written in. */
export const ProgramName = v.pipe(
  v.string(),
  v.maxLength(60, 'expected at most 60 characters'),
  v.regex(/^[A-Za-z_][A-Za-z0-9_]*$/, 'expected a name of letters, digits and _, not beginning with a digit'),
  v.check((name) => !reservedWords.has(name), 'expected a name that is no word of C++ or Python itself'),
)

/** What was seen at a step of bring-up. */
export const Proof = v.strictObject({
  at: v.pipe(v.string(), v.isoTimestamp('expected a time such as 2026-11-25T18:40:00Z')),
  value: v.optional(OneLine),
  remark: v.optional(v.pipe(v.string(), v.maxLength(500, 'expected at most 500 characters'))),
  /** It did not come out as planned. */
  wrong: v.optional(v.literal(true, 'expected true, or the key left out')),
})
export type Proof = v.InferOutput<typeof Proof>
export const StepId = v.pipe(v.string(), v.nonEmpty(), v.maxLength(200, 'expected at most 200 characters'))
export const stages = ['planned', 'wired', 'powered', 'proven'] as const
export type Stage = (typeof stages)[number]
export const BringUp = v.strictObject({
  done: v.optional(v.record(StepId, Proof), {}),
  /** How far the build is: worked out from the steps, kept for lists of plans. */
  stage: v.optional(v.picklist(stages)),
})
export type BringUp = v.InferOutput<typeof BringUp>

export const WireFacts = v.strictObject({
  colour: v.optional(OneLine),
  locked: v.optional(v.boolean()),
  note: v.optional(OneLine),
})
export const PlanWire = v.union(
  [v.strictTuple([End, End]), v.strictTuple([End, End, WireFacts])],
  'expected a wire: [REF.PIN, REF.PIN] or [REF.PIN, REF.PIN, { colour: …, locked: … }]',
)
export const Accepted = v.strictObject({
  rule: CatalogId,
  at: v.pipe(v.array(v.pipe(v.string(), v.maxLength(120))), v.maxLength(500, 'expected at most 500 places')),
  because: OneLine,
})

/** A word to whoever works on the plan, pinned to a part, a pin or a finding. */
export const Comment = v.strictObject({
  /** Pin (`REF.PIN`), board, supply or part; with a rule the places of that finding. Nothing: the whole plan. */
  at: v.optional(
    v.pipe(v.array(v.pipe(v.string(), v.maxLength(120))), v.maxLength(500, 'expected at most 500 places')),
    [],
  ),
  /** Rule of the finding that is meant. */
  rule: v.optional(CatalogId),
  text: v.pipe(v.string(), v.nonEmpty('expected a text'), v.maxLength(2000, 'expected at most 2000 characters')),
  by: v.optional(OneLine),
  said: v.optional(v.pipe(v.string(), v.isoTimestamp('expected a time such as 2026-11-25T18:40:00Z'))),
  /** Done with. */
  settled: v.optional(v.literal(true, 'expected true, or the key left out')),
})
export type Comment = v.InferOutput<typeof Comment>
const CommentId = v.pipe(v.string(), v.regex(/^[a-z0-9]{1,20}$/, 'expected an id of small letters and digits'))
const MOST_COMMENTS = 500
const Comments = v.pipe(
  v.record(CommentId, Comment),
  v.check((all) => Object.keys(all).length <= MOST_COMMENTS, `expected at most ${MOST_COMMENTS} comments`),
)

export const Rehearsal = KeptRehearsal(Ref)
export type Rehearsal = v.InferOutput<typeof Rehearsal>

/** A piece of the plan that does not fit the catalogue. */
export const Aside = v.strictObject({
  /** Keys that lead to its place: `[parts, BROOD]`, `[wires]`, `[parts, BROOD, options, address]`. */
  at: v.pipe(v.array(v.string()), v.minLength(1), v.maxLength(5)),
  value: v.unknown(),
  because: v.pipe(v.string(), v.maxLength(500)),
})
export type Aside = v.InferOutput<typeof Aside>

export const Plan = v.strictObject({
  markpost: v.literal(1),
  title: OneLine,
  notes: v.optional(Notes),
  boards: v.optional(v.record(Ref, PlanBoard), {}),
  supplies: v.optional(v.record(Ref, PlanSupply), {}),
  parts: v.optional(v.record(Ref, PlanPart), {}),
  wires: v.optional(v.array(PlanWire), []),
  unused: v.optional(v.array(End), []),
  accepted: v.optional(v.array(Accepted), []),
  /** Breadboards and the places that the maker chose; the rest is laid out by the program. */
  bench: v.optional(Bench),
  settings: v.optional(Settings),
  /** Names of constants in the maker's program, by the end of the signal that they stand for. */
  names: v.optional(v.record(End, ProgramName)),
  bringup: v.optional(BringUp),
  /** Programs of the boards, and the script of their rehearsal. */
  rehearsal: v.optional(Rehearsal),
  /** By ids that mean nothing. */
  comments: v.optional(Comments),
  /** Pieces that the catalogue at hand does not know: kept as they were written, and put back when it does. */
  aside: v.optional(v.array(Aside)),
  /** Catalogue entries of the maker's own that this plan uses, as written, so that it opens elsewhere. */
  own: v.optional(
    v.strictObject({
      boards: v.optional(v.record(CatalogId, v.unknown()), {}),
      parts: v.optional(v.record(CatalogId, v.unknown()), {}),
    }),
  ),
})

export type Plan = v.InferOutput<typeof Plan>
export type PlanBoard = v.InferOutput<typeof PlanBoard>
export type PlanSupply = v.InferOutput<typeof PlanSupply>
export type PlanPart = v.InferOutput<typeof PlanPart>
export type PlanWire = v.InferOutput<typeof PlanWire>
export type WireFacts = v.InferOutput<typeof WireFacts>
export type Accepted = v.InferOutput<typeof Accepted>

/** Most references and wires in one plan: far above any breadboard, below what would stall a browser. */
export const MAX_REFS = 500
export const MAX_WIRES = 2000

export function emptyPlan(title: string): Plan {
  return { markpost: 1, title, boards: {}, supplies: {}, parts: {}, wires: [], unused: [], accepted: [] }
}
