import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link, useNavigate } from 'react-router'
import { boardRows } from '../../../core/catalog/boardRows.ts'
import type { Board } from '../../../core/catalog/boardSchema.ts'
import { asVariant } from '../../../core/catalog/variant.ts'
import { applyEdits } from '../../../core/plan/edit.ts'
import { addBoard } from '../../../core/plan/kit.ts'
import { emptyPlan } from '../../../core/plan/planSchema.ts'
import { problemText, useCreateMutation } from '../../store/api.ts'
import { useCatalog } from '../../store/derived.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { EntryActions, Sources, UsedIn } from './EntryParts.tsx'
import { PinChart } from './PinChart.tsx'

/** One board: its pin chart, its facts with their sources, and where it is used. */
export function BoardPage({ board: entry }: { board: Board }) {
  const [variant, setVariant] = useState('')
  const board = asVariant(entry, variant === '' ? undefined : variant)
  const catalog = useCatalog()
  const navigate = useNavigate()
  const dispatch = useAppDispatch()
  const [create] = useCreateMutation()
  const start = async (): Promise<void> => {
    const plan = emptyPlan(`Plan on ${entry.title}`)
    const made = await create({ plan: applyEdits(plan, addBoard(plan, catalog, entry)) })
    if ('data' in made && made.data) navigate(`/plan/${made.data.id}/kit`)
    else dispatch(toasted({ text: problemText(made.error), kind: 'wrong' }))
  }
  const others = [...catalog.boards.values()].filter((one) => one.id !== entry.id)
  return (
    <article className="entry">
      <header>
        <div>
          <h1>{entry.title}</h1>
          <p>{entry.summary}</p>
        </div>
        <EntryActions kind="boards" id={entry.id}>
          <Button size="sm" variant="dark" onClick={() => void start()}>
            Start a plan with it
          </Button>
          <Form.Select
            size="sm"
            aria-label="Compare with"
            value=""
            onChange={(event) => navigate(`/shelf/compare/${entry.id}/${event.target.value}`)}
          >
            <option value="">Compare with …</option>
            {others.map((one) => (
              <option key={one.id} value={one.id}>
                {one.title}
              </option>
            ))}
          </Form.Select>
        </EntryActions>
      </header>
      {entry.variants.length > 0 && (
        <div className="d-flex gap-2 align-items-center mb-2">
          <label htmlFor="board-model">Model</label>
          <Form.Select
            id="board-model"
            size="sm"
            style={{ width: 'auto' }}
            value={variant}
            onChange={(event) => setVariant(event.target.value)}
          >
            <option value="">what all models have</option>
            {entry.variants.map((one) => (
              <option key={one.id} value={one.id}>
                {one.title}
              </option>
            ))}
          </Form.Select>
        </div>
      )}
      <PinChart key={board.title} board={board} />
      <h2>Facts</h2>
      <table className="facts">
        <tbody>
          {boardRows(board).map((row) => (
            <tr key={row.title}>
              <th scope="row">{row.title}</th>
              <td>{row.text}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {board.notes.length > 0 && (
        <>
          <h2>Notes</h2>
          <ul>
            {board.notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
        </>
      )}
      <UsedIn kind="boards" id={entry.id} />
      <Sources sources={entry.sources} />
    </article>
  )
}

/** Two boards side by side; rows that differ are marked. */
export function ComparePage({ a, b }: { a: Board; b: Board }) {
  const [rowsA, rowsB] = [boardRows(a), boardRows(b)]
  return (
    <article className="entry">
      <h1>
        {a.title} and {b.title}
      </h1>
      <table className="facts compare">
        <thead>
          <tr>
            <th scope="col">
              <span className="visually-hidden">Fact</span>
            </th>
            {[a, b].map((board) => (
              <th key={board.id} scope="col">
                <Link to={`/shelf/boards/${board.id}`}>{board.title}</Link>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rowsA.map((row, index) => {
            const other = rowsB[index]?.text ?? ''
            const differs = row.text !== other
            return (
              <tr key={row.title} className={differs ? 'differs' : ''}>
                <th scope="row">
                  {row.title}
                  {differs && <span className="visually-hidden">, differs</span>}
                </th>
                <td>{row.text}</td>
                <td>{other}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </article>
  )
}
