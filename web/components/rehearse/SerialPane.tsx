import { useState } from 'react'
import { Form } from 'react-bootstrap'
import type { RunData } from '../../workers/rehearsal.ts'

interface SerialPaneProps {
  readonly printed: RunData['printed']
  readonly onType: (text: string) => void
}

/** What the program has printed so far, and a line to answer it. */
export function SerialPane({ printed, onType }: SerialPaneProps) {
  const [typed, setTyped] = useState('')
  return (
    <section className="serial" aria-label="Serial line">
      <h2>Serial</h2>
      <ol className="mono" tabIndex={0}>
        {printed.slice(-200).map((one, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a line of text is its place
          <li key={index}>{one.text === '' ? '\u00a0' : one.text}</li>
        ))}
      </ol>
      <Form
        onSubmit={(event) => {
          event.preventDefault()
          if (typed !== '') onType(typed)
          setTyped('')
        }}
      >
        <Form.Control
          size="sm"
          aria-label="Type into the serial line"
          placeholder="type at this moment"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </Form>
    </section>
  )
}
