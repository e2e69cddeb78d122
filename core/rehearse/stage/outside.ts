import type { Drive, Pulse } from './liveGroups.ts'

/** Something said on a two-wire bus between boards, by the board that says it, at a moment in microseconds from power-on. */
export type BusTalk = { readonly at: number; readonly from: string; readonly address: number } & (
  | { readonly is: 'device'; readonly sda: number; readonly scl: number }
  | { readonly is: 'call'; readonly sda: number; readonly scl: number; readonly bytes: readonly number[] }
  | { readonly is: 'ask'; readonly sda: number; readonly scl: number; readonly count: number }
  | { readonly is: 'answer'; readonly to: string; readonly bytes: readonly number[] }
)

/** Something that a board has done that others can see: at a line, on a serial line, in the air. */
export type Sent =
  | {
      readonly is: 'drive'
      /** Microseconds from power-on. */
      readonly at: number
      readonly end: string
      readonly net: number
      readonly drive: Drive | undefined
      readonly low: Drive | undefined
      readonly pulse: Pulse | undefined
    }
  | { readonly is: 'byte'; readonly at: number; readonly net: number; readonly byte: number; readonly baud: number }
  | BusTalk
  | { readonly is: 'air'; readonly at: number; readonly from: string; readonly key: string; readonly value: unknown }

/** What the other boards of a plan do while one runs, and the nets at which that is seen. */
export interface Outside {
  readonly sent: readonly Sent[]
  readonly shared: ReadonlySet<number>
}

/** What was sent, as one text: the same doings give the same text. */
export const sentText = (sent: readonly Sent[]): string =>
  JSON.stringify(sent, (_, value) => (typeof value === 'bigint' ? `${value}n` : value))
