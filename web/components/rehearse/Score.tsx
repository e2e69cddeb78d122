import { memo, type PointerEvent, useRef } from 'react'
import { directionOf, kindOf } from '../kinds.tsx'
import { type ArrangedRow, blockOf, clockWords, lastAt, ruledAt, type ScoreRow, STRIP, stripOf } from './rows.ts'

interface Window {
  readonly from: number
  readonly to: number
}

/** The score: one row a line or part, all under one cursor. */
export function Score(props: {
  readonly rows: readonly ArrangedRow[]
  readonly onFold: (block: string) => void
  readonly onTop: (block: string) => void
  readonly window: Window
  readonly cursor: number
  readonly hurt: ReadonlySet<string>
  readonly onCursor: (at: number) => void
  readonly handleOf: (name: string) => React.ReactNode
  readonly onExpect: (ref: string, words: string) => void
}) {
  const { rows, window, cursor, hurt, onCursor, handleOf, onExpect, onFold, onTop } = props
  const share = (cursor - window.from) / (window.to - window.from)
  return (
    <ol className="score" aria-label="Lines over time">
      {rows.map((row) => {
        const words = lastAt(row.shown, cursor)?.words
        return (
          <li key={row.key} className={hurt.has(row.end ?? row.key) || hurt.has(row.part?.ref ?? '') ? 'hurt' : ''}>
            <RowHead row={row} level={row.end ? lastAt(row.changes, cursor)?.is : undefined}>
              {row.of > 0 && (
                <span className="row-tools">
                  {row.of > 1 && (
                    <button
                      type="button"
                      aria-expanded={!row.isFolded}
                      aria-label={`${row.isFolded ? 'Unfold' : 'Fold'} ${blockOf(row)}`}
                      title={row.isFolded ? `${row.of - 1} more lines` : 'One line for the part'}
                      onClick={() => onFold(blockOf(row))}
                    >
                      {row.isFolded ? '▸' : '▾'}
                    </button>
                  )}
                  <button
                    type="button"
                    aria-label={`${blockOf(row)} to the top`}
                    title="To the top"
                    onClick={() => onTop(blockOf(row))}
                  >
                    ↑
                  </button>
                </span>
              )}
            </RowHead>
            <Strip row={row} window={window} onCursor={onCursor} share={share} />
            <div className="face">
              {words !== undefined && (
                <button
                  type="button"
                  className={`shows ${/^(off|rests|floats)/.test(words) ? '' : 'on'}`}
                  title="Expect it at this moment"
                  onClick={() => onExpect(row.part!.ref, words)}
                >
                  {words}
                </button>
              )}
              {row.handles.map(handleOf)}
            </div>
          </li>
        )
      })}
    </ol>
  )
}

/** Post and flag of a row: filled while high, empty while low, hatched in motion. */
function RowHead({
  row,
  level,
  children,
}: {
  readonly row: ScoreRow
  readonly level: unknown
  readonly children: React.ReactNode
}) {
  const { use, part, post, end } = row
  const need = use?.facts.needs
  const state = level === '1' ? 'high' : typeof level === 'object' ? 'motion' : level === 'z' ? 'loose' : 'low'
  return (
    <div className="row-head">
      <span className="where mono">
        <b>{post === '' ? part?.ref : post}</b>
        {end !== undefined && <small title={end}>{end}</small>}
      </span>
      {use && need ? (
        <span className={`score-flag ${state} ${directionOf(need)}`}>
          <span>
            <i aria-hidden="true">{kindOf(need).letter}</i>
            {use.part.ref} {use.facts.pin}
          </span>
        </span>
      ) : (
        <small className="soft">{part?.title ?? ''}</small>
      )}
      {children}
    </div>
  )
}

function Strip(props: {
  readonly row: ScoreRow
  readonly window: Window
  readonly share: number
  readonly onCursor: (at: number) => void
}) {
  const { row, window, share, onCursor } = props
  const strip = useRef<HTMLDivElement>(null)
  const put = (event: PointerEvent): void => {
    const box = strip.current?.getBoundingClientRect()
    if (!box || (event.type === 'pointermove' && event.buttons !== 1)) return
    const at = Math.min(1, Math.max(0, (event.clientX - box.left) / box.width))
    onCursor(window.from + at * (window.to - window.from))
  }
  return (
    // The slider above the score does the same from the keyboard.
    <div ref={strip} className="strip" onPointerDown={put} onPointerMove={put}>
      <Drawn row={row} from={window.from} to={window.to} />
      {share >= 0 && share <= 1 && <span className="cursor" style={{ left: `${share * 100}%` }} />}
    </div>
  )
}

/** What does not change while the cursor runs. */
const Drawn = memo(function Drawn({
  row,
  from,
  to,
}: {
  readonly row: ScoreRow
  readonly from: number
  readonly to: number
}) {
  const { line, loose, motion } = stripOf(row.changes, from, to)
  const marks = row.end === undefined ? row.shown.filter(({ at }) => at >= from && at <= to) : []
  const x = (at: number): number => ((at - from) / (to - from)) * STRIP.width
  return (
    <svg viewBox={`0 0 ${STRIP.width} ${STRIP.height}`} preserveAspectRatio="none" aria-hidden="true">
      {ruledAt(from, to).map((at) => (
        <line key={at} className="ruled" x1={x(at)} x2={x(at)} y1="0" y2={STRIP.height} />
      ))}
      {motion.map(([a, b]) => (
        <rect
          key={a}
          className="motion"
          x={a}
          width={Math.max(0.8, b - a)}
          y={STRIP.high}
          height={STRIP.low - STRIP.high}
        />
      ))}
      <path className="loose" d={loose} />
      <path className="trace" d={line} />
      {marks.map(({ at }) => (
        <line key={at} className="mark" x1={x(at)} x2={x(at)} y1={STRIP.high} y2={STRIP.low} />
      ))}
    </svg>
  )
})

/** Moments above the score. */
export function Ruler({ window }: { readonly window: Window }) {
  const { from, to } = window
  return (
    <div className="ruler mono" aria-hidden="true">
      {ruledAt(from, to).map((at) => (
        <span key={at} style={{ left: `${((at - from) / (to - from)) * 100}%` }}>
          {clockWords(at)
            .replace(/^00:0?/, '')
            .replace(/0+$/, '')
            .replace(/\.$/, '') || '0'}
        </span>
      ))}
    </div>
  )
}
