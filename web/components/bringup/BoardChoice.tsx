import { Form } from 'react-bootstrap'
import type { BoardInstance } from '../../../core/wiring/model.ts'

/** Which board, where a plan has several. */
export function BoardChoice({
  boards,
  chosen,
  onChosen,
}: {
  readonly boards: readonly BoardInstance[]
  readonly chosen: BoardInstance
  readonly onChosen: (ref: string) => void
}) {
  if (boards.length < 2) return null
  return (
    <Form.Select size="sm" value={chosen.ref} aria-label="Board" onChange={(event) => onChosen(event.target.value)}>
      {boards.map((board) => (
        <option key={board.ref} value={board.ref}>
          {board.ref}: {board.title}
        </option>
      ))}
    </Form.Select>
  )
}
