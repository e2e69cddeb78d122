import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { type Answer, readBoardLine } from '../../../core/bringup/answers.ts'
import { hasSerial, type SerialLine } from './useSerial.ts'

/** The board's own serial line, or its answers pasted. */
export function BoardLine({
  serial,
  standIn,
  sendTo,
  log,
  onAsk,
  onAnswers,
}: {
  readonly serial: SerialLine
  /** A stand-in board is there by itself. */
  readonly standIn: boolean
  /** Where a board with an operating system may send what its test program prints. */
  readonly sendTo: string | undefined
  readonly log: readonly string[]
  readonly onAsk: () => void
  readonly onAnswers: (answers: readonly Answer[]) => void
}) {
  const [text, setText] = useState('')
  const read = text.split('\n').flatMap((line) => {
    const one = readBoardLine(line)
    return one.is === 'answer' ? [one.answer] : []
  })
  return (
    <section className="board-line" aria-label="The board itself">
      <h3>Let the board do it</h3>
      {standIn ? (
        <p>
          <Button size="sm" variant="dark" onClick={onAsk}>
            Ask the stand-in board
          </Button>
        </p>
      ) : hasSerial() ? (
        <p>
          {serial.open ? (
            <>
              <Button size="sm" variant="dark" onClick={onAsk}>
                Ask the board
              </Button>{' '}
              <Button size="sm" variant="outline-dark" onClick={() => void serial.leave()}>
                Let go of it
              </Button>
            </>
          ) : (
            <Button size="sm" variant="dark" onClick={() => void serial.connect()}>
              Connect the board
            </Button>
          )}
        </p>
      ) : (
        <p className="soft">
          This browser cannot speak to a board: run the test program, ask by its serial window, and paste what it says.
        </p>
      )}
      {sendTo !== undefined && !standIn && (
        <details>
          <summary>Run it on the board and send what it says here</summary>
          <p className="soft">Every step that no eye is needed for, in one go; the ticks appear by themselves:</p>
          <pre className="mono board-log">{`echo '{"do":"all"}' | python3 test.py | curl --data-binary @- -H 'Content-Type: application/x-ndjson' ${sendTo}`}</pre>
        </details>
      )}
      {serial.trouble !== undefined && <p className="text-danger">{serial.trouble}</p>}
      {log.length > 0 && <pre className="mono board-log">{log.slice(-8).join('\n')}</pre>}
      <Form.Control
        as="textarea"
        rows={2}
        className="mono"
        value={text}
        aria-label="Answers of the board"
        placeholder='{"step":"in:GATE.1","value":0}'
        onChange={(event) => setText(event.target.value)}
      />
      <Button
        size="sm"
        variant="outline-dark"
        disabled={read.length === 0}
        onClick={() => {
          onAnswers(read)
          setText('')
        }}
      >
        {read.length === 0
          ? 'No answers in it yet'
          : `Take ${read.length === 1 ? 'the answer' : `${read.length} answers`}`}
      </Button>
    </section>
  )
}
