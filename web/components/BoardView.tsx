import { blockWords } from '../../core/assign/block.ts'
import type { Candidate } from '../../core/assign/candidates.ts'
import type { PinFacts } from '../../core/catalog/boardFacts.ts'
import { countingHint } from '../../core/catalog/boardFacts.ts'
import { flagLabel } from '../../core/sheets/pinChart.ts'
import { layoutPosts, type PostLine } from '../../core/sheets/postLayout.ts'
import { busNeed } from '../../core/wiring/buses.ts'
import type { BoardInstance, Host, SignalUse, Wiring } from '../../core/wiring/model.ts'
import { directionOf, kindOf } from './kinds.tsx'

/** What a post needs to know of the moment. */
export interface YardState {
  readonly wiring: Wiring
  /** Signals by the end of their host. */
  readonly uses: ReadonlyMap<string, readonly SignalUse[]>
  /** While a signal is picked: what each host is worth to it, and the key of the best. */
  readonly candidates:
    | ReadonlyMap<string, { readonly candidate: Candidate; readonly key: string | undefined }>
    | undefined
  readonly picked: SignalUse | undefined
  /** The best of the candidates. */
  readonly best: Candidate | undefined
  readonly lit: ReadonlySet<string>
  /** Ends that a fault speaks of. */
  readonly hurt: ReadonlySet<string>
  readonly onPost: (host: Host) => void
  /** While pins are entered by hand: any post takes the pin at hand, rails too. */
  readonly onEnd: ((end: string) => void) | undefined
  readonly onDropped: (signal: string, host: Host) => void
}

/** A board with its posts: names on plates, what each pin can do as a row of letters, and the flags that hang there. */
export function BoardView({ board, yard }: { board: BoardInstance; yard: YardState }) {
  const { left, right } = layoutPosts(board.facts)
  const rows = Math.max(left.length, right.length)
  const marks = (edge: 'top' | 'middle' | 'bottom'): string =>
    board.board.outline.marks
      .filter((mark) => mark.edge === edge)
      .map((mark) => mark.what)
      .join(', ')
  return (
    <section
      className="board"
      aria-label={`${board.ref}, ${board.board.title}`}
      style={{ '--post': rows > 18 ? '26px' : '31px' } as React.CSSProperties}
    >
      <Column lines={left} side="left" board={board} yard={yard} />
      <div className="body" aria-hidden="true">
        <span>
          {marks('top') && `↑ ${marks('top')}  ·  `}
          {board.board.mcu}
          {marks('bottom') && `  ·  ${marks('bottom')} ↓`}
        </span>
      </div>
      <Column lines={right} side="right" board={board} yard={yard} />
    </section>
  )
}

function Column({
  lines,
  side,
  board,
  yard,
}: {
  lines: readonly PostLine[]
  side: 'left' | 'right'
  board: BoardInstance
  yard: YardState
}) {
  return (
    <div className={`posts ${side}`}>
      {lines.map((line) =>
        line.kind === 'title' ? (
          <div key={line.text} className="head">
            {line.text}
          </div>
        ) : (
          <BoardPost key={line.pin.id} board={board} pin={line.pin} alsoAt={line.alsoAt} yard={yard} />
        ),
      )}
    </div>
  )
}

function BoardPost({
  board,
  pin,
  alsoAt,
  yard,
}: {
  board: BoardInstance
  pin: PinFacts
  alsoAt: readonly string[]
  yard: YardState
}) {
  const end = `${board.ref}.${pin.id}`
  const host = pin.kind === 'io' ? yard.wiring.terminal(end)?.host : undefined
  const first = pin.id === pin.net
  const wires = yard.wiring.plan.wires.filter((wire) => wire[0] === end || wire[1] === end).length
  const finger = pin.label ?? pin.id
  const position = `${pin.header.id}#${pin.position}`
  const code =
    pin.kind !== 'io'
      ? position
      : pin.label !== undefined && pin.label !== pin.id
        ? pin.id.replace(/\.\d+$/, '')
        : (pin.port ?? position)
  const names = [...pin.allNames, ...alsoAt].join(', ')
  return (
    <Post
      end={end}
      host={first ? host : undefined}
      yard={yard}
      finger={finger}
      code={code === finger || finger.length > 6 ? '' : code}
      title={`${names}. ${countingHint(pin)}.${pin.cautions.map((caution) => ` ${caution.text}`).join('')}`}
      cautions={pin.cautions.length > 0}
      rail={
        pin.kind === 'ground'
          ? { letter: 'G', text: wires > 0 ? `${wires} to ground` : '' }
          : pin.kind === 'supply'
            ? { letter: 'V', text: wires > 0 ? `${wires} ${wires === 1 ? 'wire' : 'wires'}` : '' }
            : undefined
      }
      twin={first || pin.kind !== 'io' ? undefined : `same as ${board.facts.pin(pin.net)?.label ?? pin.net}`}
    />
  )
}

interface PostProps {
  readonly end: string
  readonly host: Host | undefined
  readonly yard: YardState
  readonly finger: string
  readonly code: string
  readonly title: string
  /** Something is to be minded of it; the title says what. */
  readonly cautions?: boolean
  readonly rail?: { readonly letter: string; readonly text: string }
  readonly twin?: string
}

const abilities = [
  ['digital-out', 'O', 'output'],
  ['pwm', 'P', 'pulse (PWM)'],
  ['interrupt', 'E', 'edge interrupt'],
  ['analog-in', 'A', 'analog input'],
  ['i2c', 'I', 'I2C'],
  ['spi', 'S', 'SPI'],
  ['uart', 'U', 'UART'],
] as const

/** Letters of the ability row, for the legend. */
export const abilityLegend = abilities.map(([, letter, words]) => `${letter} ${words}`)

export function Post({ end, host, yard, finger, code, title, cautions, rail, twin }: PostProps) {
  const uses = host ? (yard.uses.get(host.end) ?? []) : []
  const judged = host && yard.candidates?.get(host.end)
  const able = judged !== undefined && judged.candidate.blocked === undefined
  const isLit = yard.lit.has(end) || uses.some((use) => yard.lit.has(use.end) || yard.lit.has(use.part.ref))
  const isHurt = yard.hurt.has(end)
  const dim = yard.candidates !== undefined && !able && uses.length === 0
  const remark =
    (judged?.candidate.blocked ? blockWords(judged.candidate.blocked) : undefined) ??
    (judged && (judged.key !== undefined || uses.length === 0)
      ? (judged.candidate.for[0] ?? judged.candidate.against[0])
      : undefined)
  const warn = able && judged.candidate.for.length === 0 && judged.candidate.against.length > 0
  const content = (
    <>
      <span className="plate">
        <span className="finger">{finger}</span>
        <span className="code">{code}</span>
      </span>
      {host && uses.length === 0 && judged?.key === undefined && (
        <span className="cells" aria-hidden="true">
          {abilities.map(([name, letter]) => (
            <i key={name} className={can(host, name) ? '' : 'no'}>
              {can(host, name) ? letter : ''}
            </i>
          ))}
        </span>
      )}
      {judged?.key !== undefined && (
        <span className={`digit ${judged.candidate === yard.best ? 'first' : ''}`}>
          <span>{judged.key}</span>
        </span>
      )}
      {uses.length > 0 && <Flag uses={uses} lit={isLit} hurt={isHurt} />}
      {rail?.text && (
        <span className="flag rail">
          <span className="letter">{rail.letter}</span>
          <span className="text">{rail.text}</span>
        </span>
      )}
      {(remark ?? (uses.length === 0 ? twin : undefined)) !== undefined && !(uses.length > 0 && !able) && (
        <span className={`remark ${warn ? 'warn' : ''}`}>{remark ?? twin}</span>
      )}
    </>
  )
  const className = `post ${uses.length > 0 ? 'held' : ''} ${able ? 'able' : ''} ${dim ? 'dim' : ''} ${isLit && uses.length === 0 ? 'lit' : ''}`
  const { onEnd } = yard
  // A refused pin is pressed to be told why.
  const isPressed = onEnd !== undefined || (host !== undefined && (able || uses.length > 0 || judged !== undefined))
  if (!isPressed)
    return cautions ? (
      // What is to be minded of a free post is read by keyboard too: it shows while the post has the focus.
      <div className={className} title={title} data-post={end} role="note" aria-label={title} tabIndex={0}>
        {content}
      </div>
    ) : (
      <div className={className} title={title} data-post={end}>
        {content}
      </div>
    )
  return (
    <button
      type="button"
      className={className}
      title={title}
      data-post={end}
      aria-label={`${finger} ${code}${uses.length > 0 ? `, carries ${uses.map((use) => use.end).join(', ')}` : ''}${able ? `, suits: ${[...judged.candidate.for, ...judged.candidate.against].join(', ')}` : judged ? `, does not suit: ${remark ?? 'taken'}` : ''}`}
      tabIndex={onEnd || (judged && judged.key === undefined && uses.length === 0) ? -1 : 0}
      onClick={() => (onEnd ? onEnd(end) : host && yard.onPost(host))}
      onDragOver={(event) => host && event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        if (host) yard.onDropped(event.dataTransfer.getData('text/plain'), host)
      }}
    >
      {content}
    </button>
  )
}

function Flag({ uses, lit, hurt }: { uses: readonly SignalUse[]; lit: boolean; hurt: boolean }) {
  const first = uses[0] as SignalUse
  const { letter } = kindOf(first.facts.needs)
  const bus = busNeed(first.facts.needs) !== undefined
  const label = flagLabel(uses)
  const [head, ...rest] = label.split(' ')
  return (
    <span
      className={`flag ${directionOf(first.facts.needs)} ${bus ? 'bus' : ''} ${lit ? 'lit' : ''} ${hurt ? 'hurt' : ''}`}
      title={uses.map((use) => use.end).join(', ')}
    >
      <span className="letter">{letter}</span>
      <span className="text">
        <b>{head}</b> {rest.join(' ')}
        {hurt ? ' ✕' : ''}
      </span>
    </span>
  )
}

function can(host: Host, ability: string): boolean {
  if (ability !== 'i2c' && ability !== 'spi' && ability !== 'uart') return host.functions.has(ability)
  for (const name of host.functions) if (name.startsWith(ability)) return true
  return false
}
