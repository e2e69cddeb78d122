import { inOnePage } from './pen/page.ts'

/** What the server tells, and `back` when it answers again after it was away. */
export type Heard =
  | { readonly type: 'plan'; readonly id: string; readonly revision: number }
  | { readonly type: 'plan-deleted'; readonly id: string }
  | { readonly type: 'rights' }
  | { readonly type: 'shelf' | 'anything' | 'back' }
  | { readonly type: 'answers'; readonly id: string; readonly lines: readonly string[] }
  | { readonly type: 'summaries'; readonly done: number; readonly of: number }

/**
 * Hears what the server tells. One page of the browser listens for all: a browser keeps six connections to one server,
 * and the seventh page would wait for ever.
 */
export function hearEvents(hear: (event: Heard) => void): void {
  const channel = new BroadcastChannel('markpost.events')
  channel.onmessage = ({ data }: MessageEvent<Heard>) => hear(data)
  inOnePage(() => {
    const source = new EventSource('/api/events')
    let isAway = false
    const tell = (event: Heard): void => {
      hear(event)
      channel.postMessage(event)
    }
    source.onmessage = ({ data }: MessageEvent<string>) => tell(JSON.parse(data) as Heard)
    source.onerror = () => {
      isAway = true
    }
    source.onopen = () => {
      if (isAway) tell({ type: 'back' })
      isAway = false
    }
  })
}
