import type { Ends } from '../breadboard/lengths.ts'
import type { Language } from '../catalog/boardSchema.ts'

export interface WireRow {
  readonly number: number
  readonly step: number
  readonly from: {
    readonly ref: string
    readonly pin: string
    readonly lead: string | null
    /** Other names of a board's pin or a part's, the printed one first. */
    readonly names: readonly string[]
    /** How to find the place by counting; that of `to` is in the note. */
    readonly find: string
    readonly hole: string | null
  }
  readonly to: {
    readonly ref: string
    readonly pin: string
    readonly lead: string | null
    readonly names: readonly string[]
    readonly hole: string | null
  }
  readonly net: string
  readonly colour: string
  /** Null until the plan has a breadboard. */
  readonly lengthMillimetres: number | null
  readonly ends: Ends
  /** Counting hint and anything else that helps to find the place. */
  readonly note: string
}

export interface PartRow {
  readonly ref: string
  readonly title: string
  readonly part: string
  readonly value: string
  /** The part that this one accompanies. */
  readonly for: string | null
  /** Added by the tool and not yet at hand. */
  readonly buy: boolean
}

/** A part of the plan that the build does without, and why. */
export interface LeftRow {
  readonly ref: string
  readonly why: string
}

export interface JumperRow {
  readonly ends: Ends
  readonly colour: string
  readonly lengthMillimetres: number | null
  readonly count: number
}

export interface StepRow {
  readonly number: number
  readonly title: string
  readonly text: string
  readonly wires: readonly number[]
  /** Parts whose legs go into their holes in this step. */
  readonly places?: readonly string[]
  /** Nothing goes in here. */
  readonly onlyWords?: true
}

export interface PinRow {
  readonly board: string
  readonly header: string
  readonly position: number
  readonly pin: string
  readonly names: readonly string[]
  readonly find: string
  readonly carries: readonly string[]
  /** Numbers of the wires of the wiring table that start or end there. */
  readonly wires: readonly number[]
}

/** A leg that sits in a hole. */
export interface LegRow {
  readonly ref: string
  readonly title: string
  readonly pin: string
  /** Number of a chip's leg, counted round from the notch; null for what is not numbered. */
  readonly number: number | null
  /** What is printed beside a board's pin. */
  readonly names: readonly string[]
  /** How to tell the leg from the others: notch, ring, long leg, sign. */
  readonly mark: string
  readonly hole: string
}

/** A lead of a part's own cable. */
export interface LeadRow {
  readonly ref: string
  readonly title: string
  readonly lead: string
  readonly pin: string
  readonly to: string | null
  readonly hole: string | null
  readonly wire: number | null
}

/** What is plugged on as a whole: its pins, each on a post. */
export interface PlugRow {
  readonly ref: string
  readonly onto: string
  readonly pins: readonly { readonly pin: string; readonly post: string }[]
}

export interface SupplyRow {
  readonly source: string
  readonly volts: number
  readonly limitMilliamps: number | null
  readonly typicalMilliamps: number
  readonly peakMilliamps: number
  readonly feeds: readonly string[]
}

export interface AddressRow {
  readonly bus: string
  readonly ref: string
  readonly title: string
  readonly address: string
  /** Addresses that its straps offer besides and nobody has. */
  readonly others: readonly string[]
}

/** A constant of a board's program. */
export interface ConstantRow {
  readonly board: string
  readonly name: string
  /** End that the maker can give another name to; null for what has no pin. */
  readonly end: string | null
  /** The value in each language of the board. */
  readonly values: Readonly<Partial<Record<Language, string>>>
  readonly about: string
}

/** What programs ask of a part. */
export interface AskRow {
  readonly ref: string
  readonly title: string
  readonly what: string
  readonly give: string
}

/** What a part does, or means, at which levels. */
export interface LevelRow {
  readonly ref: string
  readonly title: string
  readonly does: string
  /** Pins with their levels, or the pin that is read. */
  readonly when: string
  readonly note: string
}

export interface SettingRow {
  readonly board: string
  readonly title: string
  readonly steps: readonly string[]
  readonly lines: readonly string[]
  readonly device: string | null
  readonly needed: boolean
}

/** A step from the last wire to the proof, and what was seen at it. */
export interface RecordRow {
  readonly step: string
  readonly part: string
  readonly title: string
  readonly does: string
  readonly expect: string
  /** `null` while it is not done. */
  readonly seen: 'right' | 'wrong' | null
  readonly value: string | null
  readonly remark: string | null
  /** Time in ISO 8601, universal. */
  readonly at: string | null
}

export interface LabelRow {
  readonly number: number
  readonly from: string
  readonly to: string
}

/** A note of an entry, for all that are of that kind. */
export interface NoteRow {
  readonly refs: readonly string[]
  readonly text: string
}

/** Everything that goes to the workbench, as data; the writers only lay it out. */
/** A step of the rehearsal's script. */
export interface RehearsalRow {
  /** Seconds from power-on. */
  readonly at: number
  readonly does: string
  readonly expects: string
  readonly why: string
}

export interface Sheet {
  readonly title: string
  readonly boards: readonly string[]
  readonly breadboards: readonly string[]
  /** What the bench has no place for, or no hole. */
  readonly missing: readonly string[]
  /** What the catalogue has to say of the boards and parts of this plan, each once. */
  readonly notes: readonly NoteRow[]
  readonly wiring: readonly WireRow[]
  readonly legs: readonly LegRow[]
  readonly leads: readonly LeadRow[]
  readonly plugs: readonly PlugRow[]
  readonly parts: readonly PartRow[]
  /** What gives current and is of no use to the wiring as it stands. */
  readonly left: readonly LeftRow[]
  readonly supplies: readonly SupplyRow[]
  readonly addresses: readonly AddressRow[]
  readonly labels: readonly LabelRow[]
  readonly jumpers: readonly JumperRow[]
  readonly steps: readonly StepRow[]
  readonly pins: readonly PinRow[]
  readonly constants: readonly ConstantRow[]
  readonly asks: readonly AskRow[]
  readonly levels: readonly LevelRow[]
  readonly settings: readonly SettingRow[]
  readonly record: readonly RecordRow[]
  /** The script of the rehearsal, to be gone through by hand on the build. */
  readonly rehearsal: readonly RehearsalRow[]
}
