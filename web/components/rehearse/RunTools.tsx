import { Button, Form } from 'react-bootstrap'
import type { RunData } from '../../workers/rehearsal.ts'
import { clockWords } from './rows.ts'

const SPEEDS = [0.1, 0.25, 1, 4] as const

interface RunToolsProps {
  readonly run: RunData
  /** Moments at which a line changes, in microseconds. */
  readonly moments: readonly number[]
  readonly cursor: number
  readonly plays: boolean
  readonly speed: number
  readonly zoom: number
  readonly onPlay: (plays: boolean) => void
  readonly onSpeed: (speed: number) => void
  readonly onZoom: (zoom: number) => void
  /** To a moment in microseconds; what plays goes on. */
  readonly onCursor: (microseconds: number) => void
  /** To the next of some moments, or the end, and held there. */
  readonly onNext: (microseconds: number | undefined) => void
  readonly onStatement: () => void
}

/** Where in the run one looks: play and hold, from change to change, and how close. */
export function RunTools({
  run,
  moments,
  cursor,
  plays,
  speed,
  zoom,
  onPlay,
  onSpeed,
  onZoom,
  onCursor,
  onNext,
  onStatement,
}: RunToolsProps) {
  const all = run.seconds * 1e6
  return (
    <div className="rehearse-tools">
      <Button
        size="sm"
        variant="dark"
        onClick={() => {
          if (cursor >= all) onCursor(0)
          onPlay(!plays)
        }}
      >
        {plays ? 'Hold' : 'Play'}
      </Button>
      <Button
        size="sm"
        variant="outline-dark"
        onClick={() => onCursor(moments.filter((one) => one < cursor - 0.5).at(-1) ?? 0)}
      >
        Back a change
      </Button>
      <Button
        size="sm"
        variant="outline-dark"
        onClick={() => onCursor(moments.find((one) => one > cursor + 0.5) ?? all)}
      >
        Until a line changes
      </Button>
      <Button size="sm" variant="outline-dark" onClick={() => onStatement()}>
        Next statement
      </Button>
      {run.rounds.length > 0 && (
        <Button size="sm" variant="outline-dark" onClick={() => onNext(run.rounds.find((one) => one > cursor + 0.5))}>
          Next loop
        </Button>
      )}
      <Form.Select size="sm" aria-label="Speed" value={speed} onChange={(event) => onSpeed(Number(event.target.value))}>
        {SPEEDS.map((one) => (
          <option key={one} value={one}>
            × {one}
          </option>
        ))}
      </Form.Select>
      <input
        type="range"
        className="cursor-range"
        aria-label="Moment"
        aria-valuetext={clockWords(cursor)}
        min={0}
        max={all}
        step={Math.max(1, all / 1000)}
        value={cursor}
        onChange={(event) => onCursor(Number(event.target.value))}
      />
      <output className="mono">{clockWords(cursor)}</output>
      <Button size="sm" variant="outline-dark" aria-label="Closer" onClick={() => onZoom(zoom * 2)}>
        +
      </Button>
      <Button
        size="sm"
        variant="outline-dark"
        aria-label="Further"
        disabled={zoom === 1}
        onClick={() => onZoom(Math.max(1, zoom / 2))}
      >
        −
      </Button>
    </div>
  )
}

/** How long the program was deaf at most, and how often it went round. */
export function RunFoot({ run }: { readonly run: RunData }) {
  return (
    <p className="rehearse-foot mono">
      longest deaf{' '}
      <b>
        {run.longest.seconds < 0.1
          ? `${(run.longest.seconds * 1000).toFixed(1)} ms`
          : `${run.longest.seconds.toFixed(2)} s`}
      </b>
      {run.longest.line > 0 && `, line ${run.longest.line}`}
      {run.loops > 0 && (
        <>
          {' '}
          · loop <b>{(run.loops / run.seconds).toFixed(1)}</b> a second
        </>
      )}{' '}
      · {run.statements.toLocaleString('en')} statements
    </p>
  )
}
