import { useCallback, useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import { type AtHand, ByHand } from '../components/pins/ByHand.tsx'
import { Ledger } from '../components/pins/Ledger.tsx'
import { Need, PickedTask } from '../components/pins/PickedTask.tsx'
import { usePicked } from '../components/pins/usePicked.ts'
import { usePinKeys } from '../components/pins/usePinKeys.ts'
import { usePlacing } from '../components/pins/usePlacing.ts'
import { useYard } from '../components/pins/useYard.ts'
import { Yard } from '../components/pins/Yard.tsx'
import { Questions } from '../components/Questions.tsx'
import { WayOutDialog } from '../components/WayOutDialog.tsx'
import { useDerived } from '../store/derived.ts'
import { editPlan as edit, editLate } from '../store/desk.ts'
import { useHints } from '../store/hints.ts'

/** Which pin for which signal? */
export function Pins() {
  const { wiring, findings } = useDerived()
  const hints = useHints()
  const [isByHand, setByHand] = useState(false)
  const [hand, setHand] = useState<AtHand>()
  const placing = usePlacing()
  const { searching, stuck, placeRest, moveClashing } = placing
  const picked = usePicked()
  const { use, best, keys, placedAt } = picked
  const yard = useYard(picked, isByHand ? hand : undefined)
  const field = useRef<HTMLInputElement>(null)
  usePinKeys(field, placedAt, { ...picked, placeRest: () => (hints ? void placeRest() : undefined) })
  useEffect(() => {
    if (use) document.querySelector(`[data-signal="${CSS.escape(use.end)}"]`)?.scrollIntoView({ block: 'nearest' })
  }, [use])
  const leaveHand = useCallback(() => setByHand(false), [])

  const clashes = findings.some(
    (one) => one.accepted === undefined && (one.severity === 'fault' || one.rule === 'pin-shared'),
  )
  if (wiring.parts.length === 0 || wiring.boards.length === 0)
    return (
      <div className="empty">
        <h1>No {wiring.boards.length === 0 ? 'board' : 'parts'} yet</h1>
        <p>Signals come from parts, and posts from a board. Gather both in the kit first.</p>
        <Link to="../kit" className="btn btn-dark">
          Go to the kit
        </Link>
      </div>
    )

  return (
    <div className="pins">
      <h1 className="visually-hidden">Pins</h1>
      {stuck && (
        <WayOutDialog
          result={stuck.result}
          way={stuck.way}
          onApply={(edits, label) => {
            placing.letGo()
            editLate(stuck.from, edits, label)
          }}
          onClose={placing.letGo}
        />
      )}
      {isByHand ? (
        <ByHand onDone={leaveHand} onHand={setHand} />
      ) : (
        <Ledger
          searching={searching}
          onPlaceRest={hints ? () => void placeRest() : undefined}
          onStop={() => placing.client.halt()}
          onMoveClashing={clashes && hints ? () => void moveClashing() : undefined}
          onWireRest={hints ? (ref) => void placeRest([ref]) : undefined}
          onByHand={() => setByHand(true)}
          questions={
            hints && placing.placed && searching === undefined ? <Questions client={placing.client} /> : undefined
          }
        />
      )}
      <div className="yard">
        <div className="task">
          {use && isByHand ? (
            <Need use={use} best={best[0]} firstKey={undefined} />
          ) : use ? (
            <PickedTask
              key={use.end}
              use={use}
              best={best}
              firstKey={keys[0] ?? ''}
              field={field}
              onPut={picked.put}
              onWhy={picked.tellWhy}
              onLock={picked.lock}
              onClear={picked.clear}
              onSwap={picked.swap}
              onMoveBus={(way) => edit(way.edits, `Move the bus to ${way.title}`)}
              onLeaveOpen={picked.leaveOpen}
            />
          ) : (
            <div className="need soft">
              {isByHand ? 'Type where the pin goes, or press its post.' : 'Pick a signal, or press ↓ for the first.'}
            </div>
          )}
        </div>
        <Yard yard={yard} picked={picked} />
      </div>
    </div>
  )
}
