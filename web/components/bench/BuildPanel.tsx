import { useEffect, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { entryOf } from '../../../core/base/entryOf.ts'
import { wireColours } from '../../../core/sheets/colours.ts'
import type { WireRow } from '../../../core/sheets/rows.ts'
import type { BuildItem } from './buildItems.ts'

interface BuildPanelProps {
  readonly items: readonly BuildItem[]
  readonly done: ReadonlySet<string>
  /** Index of the item that is next; the number of items when all is shown. */
  readonly at: number
  readonly onAt: (index: number) => void
  readonly onTick: (item: BuildItem, done: boolean) => void
}

/** The build, one thing after the other, readable at arm's length. */
export function BuildPanel({ items, done, at, onAt, onTick }: BuildPanelProps) {
  const item = items[at]
  const ticked = items.filter((one) => done.has(one.tick)).length
  const awake = useWakeLock()
  return (
    <section aria-label="Build" className="build-panel">
      <p className="build-count" role="status" data-testid="build-count">
        {ticked} of {items.length} done
      </p>
      <progress max={items.length} value={ticked} aria-label="How far the build is" />
      {item ? (
        <>
          <h2>
            <span>{item.step.number}</span>
            {item.step.title}
          </h2>
          <p className="soft">{item.step.text}</p>
          <div className="build-card" data-testid="build-card">
            {item.kind === 'part' ? <PartCard item={item} /> : <WireCard row={item.row} />}
          </div>
          <Button
            className="done-next"
            variant="dark"
            onClick={() => {
              onTick(item, true)
              const next = items.findIndex((one, index) => index > at && !done.has(one.tick))
              onAt(next < 0 ? items.length : next)
            }}
          >
            Done, next
          </Button>
        </>
      ) : (
        <>
          <h2>All in</h2>
          <p>
            {ticked === items.length
              ? 'Every part and wire is ticked. Look along the rails once more before you switch a supply on.'
              : `${items.length - ticked} are not ticked yet.`}
          </p>
          {ticked < items.length && (
            <Button
              className="done-next"
              variant="dark"
              onClick={() => onAt(items.findIndex((one) => !done.has(one.tick)))}
            >
              Go to the first open one
            </Button>
          )}
        </>
      )}
      <div className="build-steps">
        <Button variant="outline-dark" disabled={at === 0} onClick={() => onAt(at - 1)}>
          Back
        </Button>
        {item && done.has(item.tick) && (
          <Button variant="outline-dark" onClick={() => onTick(item, false)}>
            Not done yet
          </Button>
        )}
        <Button variant="outline-dark" disabled={at >= items.length} onClick={() => onAt(at + 1)}>
          Skip
        </Button>
      </div>
      <Form.Label htmlFor="build-at" className="mt-2 mb-0">
        Built up to
      </Form.Label>
      <Form.Range
        id="build-at"
        min={0}
        max={items.length}
        value={at}
        onChange={(event) => onAt(Number(event.target.value))}
        aria-valuetext={item ? `${at} of ${items.length}` : 'all'}
      />
      <p className="soft mb-0">{awake ? 'The screen stays on.' : 'This browser may switch the screen off.'}</p>
    </section>
  )
}

function PartCard({ item }: { item: BuildItem & { kind: 'part' } }) {
  return (
    <>
      <b className="mono big">{item.ref}</b>
      <div>{item.title}</div>
      <div className="mono">{item.holes}</div>
    </>
  )
}

function WireCard({ row }: { row: WireRow }) {
  const length = row.lengthMillimetres === null ? '' : `, ${row.lengthMillimetres} mm`
  const end = (one: { ref: string; pin: string; hole: string | null }): string => one.hole ?? `${one.ref} ${one.pin}`
  return (
    <>
      <div className="wire-line">
        <span className="mono">{row.number}</span>
        <i style={{ background: entryOf(wireColours, row.colour) ?? row.colour }} />
        {row.from.lead ? `its ${row.from.lead} lead` : `${row.colour}${length}`}
        <small className="soft">{row.ends}</small>
      </div>
      <b className="mono big">{end(row.from)}</b>
      <div className="mono">
        {row.from.ref} {row.from.pin}
      </div>
      <b className="mono big">{end(row.to)}</b>
      <div className="mono">
        {row.to.ref} {row.to.pin}
      </div>
      {row.note !== '' && <div className="soft">{row.note}</div>}
    </>
  )
}

/** Keeps the screen on while this is shown, where the browser can. */
function useWakeLock(): boolean {
  const [held, setHeld] = useState(false)
  useEffect(() => {
    if (!('wakeLock' in navigator)) return
    let lock: WakeLockSentinel | undefined
    let over = false
    const take = async (): Promise<void> => {
      if (document.visibilityState !== 'visible') return
      try {
        lock = await navigator.wakeLock.request('screen')
        if (over) await lock.release()
        else setHeld(true)
        lock.addEventListener('release', () => setHeld(false))
      } catch {
        // Refused, with an empty battery for example: the panel says that the screen may go off.
        setHeld(false)
      }
    }
    void take()
    const onVisible = (): void => void take()
    document.addEventListener('visibilitychange', onVisible)
    return () => {
      over = true
      document.removeEventListener('visibilitychange', onVisible)
      void lock?.release()
    }
  }, [])
  return held
}
