import type { BoardInstance, Wiring } from '../wiring/model.ts'
import type { SourceFile } from './cpp/preprocess.ts'
import { fileOf, lineOf, SourceError } from './cpp/tokens.ts'
import { type RunOptions, type RunResult, rehearse } from './run.ts'
import { LiveCircuit } from './stage/live.ts'
import { type Outside, type Sent, sentText } from './stage/outside.ts'

/** A board of a plan and its program. */
export interface Player {
  readonly board: BoardInstance
  readonly files: readonly SourceFile[]
}

export interface Together {
  /** Runs by the reference of their board. */
  readonly runs: ReadonlyMap<string, RunResult>
  /** Seconds up to which all boards agree about what they have done to each other; all of the run, mostly. */
  readonly settled: number
  /** What each board has met with in its run. */
  readonly outside: ReadonlyMap<string, Outside>
}

/** A program of one of several boards that cannot be read: which file, and where. */
export class PlayerError extends Error {
  override name = 'PlayerError'
  readonly file: string
  readonly line: number

  constructor({ files }: Player, { at, message }: SourceError) {
    super(message)
    this.file = files[fileOf(at)]?.name ?? files[0]?.name ?? ''
    this.line = lineOf(at)
  }
}

/** Times that the boards are asked again what they do, knowing what the others do. */
const MOST_ROUNDS = 200

/**
 * Programs of several boards on one wiring. Each board runs with what the others did the last time, and once more until
 * nobody does anything else: as causes come before effects, each round is right for a longer time than the one before
 * (waveform relaxation: E. Lelarasmee and others, 1982). The same plan, programs and script always give the same runs.
 * @throws PlayerError for a program whose syntax cannot be read, ScriptError for a script that asks for what is not there.
 */
export function rehearseTogether(wiring: Wiring, players: readonly Player[], options: RunOptions = {}): Together {
  const shared = sharedNets(wiring, players)
  const sent = new Map<string, readonly Sent[]>(players.map(({ board }) => [board.ref, []]))
  const heard = new Map<string, string>()
  const runs = new Map<string, RunResult>()
  const outside = new Map<string, Outside>()
  let settled = Number.POSITIVE_INFINITY
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    let changed = false
    settled = Number.POSITIVE_INFINITY
    for (const player of players) {
      const { board } = player
      const others = players.flatMap((one) => (one.board === board ? [] : (sent.get(one.board.ref) ?? [])))
      const text = sentText(others)
      if (heard.get(board.ref) === text) continue
      heard.set(board.ref, text)
      changed = true
      outside.set(board.ref, { sent: others, shared })
      const run = oneOf(wiring, player, { ...options, outside: outside.get(board.ref) })
      runs.set(board.ref, run)
      settled = Math.min(settled, firstDifference(sent.get(board.ref)!, run.sent) / 1e6)
      sent.set(board.ref, run.sent)
    }
    if (!changed || options.shouldStop?.()) break
  }
  const seconds = Math.max(...[...runs.values()].map((one) => one.seconds))
  return { runs, settled: Math.min(settled, seconds), outside }
}

/** What the boards found together, with the rest of the one that is meant. */
export function asOne(ref: string, { runs, settled }: Together): RunResult {
  const own = runs.get(ref)!
  const others = [...runs].filter(([other]) => other !== ref)
  const known = new Set(own.findings.map(({ message }) => message))
  return {
    ...own,
    findings: [
      ...own.findings,
      // What the script expects is looked at on the board that is meant.
      ...others.flatMap(([, { findings }]) =>
        findings.filter(({ kind, message }) => kind !== 'missed' && !known.has(message)),
      ),
    ],
    seconds: Math.min(own.seconds, settled),
    shows: Object.assign({}, ...others.map(([, { shows }]) => shows), own.shows),
    shown: Object.assign({}, ...others.map(([, { shown }]) => shown), own.shown),
  }
}

function oneOf(wiring: Wiring, player: Player, options: RunOptions): RunResult {
  try {
    return rehearse(wiring, player.board, player.files, options)
  } catch (error) {
    if (error instanceof SourceError) throw new PlayerError(player, error)
    throw error
  }
}

/** The moment from which two boards have done something else; never where they did the same. */
function firstDifference(before: readonly Sent[], after: readonly Sent[]): number {
  const at = after.findIndex((one, index) => sentText([one]) !== sentText(before.slice(index, index + 1)))
  if (at >= 0) return Math.min(after[at]!.at, before[at]?.at ?? Number.POSITIVE_INFINITY)
  return before.length > after.length ? before[after.length]!.at : Number.POSITIVE_INFINITY
}

/** Nets at which a board sees what another one does. */
function sharedNets(wiring: Wiring, players: readonly Player[]): Set<number> {
  const live = new LiveCircuit(wiring)
  const seen = new Map<number, Set<string>>()
  for (const { board } of players)
    for (const host of wiring.hosts.values()) {
      if (host.board !== board) continue
      const net = wiring.netOf(host.end)
      if (!net.wired) continue
      for (const one of live.around(net.index)) seen.set(one, (seen.get(one) ?? new Set()).add(board.ref))
    }
  return new Set([...seen].flatMap(([net, refs]) => (refs.size > 1 ? [net] : [])))
}
