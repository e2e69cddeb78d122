import type { BoardFacts, PinFacts } from '../catalog/boardFacts.ts'
import type { Board, Caution, Feature } from '../catalog/boardSchema.ts'
import type { Catalog } from '../catalog/catalog.ts'
import type { Levels, PinCurrent } from '../catalog/common.ts'
import type { Part, PartSupply } from '../catalog/partSchema.ts'
import type { Mode, PartPin, Signal, Tie } from '../catalog/signalSchema.ts'
import type { Plan, PlanSupply } from '../plan/planSchema.ts'
import type { Plug } from './plugs.ts'

/**
 * The one resolved model: plan and facts joined, worked out once. Everything downstream reads this and nothing else.
 * Ends are canonical, voltages in volts, currents in milliamperes.
 */
export interface Wiring {
  readonly plan: Plan
  readonly catalog: Catalog
  /** The whole of it, when this is one cut down to what a change touched; then only lists are shorter. */
  readonly whole?: Wiring
  readonly boards: readonly BoardInstance[]
  readonly supplies: readonly SupplyInstance[]
  readonly parts: readonly PartInstance[]
  readonly nets: readonly Net[]
  /** Terminal of an end; undefined for an end that the plan does not have. */
  readonly terminal: (end: string) => Terminal | undefined
  /** Net of an end of this plan. */
  readonly netOf: (end: string) => Net
  /** Signals of all parts, in plan order. */
  readonly signals: readonly SignalUse[]
  readonly signal: (end: string) => SignalUse | undefined
  /** Pins that are fixed instead of run to a host. */
  readonly ties: readonly TieUse[]
  /** Board and expander pins by their first hole's end. */
  readonly hosts: ReadonlyMap<string, Host>
  readonly buses: readonly Bus[]
}

export interface BoardInstance {
  readonly kind: 'board'
  readonly ref: string
  readonly title: string
  readonly facts: BoardFacts
  readonly board: Board
  readonly features: readonly Feature[]
  /** What feeds it: `usb`, or the id of an accepting pin. */
  readonly feed: string | undefined
  /** Net of its ground. */
  readonly ground: Net
}

export interface SupplyInstance {
  readonly kind: 'supply'
  readonly ref: string
  readonly title: string
  readonly entry: PlanSupply
}

export interface PartInstance {
  readonly kind: 'part'
  readonly ref: string
  readonly title: string
  readonly part: Part
  readonly mode: Mode | undefined
  readonly options: Readonly<Record<string, string | number>>
  readonly supplies: readonly SupplyUse[]
  /** Volts at which its logic runs; undefined while it has no supply. */
  readonly logicVolts: number | undefined
  /** Board that it belongs to: named, or found by its wires, or the plan's first. */
  readonly home: BoardInstance | undefined
  /** The header over which it goes as a whole, with the posts that it brings out. */
  readonly header: Plug | undefined
}

export interface SupplyUse {
  readonly facts: PartSupply
  readonly pins: readonly string[]
  readonly grounds: readonly string[]
  readonly source: Source | undefined
  /** Net of the first ground pin that reaches a ground. */
  readonly ground: Net | undefined
  readonly typicalMilliamps: number | undefined
  readonly peakMilliamps: number | undefined
}

/** Something that holds a net at a voltage. */
export interface Source {
  readonly end: string
  readonly ref: string
  /** Above the common ground: of cells in a row those below count as well. */
  readonly volts: number
  /** The cell or supply on whose plus its minus lies. */
  readonly above?: string
  /** Most current for loads in milliamperes, and why, where known. */
  readonly limitMilliamps: number | undefined
  readonly why: string
}

export interface Net {
  readonly index: number
  /** Ends that do something: of boards, supplies and parts. What only carries wires on is left out, unless it is alone. */
  readonly ends: readonly string[]
  /** All ends, those of joints, clamps and terminals among them. */
  readonly all: readonly string[]
  readonly sources: readonly Source[]
  readonly ground: boolean
  /** Ends of this net that are joined by a plan wire or more than one. */
  readonly wired: boolean
}

export interface Terminal {
  readonly end: string
  readonly ref: string
  readonly pin: string
  readonly owner: BoardInstance | SupplyInstance | PartInstance
  readonly boardPin: PinFacts | undefined
  readonly partPin: PartPin | undefined
  readonly host: Host | undefined
}

/** A pin that can carry a part's signal: on a board, or given by a part such as an expander or a switch. */
export interface Host {
  /** End of the first hole. */
  readonly end: string
  readonly ref: string
  /** Id of that pin on its board or part. */
  readonly pin: string
  readonly functions: ReadonlySet<string>
  readonly cautions: readonly Caution[]
  readonly levels: Levels
  readonly current: PinCurrent | undefined
  readonly board: BoardInstance | undefined
  readonly provider: PartInstance | undefined
  readonly note: string | undefined
  /** What the pin of an expander does from power-up to the first word of the program. */
  readonly starts: Part['provides'][number]['starts']
  /** Volts at which its logic runs. */
  readonly logicVolts: number | undefined
}

export type SignalState = 'placed' | 'tied' | 'joined' | 'unused' | 'open'

export interface SignalUse {
  readonly end: string
  readonly part: PartInstance
  readonly facts: Signal
  readonly state: SignalState
  /** Hosts that it reaches, nearest first, and the refs of resistors and shifters on the way. */
  readonly hosts: readonly { readonly host: Host; readonly via: readonly string[] }[]
  /** Where its next wire starts: its own end, or the far leg of a resistor in series. */
  readonly tail: string
  /** Pins of other parts that its line reaches, over resistors, shifters and buffers. */
  readonly meets: readonly string[]
  /** The output that moves it by itself, where the pin that it reaches as well only reads that. */
  readonly movedBy: string | undefined
  /** A resistance that is read by how long it takes to fill a capacitor on its line. */
  readonly fills: boolean
  /** Companions that must stand in series and do not. */
  readonly lacksSeries: boolean
  /** A locked wire holds it. */
  readonly locked: boolean
}

export interface TieUse {
  readonly end: string
  readonly part: PartInstance
  readonly facts: Tie
  /** What it should be joined to: `supply`, `ground` or a pin of the part. */
  readonly to: string
  readonly state: 'right' | 'wrong' | 'open' | 'held' | 'unused'
}

/** Bus signals that hang together on one board. */
export interface Bus {
  readonly kind: 'i2c' | 'spi' | 'uart' | 'i2s' | 'onewire' | 'can'
  readonly board: BoardInstance | undefined
  /** Part whose controller it hangs on: a bus switch, a serial bridge. */
  readonly provider: PartInstance | undefined
  /** Uses by signal name (`sda`, `sck` …), chip selects included. */
  readonly uses: readonly SignalUse[]
  readonly parts: readonly PartInstance[]
  /** Controller that carries it, where one can. */
  readonly controller: string | undefined
}
