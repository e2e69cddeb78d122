import { Button, Form } from 'react-bootstrap'
import { breadboardKinds } from '../../../core/breadboard/grid.ts'
import { mayLieBeside, turnedPlace } from '../../../core/breadboard/moving.ts'
import { type Edit, freeBreadboardRef } from '../../../core/plan/edit.ts'
import type { BenchPlace, Breadboard } from '../../../core/plan/planSchema.ts'
import { useBench } from '../../store/bench.tsx'
import { usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { CommitField } from '../kit/fields.tsx'
import { HouseColours } from './HouseColours.tsx'
import { LedOver } from './LedOver.tsx'

const kinds = [
  ['full', 'Full, 63 rows'],
  ['half', 'Half, 30 rows'],
  ['mini', 'Mini, 17 rows, no rails'],
] as const
const rails = [
  ['continuous', 'Rails run through'],
  ['split', 'Rails cut half-way'],
] as const
const orders = [
  ['left', '+ left, − right'],
  ['right', '− left, + right'],
  ['outer', '+ outside'],
  ['inner', '+ inside'],
] as const

/** The breadboards of the bench, as they lie on the maker's table. */
export function BreadboardList() {
  const plan = usePlan()
  const breadboards = Object.entries(plan.bench?.breadboards ?? {})
  const boards = Object.keys(plan.boards)
  const change = (ref: string, entry: Breadboard, by: Partial<Breadboard>): void => {
    const next = Object.fromEntries(
      Object.entries({ ...entry, ...by }).filter(([, value]) => value !== undefined),
    ) as Breadboard
    edit([{ do: 'set-breadboard', ref, entry: next }], `Change ${ref}`)
  }
  const dispatch = useAppDispatch()
  const reserve = (ref: string, entry: Breadboard, text: string): undefined => {
    const reserved = rowsNamed(text, breadboardKinds[entry.kind].rows)
    if (typeof reserved === 'string') dispatch(toasted({ text: reserved, kind: 'wrong' }))
    else change(ref, entry, { reserved: reserved.length === 0 ? undefined : reserved })
  }
  const shift = (index: number, by: -1 | 1): void => {
    const refs = breadboards.map(([ref]) => ref)
    const [ref = ''] = refs.splice(index, 1)
    refs.splice(index + by, 0, ref)
    edit([{ do: 'order-breadboards', refs }], `Move ${ref}`)
  }
  const add = (): void => {
    const last = breadboards.at(-1)?.[1]
    const entry: Breadboard = { kind: last?.kind ?? 'full', ...(last?.for ? { for: last.for } : {}) }
    edit([{ do: 'set-breadboard', ref: freeBreadboardRef(plan), entry }], 'Add a breadboard')
  }
  return (
    <section aria-label="Breadboards" className="breadboard-list">
      <h2>Breadboards</h2>
      {breadboards.map(([ref, entry], index) => (
        <details key={ref}>
          <summary>
            <b className="mono">{ref}</b> {entry.kind}
            {entry.joined ? ', clipped on' : ''}
            {entry.for ? `, for ${entry.for}` : ''}
          </summary>
          <Form.Select
            size="sm"
            aria-label={`Kind of ${ref}`}
            value={entry.kind}
            onChange={(event) => change(ref, entry, { kind: event.target.value as Breadboard['kind'] })}
          >
            {kinds.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </Form.Select>
          {entry.kind !== 'mini' && (
            <>
              <Form.Select
                size="sm"
                aria-label={`Rails of ${ref}`}
                value={entry.rails ?? 'continuous'}
                onChange={(event) =>
                  change(ref, entry, { rails: event.target.value as Breadboard['rails'], bridged: undefined })
                }
              >
                {rails.map(([value, words]) => (
                  <option key={value} value={value}>
                    {words}
                  </option>
                ))}
              </Form.Select>
              <Form.Select
                size="sm"
                aria-label={`Order of the rails of ${ref}`}
                value={entry.plus ?? 'left'}
                onChange={(event) => change(ref, entry, { plus: event.target.value as Breadboard['plus'] })}
              >
                {orders.map(([value, words]) => (
                  <option key={value} value={value}>
                    {words}
                  </option>
                ))}
              </Form.Select>
            </>
          )}
          {boards.length > 1 && (
            <Form.Select
              size="sm"
              aria-label={`Board on ${ref}`}
              value={entry.for ?? ''}
              onChange={(event) => change(ref, entry, { for: event.target.value || undefined })}
            >
              <option value="">for any board</option>
              {boards.map((board) => (
                <option key={board} value={board}>
                  for {board} and its parts
                </option>
              ))}
            </Form.Select>
          )}
          {entry.rails === 'split' && (
            <Form.Check
              id={`bridged-${ref}`}
              type="checkbox"
              label="Bridge the cut with wires"
              checked={entry.bridged !== false}
              onChange={(event) => change(ref, entry, { bridged: event.target.checked ? undefined : false })}
            />
          )}
          {index > 0 && (
            <Form.Check
              id={`joined-${ref}`}
              type="checkbox"
              label={`Clipped to ${breadboards[index - 1]![0]}`}
              checked={entry.joined === true}
              onChange={(event) => change(ref, entry, { joined: event.target.checked || undefined })}
            />
          )}
          <div className="reserved">
            <span>Rows kept free</span>
            <CommitField
              label={`Rows of ${ref} kept free`}
              value={(entry.reserved ?? []).map(([from, to]) => (from === to ? `${from}` : `${from}-${to}`)).join(', ')}
              placeholder="20-30"
              mono
              onCommit={(text) => reserve(ref, entry, text)}
            />
          </div>
          {breadboards.length > 1 && (
            <div className="shift">
              <Button size="sm" variant="outline-dark" disabled={index === 0} onClick={() => shift(index, -1)}>
                Further left
              </Button>
              <Button
                size="sm"
                variant="outline-dark"
                disabled={index === breadboards.length - 1}
                onClick={() => shift(index, 1)}
              >
                Further right
              </Button>
            </div>
          )}
          <Button
            size="sm"
            variant="link"
            className="p-0"
            onClick={() => edit([{ do: 'set-breadboard', ref, entry: null }], `Take ${ref} away`)}
          >
            take away
          </Button>
        </details>
      ))}
      <Button size="sm" variant="outline-dark" onClick={add}>
        Add a breadboard
      </Button>
    </section>
  )
}

/** Rows as written, `20-30, 41`; words where that names none of the breadboard's. */
function rowsNamed(text: string, most: number): [number, number][] | string {
  const found: [number, number][] = []
  for (const part of text.split(',').map((one) => one.trim())) {
    if (part === '') continue
    const [, first, last] = /^(\d+)(?:\s*[-–]\s*(\d+))?$/.exec(part) ?? []
    const [from, to] = [Number(first), Number(last ?? first)]
    if (first === undefined || from < 1 || to < from || to > most)
      return `"${part}" names no rows; expected rows from 1 to ${most} such as 20-30`
    found.push([from, to])
  }
  return found
}

/** How the program places what the maker has not placed. */
export function PlacingTools({
  picked,
  onMove,
  onRefused,
}: {
  readonly picked: string | undefined
  readonly onMove: (ref: string, place: BenchPlace | null) => void
  readonly onRefused: (text: string) => void
}) {
  const { wiring, layout } = useBench()
  const plan = usePlan()
  const places = plan.bench?.places ?? {}
  const kept = Object.keys(places)
  const release = (refs: readonly string[], label: string): void => {
    edit(
      refs.map((ref): Edit => ({ do: 'place', ref, place: null })),
      label,
    )
  }
  return (
    <section aria-label="Placing" className="placing">
      <h2>Placing</h2>
      {picked === undefined || !layout ? (
        <p className="soft">Drag a part, or pick it and use the arrow keys. Wires follow.</p>
      ) : (
        <>
          <div className="picked-part">
            <b className="mono">{picked}</b>
            <Button
              size="sm"
              variant="outline-dark"
              onClick={() => {
                const place = turnedPlace(wiring, layout, picked)
                if (typeof place === 'string') onRefused(place)
                else onMove(picked, place)
              }}
            >
              Turn <kbd>t</kbd>
            </Button>
            {mayLieBeside(layout, picked) && (
              <Button size="sm" variant="outline-dark" onClick={() => onMove(picked, { beside: true })}>
                Beside <kbd>b</kbd>
              </Button>
            )}
            {places[picked] && (
              <Button size="sm" variant="outline-dark" onClick={() => onMove(picked, null)}>
                Give back <kbd>Del</kbd>
              </Button>
            )}
          </div>
          <LedOver of={picked} onRefused={onRefused} />
          <p className="soft">Drag it, or use the arrow keys. Given back, the program places it.</p>
        </>
      )}
      <Form.Group className="spare" controlId="spare-rows">
        <Form.Label>Rows left free between parts</Form.Label>
        <Form.Select
          size="sm"
          value={plan.bench?.spareRows ?? 1}
          onChange={(event) =>
            edit([{ do: 'spare-rows', rows: Number(event.target.value) }], 'Change the room between parts')
          }
        >
          {[0, 1, 2, 3, 4].map((rows) => (
            <option key={rows}>{rows}</option>
          ))}
        </Form.Select>
      </Form.Group>
      <HouseColours />
      {kept.length > 0 && (
        <Button size="sm" variant="outline-dark" onClick={() => release(kept, 'Lay the bench out again')}>
          Lay everything out again
        </Button>
      )}
      <p className="soft">
        {kept.length === 0
          ? 'The program places everything. Once you move one part, the others stay where they are.'
          : `${kept.length} kept in place.`}
      </p>
    </section>
  )
}
