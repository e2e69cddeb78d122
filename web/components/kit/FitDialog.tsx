import type { ChartConfiguration } from 'chart.js'
import { lazy, Suspense, useCallback, useState } from 'react'
import { Button, Modal, ProgressBar } from 'react-bootstrap'
import type { Moved } from '../../../core/advice/moveBoard.ts'
import { counted } from '../../../core/base/counted.ts'
import { entryOf } from '../../../core/base/entryOf.ts'
import type { Plan } from '../../../core/plan/planSchema.ts'
import { usePlan } from '../../store/derived.ts'
import { editLate } from '../../store/desk.ts'
import { answerOf } from '../../store/useSearch.ts'
import type { Inks } from '../Chart.tsx'
import { useTrying } from './useTrying.ts'

const Chart = lazy(() => import('../Chart.tsx').then((module) => ({ default: module.Chart })))

/** Every board ranked for this kit, and the move to another one with its re-plug list. */
export function FitDialog({ onClose }: { onClose: () => void }) {
  const plan = usePlan()
  const { client, share, answer: fits, stopped } = useTrying((one, tell) => one.fit(plan, tell))
  const [move, setMove] = useState<{ from: Plan; title: string; moved: Moved }>()
  const ref = Object.keys(plan.boards)[0]
  const now = ref === undefined ? undefined : entryOf(plan.boards, ref)?.board
  const ready = fits?.filter((one) => one.left.length === 0) ?? []
  const config = useCallback(
    (inks: Inks): ChartConfiguration<'bar'> => {
      const rows = (fits ?? []).filter((one) => one.left.length === 0).slice(0, 12)
      return {
        type: 'bar',
        data: {
          labels: rows.map((one) => one.board.title),
          datasets: [{ label: 'outputs left', data: rows.map((one) => one.spare), backgroundColor: inks.line }],
        },
        options: {
          indexAxis: 'y',
          animation: false,
          maintainAspectRatio: false,
          scales: { x: { title: { display: true, text: 'outputs left' } }, y: { ticks: { autoSkip: false } } },
          plugins: { legend: { display: false } },
        },
      }
    },
    [fits],
  )
  return (
    <Modal show onHide={onClose} aria-labelledby="fit" scrollable size="lg">
      <Modal.Header closeButton>
        <Modal.Title id="fit" as="h2">
          {move ? `${plan.title}: to ${move.title}` : 'Boards for this kit'}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body tabIndex={0}>
        {move ? (
          <ReplugList moved={move.moved} />
        ) : fits === undefined ? (
          stopped ? (
            <p>The ranking was stopped.</p>
          ) : (
            <>
              <p>Wiring the kit to each board in turn …</p>
              <ProgressBar now={share} aria-label="Boards tried" />
            </>
          )
        ) : (
          <>
            <p>
              {ready.length} of {fits.length} boards carry everything. Each was wired by the same search as “Place the
              rest”.
            </p>
            {ready.length > 1 && (
              <Suspense fallback={null}>
                <Chart
                  height={40 + Math.min(12, ready.length) * 22}
                  config={config}
                  label={`Outputs left: ${ready
                    .slice(0, 12)
                    .map((one) => `${one.board.title} ${one.spare}`)
                    .join(', ')}`}
                />
              </Suspense>
            )}
            <table className="facts wide">
              <thead>
                <tr>
                  <th>Board</th>
                  <th>Kit</th>
                  <th>Left</th>
                  <th>Says</th>
                  <th>
                    <span className="visually-hidden">Move</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {fits.map((one) => (
                  <tr key={one.board.id}>
                    <th>
                      {one.board.title}
                      {one.board.id === now && <span className="soft"> (this one)</span>}
                    </th>
                    <td>
                      {one.left.length === 0
                        ? 'all of it'
                        : `${one.left.length} without a pin${one.shifts > 0 ? `, ${one.shifts} of them for want of a level shifter` : ''}`}
                    </td>
                    <td>{counted(one.spare, 'output')}</td>
                    <td>
                      {counted(one.faults, 'fault')}, {counted(one.cautions, 'caution')}
                    </td>
                    <td>
                      {one.board.id !== now && ref !== undefined && (
                        <Button
                          size="sm"
                          variant="outline-dark"
                          aria-label={`Move to ${one.board.title}`}
                          onClick={() =>
                            void answerOf(client.move(plan, ref, one.board.id)).then(
                              (moved) => moved && setMove({ from: plan, title: one.board.title, moved }),
                            )
                          }
                        >
                          Move …
                        </Button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        {fits === undefined && !stopped && !move && (
          <Button variant="outline-dark" onClick={() => client.stop()}>
            Stop
          </Button>
        )}
        {move ? (
          <>
            <Button variant="outline-dark" onClick={() => setMove(undefined)}>
              Back to the boards
            </Button>
            <Button variant="outline-dark" onClick={() => window.print()}>
              Print this list
            </Button>
            <Button
              variant="dark"
              onClick={() => {
                editLate(move.from, move.moved.edits, `Move to ${move.title}`)
                onClose()
              }}
            >
              Move the plan
            </Button>
          </>
        ) : (
          <Button variant="dark" onClick={onClose}>
            Close
          </Button>
        )}
      </Modal.Footer>
    </Modal>
  )
}

/** What to do with each wire at the workbench. */
function ReplugList({ moved }: { moved: Moved }) {
  const { stay, move, come, go } = moved.replug
  return (
    <div className="replug">
      <p>
        {counted(move.length, 'wire')} {move.length === 1 ? 'moves' : 'move'}, {come.length} come, {go.length} go,{' '}
        {stay.length} stay.
        {moved.unplaced.length > 0 && ` ${moved.unplaced.map((one) => one.end).join(', ')} find no pin there.`}
      </p>
      {move.length > 0 && (
        <>
          <h3 className="h6">Move</h3>
          <table className="facts wide">
            <tbody>
              {move.map((one) => (
                <tr key={`${one.end} ${one.from}`}>
                  <th className="mono">{one.end}</th>
                  <td className="mono">from {one.from}</td>
                  <td className="mono">to {one.to}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      {(
        [
          ['Take out', go],
          ['Add', come],
        ] as const
      ).map(
        ([title, wires]) =>
          wires.length > 0 && (
            <div key={title}>
              <h3 className="h6">{title}</h3>
              <ul className="mono">
                {wires.map(([from, to]) => (
                  <li key={`${from} ${to}`}>
                    {from} – {to}
                  </li>
                ))}
              </ul>
            </div>
          ),
      )}
    </div>
  )
}
