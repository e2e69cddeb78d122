import { useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { describeDifference } from '../../../core/plan/difference.ts'
import { type Clash, mergePlans, type Side } from '../../../core/plan/merge.ts'
import type { Plan } from '../../../core/plan/planSchema.ts'
import { useCatalog } from '../../store/derived.ts'
import { settleConflict, takeTheirs } from '../../store/desk.ts'
import { joinFaults } from '../../store/faults.ts'
import type { Pen, Stored } from '../../store/pen/penEvents.ts'
import { planActions } from '../../store/planSlice.ts'
import { useAppDispatch, useAppSelector } from '../../store/store.ts'

/** Another page changed the plan at the same places: what touches, piece by piece, and three ways to go on. */
export function Conflict({ onKeepBoth }: { onKeepBoth: (plan: Plan) => void }) {
  const pen = useAppSelector((state) => state.plan.pen)
  return pen?.theirs ? <Asked key={pen.theirs.revision} pen={pen} theirs={pen.theirs} onKeepBoth={onKeepBoth} /> : null
}

const MOST_ROWS = 40

function Asked({ pen, theirs, onKeepBoth }: { pen: Pen; theirs: Stored; onKeepBoth: (plan: Plan) => void }) {
  const catalog = useCatalog()
  const { base, history } = pen
  const merge = useMemo(() => mergePlans(base.plan, history.present, theirs.plan), [base, history.present, theirs])
  const [chosen, setChosen] = useState<ReadonlyMap<string, Side>>(new Map())
  const rows = merge.clashes.slice(0, MOST_ROWS)
  const joined = useMemo(() => merge.plan(chosen), [merge, chosen])
  const faults = useMemo(
    () => joinFaults(joined, [history.present, theirs.plan], catalog),
    [joined, history.present, theirs, catalog],
  )
  const mine = describeDifference(theirs.plan, history.present, catalog).length
  const open = merge.clashes.filter((one) => !chosen.has(one.key)).length
  return (
    <section className="notice conflict" aria-labelledby="conflict">
      <h2 id="conflict">This plan was changed elsewhere, where you changed it too</h2>
      <p>
        Revision {theirs.revision} is on the server; yours differs from it in {mine} {mine === 1 ? 'point' : 'points'}.
        What does not touch goes together by itself.{' '}
        {rows.length > 0
          ? 'These touch: choose for each, or keep both.'
          : 'Together the two make faults that neither has alone:'}
      </p>
      {faults.length > 0 && (
        <ul className="new-faults">
          {faults.slice(0, 4).map((one) => (
            <li key={one}>{one}</li>
          ))}
          {faults.length > 4 && <li>and {faults.length - 4} more</li>}
        </ul>
      )}
      {rows.length > 0 && (
        <table className="clashes">
          <thead>
            <tr>
              <th>About</th>
              <th>Yours</th>
              <th>Theirs</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((clash) => (
              <Row
                key={clash.key}
                clash={clash}
                base={base.plan}
                chosen={chosen.get(clash.key)}
                onChoose={(side) => setChosen(new Map([...chosen, [clash.key, side]]))}
              />
            ))}
          </tbody>
        </table>
      )}
      {merge.clashes.length > rows.length && (
        <p>and {merge.clashes.length - rows.length} more; for those theirs stands, unless you keep both.</p>
      )}
      <div className="notice-actions">
        <Button variant="dark" autoFocus onClick={() => onKeepBoth(history.present)}>
          Keep both: mine becomes a plan of its own
        </Button>
        <Button
          variant="outline-dark"
          disabled={open > 0 && merge.clashes.length <= MOST_ROWS}
          onClick={() => settleConflict(chosen)}
        >
          {merge.clashes.length === 0
            ? 'Join them all the same'
            : open > 0
              ? `Use what is chosen (${open} open)`
              : 'Use what is chosen'}
        </Button>
        <Button variant="outline-dark" onClick={takeTheirs} title="One undo brings yours back">
          Take theirs
        </Button>
      </div>
    </section>
  )
}

interface RowProps {
  readonly clash: Clash
  readonly base: Plan
  readonly chosen: Side | undefined
  readonly onChoose: (side: Side) => void
}

function Row({ clash, base, chosen, onChoose }: RowProps) {
  const catalog = useCatalog()
  const dispatch = useAppDispatch()
  const about = clash.at.length > 0 ? clash.at.join(', ') : clash.key
  const light = (side: Side): void => {
    dispatch(planActions.lit([...clash.at, ...clash.ends[side]]))
  }
  return (
    <tr>
      <th className="mono">{about}</th>
      {(['mine', 'theirs'] as const).map((side) => {
        const lines = describeDifference(base, clash.only[side], catalog)
        return (
          <td key={side} className={chosen === side ? 'chosen' : ''} onMouseEnter={() => light(side)}>
            <Form.Check
              type="radio"
              name={clash.key}
              id={`${clash.key} ${side}`}
              checked={chosen === side}
              onChange={() => {
                onChoose(side)
                light(side)
              }}
              label={
                <>
                  <span className="visually-hidden">{side === 'mine' ? 'yours' : 'theirs'}: </span>
                  {lines.length === 0 ? 'as it was' : lines.join('; ')}
                </>
              }
            />
          </td>
        )
      })}
    </tr>
  )
}
