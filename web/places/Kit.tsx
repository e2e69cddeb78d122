import { Fragment, useEffect, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { useLocation, useNavigate } from 'react-router'
import { formatVolts } from '../../core/electrical/quantity.ts'
import { addBoard, addParts } from '../../core/plan/kit.ts'
import { freshRef } from '../../core/plan/refs.ts'
import { companionsOf, ownerOf } from '../../core/wiring/companions.ts'
import { ActionMenu } from '../components/ActionMenu.tsx'
import { AddableDialog } from '../components/kit/AddableDialog.tsx'
import { CountStrip } from '../components/kit/CountStrip.tsx'
import { FitDialog } from '../components/kit/FitDialog.tsx'
import { BoardLine, SupplyLine } from '../components/kit/lines.tsx'
import { CompanionOffers, PartLine } from '../components/kit/PartLine.tsx'
import { QuickEntry } from '../components/kit/QuickEntry.tsx'
import { ToPaper } from '../components/kit/ToPaper.tsx'
import { useCatalog, useDerived, usePlan } from '../store/derived.ts'
import { editPlan as edit } from '../store/desk.ts'
import { useHints } from '../store/hints.ts'

/** What do I have, and does a board carry it? */
export function Kit() {
  const { wiring } = useDerived()
  const plan = usePlan()
  const hints = useHints()
  const [fitting, setFitting] = useState(false)
  const [adding, setAdding] = useState(false)
  useComingPart()
  return (
    <div className="kit">
      <h1 className="visually-hidden">Kit</h1>
      <QuickEntry />
      {hints && (
        <div className="to-paper">
          <ToPaper />
        </div>
      )}
      <h2>
        Boards{' '}
        <span className="d-flex gap-2" style={{ minWidth: 0 }}>
          {wiring.parts.length > 0 && wiring.boards.length <= 1 && (
            <Button size="sm" variant="outline-dark" className="text-nowrap" onClick={() => setFitting(true)}>
              Which boards carry this?
            </Button>
          )}
          {wiring.boards.length > 0 && (
            <Button size="sm" variant="outline-dark" className="text-nowrap" onClick={() => setAdding(true)}>
              What can still be added?
            </Button>
          )}
          <AddBoard />
        </span>
      </h2>
      {adding && <AddableDialog onClose={() => setAdding(false)} />}
      {fitting && <FitDialog onClose={() => setFitting(false)} />}
      {wiring.boards.length === 0 && <p className="soft py-2 mb-0">Choose the board that everything hangs on.</p>}
      {wiring.boards.map((board) => (
        <BoardLine key={board.ref} board={board} />
      ))}
      {wiring.boards.map((board) => (
        <CountStrip key={board.ref} board={board} />
      ))}
      <h2>
        Supplies{' '}
        <Button
          size="sm"
          variant="outline-dark"
          onClick={() =>
            edit(
              [
                {
                  do: 'add-supply',
                  ref: freshRef(plan, 'PACK', 1)[0] as string,
                  entry: { volts: 5, limitMilliamps: 2000 },
                },
              ],
              'Add a supply',
            )
          }
        >
          Add a supply
        </Button>
      </h2>
      {wiring.supplies.length === 0 && (
        <p className="soft py-2 mb-0">None besides the boards’ own. Motors and servos want one.</p>
      )}
      {wiring.supplies.map((supply) => (
        <SupplyLine key={supply.ref} supply={supply} />
      ))}
      <h2>
        <span>
          Parts <span className="soft fw-normal">{wiring.parts.length}</span>
        </span>
      </h2>
      {wiring.parts.length === 0 && (
        <p className="soft py-2 mb-0">
          Type what lies in front of you in the field above, for example “2 bme280, oled, led”.
        </p>
      )}
      {wiring.parts
        .filter((part) => !ownerOf(wiring, part))
        .map((part) => (
          <Fragment key={part.ref}>
            <PartLine part={part} />
            {companionsOf(wiring, part).map(
              ({ present }) => present && <PartLine key={present.ref} part={present} companion />,
            )}
            {hints && <CompanionOffers part={part} />}
          </Fragment>
        ))}
    </div>
  )
}

/** A part that was made on the shelf for this plan comes into the kit, once. */
function useComingPart(): void {
  const catalog = useCatalog()
  const plan = usePlan()
  const navigate = useNavigate()
  const id = (useLocation().state as { add?: string } | null)?.add
  const part = id === undefined ? undefined : catalog.parts.get(id)
  const taken = useRef(false)
  useEffect(() => {
    if (!part || taken.current) return
    taken.current = true
    navigate('.', { replace: true, state: null })
    edit(addParts(plan, catalog, part, 1), `Add ${part.title}`)
  }, [part, plan, catalog, navigate])
}

function AddBoard() {
  const catalog = useCatalog()
  const plan = usePlan()
  const add = (id: string): void => {
    const board = catalog.boards.get(id)
    if (!board) return
    edit(addBoard(plan, catalog, board), `Add ${board.title}`)
  }
  return (
    <ActionMenu
      size="sm"
      label="Add a board"
      actions={[...catalog.boards.values()].map((board) => ({
        id: board.id,
        text: `${board.title} (${formatVolts(board.logicVolts)})`,
      }))}
      onPick={add}
    >
      Add a board …
    </ActionMenu>
  )
}
