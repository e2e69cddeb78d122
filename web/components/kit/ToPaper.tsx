import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { useNavigate } from 'react-router'
import type { Paper } from '../../../core/advice/kitToPaper.ts'
import { useDerived } from '../../store/derived.ts'
import { editLate, presentPlan } from '../../store/desk.ts'
import { useAppDispatch, useAppSelector } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { answerOf, useSearch } from '../../store/useSearch.ts'

/** What Sheets is told when it is opened by the press below. */
export interface PaperState {
  readonly paper?: Omit<Paper, 'edits'>
  /** Wires that the plan has after it; with fewer it was undone. */
  readonly total?: number
}

/** One press from the kit to paper: everything is wired, laid out, and shown as it will print, with an account of it. */
export function ToPaper() {
  const { wiring } = useDerived()
  const id = useAppSelector((state) => state.plan.pen?.id)
  const client = useSearch()
  const navigate = useNavigate()
  const dispatch = useAppDispatch()
  const [isRunning, setRunning] = useState(false)
  if (wiring.boards.length === 0 || wiring.parts.length === 0) return null
  const run = async (): Promise<void> => {
    setRunning(true)
    const from = wiring.plan
    const found = await answerOf(client.kitToPaper(from, () => {}))
    setRunning(false)
    if (!found) return void dispatch(toasted({ text: 'The search was stopped; nothing was changed.' }))
    const { edits, ...paper } = found
    if (edits.length > 0 && !editLate(from, edits, 'Wire and lay out')) return
    navigate(`/plan/${id}/sheets`, { state: { paper, total: presentPlan()?.wires.length ?? 0 } satisfies PaperState })
  }
  return isRunning ? (
    <Button variant="outline-dark" onClick={() => client.halt()}>
      Stop: wiring and laying out …
    </Button>
  ) : (
    <Button
      variant="dark"
      onClick={() => void run()}
      title="Places what is open, lays it out on breadboards, and shows the pages"
    >
      Wire, lay out, show the sheet
    </Button>
  )
}
