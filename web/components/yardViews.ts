import { counted } from '../../core/base/counted.ts'
import type { BoardInstance, Host, PartInstance, SignalUse, Wiring } from '../../core/wiring/model.ts'

/** One thing to look at in the yard: a board, an expander, or the single outputs together. */
export interface YardView {
  readonly id: string
  readonly title: string
  readonly board: BoardInstance | undefined
  readonly hosts: readonly Host[]
  readonly providers: readonly PartInstance[]
}

/** One view a board, one an expander, and one for all switches and other single outputs. */
export function viewsOf(wiring: Wiring): YardView[] {
  const given = new Map<PartInstance, Host[]>()
  for (const host of wiring.hosts.values())
    if (host.provider) given.set(host.provider, [...(given.get(host.provider) ?? []), host])
  const boards = wiring.boards.map(
    (board): YardView => ({ id: board.ref, title: board.ref, board, hosts: [], providers: [] }),
  )
  const large = [...given]
    .filter(([, hosts]) => hosts.length > 2)
    .map(
      ([part, hosts]): YardView => ({
        id: part.ref,
        title: `${part.ref}, ${counted(hosts.length, 'pin')}`,
        board: undefined,
        hosts,
        providers: [part],
      }),
    )
  const small = [...given].filter(([, hosts]) => hosts.length <= 2)
  const switches: YardView[] =
    small.length === 0
      ? []
      : [
          {
            id: 'switches',
            title: 'Switched outputs',
            board: undefined,
            hosts: small.flatMap(([, hosts]) => hosts),
            providers: small.map(([part]) => part),
          },
        ]
  return [...boards, ...large, ...switches]
}

/** The view on which a signal's pin, or its best candidate, stands. */
export function viewFor(
  views: readonly YardView[],
  host: Host | undefined,
  use: SignalUse | undefined,
): string | undefined {
  const at = use?.hosts[0]?.host ?? host
  if (!at) return use?.part.home?.ref
  return views.find((one) => (one.board ? one.board === at.board : one.hosts.includes(at)))?.id
}

/** Host of the first end that is lit. */
export function litHost(wiring: Wiring, lit: readonly string[]): Host | undefined {
  for (const end of lit) {
    const host = wiring.terminal(end)?.host ?? wiring.signal(end)?.hosts[0]?.host
    if (host) return host
  }
  return undefined
}

/** Signals by the end of their host. */
export function yardUses(wiring: Wiring): Map<string, SignalUse[]> {
  const uses = new Map<string, SignalUse[]>()
  for (const one of wiring.signals)
    for (const { host } of one.hosts) uses.set(host.end, [...(uses.get(host.end) ?? []), one])
  return uses
}
