import { useMemo } from 'react'
import { Button, Modal } from 'react-bootstrap'
import { type TableLine, type WireTable, wireTable } from '../../../core/advice/wireTable.ts'
import { counted } from '../../../core/base/counted.ts'
import { wireColours } from '../../../core/sheets/colours.ts'
import { useDerived } from '../../store/derived.ts'

/** Lines that say something of the plan, what is there already among them. */
export const takenOf = ({ lines }: WireTable): number => lines.filter(({ is }) => is !== 'wrong').length

/** A table of wires before it is taken in: what each line comes to, and what was not understood. */
export function TableDialog({
  text,
  onTake,
  onClose,
}: {
  readonly text: string
  readonly onTake: () => void
  readonly onClose: () => void
}) {
  const { wiring } = useDerived()
  const table = useMemo(() => wireTable(wiring, text), [wiring, text])
  const fresh = table.lines.filter(({ is }) => is === 'new').length
  const wrong = table.lines.filter(({ is }) => is === 'wrong').length
  return (
    <Modal show onHide={onClose} size="lg" scrollable aria-labelledby="table-title">
      <Modal.Header closeButton>
        <Modal.Title id="table-title" as="h2">
          {fresh === 0 ? 'Nothing new in this table' : `${counted(fresh, 'wire')} to enter`}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body tabIndex={0}>
        <p>
          {table.lines.length === 0
            ? 'No line of it could be read; expected columns from, to and colour, or two columns.'
            : wrong === 0
              ? 'Every line was understood. One undo takes it all back.'
              : `${counted(wrong, 'line')} not understood${fresh > 0 ? `: the others can be entered without ${wrong === 1 ? 'it' : 'them'}` : ''}.`}
        </p>
        {table.lines.length > 0 && (
          <table className="wire-lines">
            <thead>
              <tr>
                <th scope="col">Line</th>
                <th scope="col">From</th>
                <th scope="col">To</th>
                <th scope="col">Colour</th>
                <th scope="col">
                  <span className="visually-hidden">What comes of it</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {table.lines.map((line) => (
                <Line key={line.line} line={line} />
              ))}
            </tbody>
          </table>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-dark" onClick={onClose}>
          Leave it
        </Button>
        <Button variant="dark" disabled={fresh === 0} onClick={onTake}>
          Enter {counted(fresh, 'wire')}
        </Button>
      </Modal.Footer>
    </Modal>
  )
}

function Line({ line: { line, text, is, from, to, colour, message } }: { readonly line: TableLine }) {
  if (is === 'wrong')
    return (
      <tr className="wrong">
        <td className="mono">{line}</td>
        <td colSpan={3} className="mono">
          {text.slice(0, 80)}
        </td>
        <td>{message}</td>
      </tr>
    )
  return (
    <tr className={is}>
      <td className="mono">{line}</td>
      <td className="mono">{from}</td>
      <td className="mono">{to ?? 'left open'}</td>
      <td>
        {colour && (
          <>
            <svg viewBox="0 0 24 8" width="24" height="8" aria-hidden="true">
              <rect width="24" height="8" fill={wireColours[colour]} stroke="currentColor" strokeWidth="0.8" />
            </svg>{' '}
            {colour}
          </>
        )}
      </td>
      <td>{message ?? (is === 'there' ? 'there already' : '')}</td>
    </tr>
  )
}
