import type { Drive, Pulse } from './live.ts'

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
  | { readonly is: 'air'; readonly at: number; readonly from: string; readonly key: string; readonly value: unknown }

/** What the other boards of a plan do while one runs, and the nets at which that is seen. */
export interface Outside {
  readonly sent: readonly Sent[]
  readonly shared: ReadonlySet<number>
}

/** What was sent, as one text: the same doings give the same text. */
export const sentText = (sent: readonly Sent[]): string =>
  JSON.stringify(sent, (_, value) => (typeof value === 'bigint' ? `${value}n` : value))
