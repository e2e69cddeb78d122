import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, useDeferredValue, useRef, useState } from 'react'
import { Button, Form, Spinner } from 'react-bootstrap'
import type { PlanLine } from '../../../core/rules/answers.ts'
import { PAGE_SIZE, problemText, usePlansQuery } from '../../store/api.ts'
import { PlanRow } from './PlanRow.tsx'

/** Height of a row before it is measured, in pixels. */
const USUAL_HEIGHT = 72
/** From so many plans on they are searched and sorted. */
const MANY = 8

/** The plans: as many rows as fit the window, fetched a page at a time while one scrolls. */
export function PlanList({ empty }: { empty: ReactNode }) {
  const [typed, setTyped] = useState('')
  const [sort, setSort] = useState<'changed' | 'title'>('changed')
  const q = useDeferredValue(typed.trim())
  const list = useRef<HTMLDivElement>(null)
  const [total, setTotal] = useState(0)
  const virtual = useWindowVirtualizer({
    count: total,
    estimateSize: () => USUAL_HEIGHT,
    overscan: 6,
    scrollMargin: list.current?.offsetTop ?? 0,
  })
  const rows = virtual.getVirtualItems()
  // A window shows far less than a page, so that what is seen lies on two of them at most.
  const first = Math.floor((rows[0]?.index ?? 0) / PAGE_SIZE)
  const last = Math.floor((rows.at(-1)?.index ?? 0) / PAGE_SIZE)
  const one = usePlansQuery({ q, sort, page: first }, { refetchOnMountOrArgChange: true })
  const two = usePlansQuery({ q, sort, page: last }, { skip: last === first })
  const { data, error, refetch } = one
  if (data && data.total !== total) setTotal(data.total)
  const lineAt = (index: number): PlanLine | undefined => {
    const page = Math.floor(index / PAGE_SIZE)
    return (page === first ? one.currentData : page === last ? two.currentData : undefined)?.lines[index % PAGE_SIZE]
  }
  if (error && !data)
    return (
      <p role="alert">
        The plans cannot be loaded: {problemText(error)}{' '}
        <Button size="sm" variant="outline-dark" onClick={() => void refetch()}>
          Try again
        </Button>
      </p>
    )
  if (!data) return <Spinner animation="border" role="status" aria-label="Loading plans" />
  if (data.total === 0 && q === '') return empty
  return (
    <>
      {(data.total >= MANY || q !== '') && (
        <div className="list-tools">
          <Form.Control
            type="search"
            size="sm"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            placeholder="Find by title or board"
            aria-label="Find a plan by title or board"
          />
          <Form.Select
            size="sm"
            value={sort}
            onChange={(event) => setSort(event.target.value === 'title' ? 'title' : 'changed')}
            aria-label="Order of the plans"
          >
            <option value="changed">last changed first</option>
            <option value="title">by title</option>
          </Form.Select>
          <span className="soft" role="status">
            {data.total.toLocaleString('en')} {data.total === 1 ? 'plan' : 'plans'}
          </span>
        </div>
      )}
      <div ref={list} className="plan-list" style={{ height: virtual.getTotalSize() }}>
        {rows.map((row) => {
          const plan = lineAt(row.index)
          return (
            <div
              key={row.key}
              // Only what is there is measured: a row that is fetched yet has the usual height.
              ref={plan ? virtual.measureElement : undefined}
              data-index={row.index}
              style={{
                // Not moved by a transform: the menu of a row would lie under the rows below it.
                top: row.start - virtual.options.scrollMargin,
                minHeight: plan ? undefined : USUAL_HEIGHT,
              }}
            >
              {plan ? <PlanRow plan={plan} /> : <div className="plan-line soft">…</div>}
            </div>
          )
        })}
      </div>
    </>
  )
}
