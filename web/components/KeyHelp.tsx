import { useEffect, useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { led } from '../store/choice.ts'
import { isTyping, keysAreOn, singleKeys } from '../store/keys.ts'
import { words } from './words.tsx'

interface Row {
  readonly keys: readonly string[]
  readonly does: string
}

const groups: readonly { readonly title: string; readonly rows: readonly Row[] }[] = [
  {
    title: 'Everywhere in a plan',
    rows: [
      { keys: ['k', 'p', 'b', 'w', 'r', 's', 'u'], does: 'Kit, Pins, Bench, Workings, Rehearse, Sheets, Bring-up' },
      { keys: ['h'], does: 'History: what the plan was before' },
      { keys: ['Ctrl Z'], does: 'undo' },
      { keys: ['Ctrl Shift Z', 'Ctrl Y'], does: 'redo' },
      { keys: ['?'], does: 'this list' },
    ],
  },
  {
    title: 'Pins',
    rows: [
      { keys: ['↓', '↑'], does: 'next signal, the one before' },
      { keys: ['key on a pin'], does: 'put the picked signal there: a letter, or a digit where pins have no numbers' },
      {
        keys: ['any other letter or digit'],
        does: "type a pin's name for the picked signal; with ? behind it says why or why not",
      },
      { keys: ['!'], does: 'lock its wires, or let them go' },
      { keys: ['Del'], does: 'take it off its pin' },
      { keys: ['-'], does: 'leave it open' },
      { keys: ['*'], does: 'place the rest' },
      { keys: ['Esc'], does: 'pick nothing' },
    ],
  },
  {
    title: 'Bench, on a part that has the focus',
    rows: [
      { keys: ['←', '→', '↑', '↓'], does: 'move it by a hole' },
      { keys: ['t'], does: 'turn it' },
      { keys: ['b'], does: 'put it beside the breadboard' },
      { keys: ['Del'], does: 'give the place back to the tool' },
    ],
  },
  {
    title: 'Bring-up, at its steps',
    rows: [
      { keys: ['↓', '↑'], does: 'next step, the one before' },
      { keys: ['y'], does: 'it is as it should be' },
      { keys: ['n'], does: 'it is otherwise' },
    ],
  },
]

/** A button, and the key "?", that list all keys and words; keys of one letter can be switched off here. */
export function KeyHelp() {
  const [show, setShow] = useState(false)
  const on = singleKeys.useIsOn()
  const isLed = led.useIsOn()
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== '?' || event.ctrlKey || event.metaKey || event.altKey) return
      if (event.defaultPrevented || isTyping(event) || !keysAreOn()) return
      event.preventDefault()
      setShow(true)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  return (
    <>
      <Button
        size="sm"
        variant="outline-dark"
        aria-label="Keys and words"
        title="Keys and words (?)"
        onClick={() => setShow(true)}
      >
        ?
      </Button>
      <Modal show={show} onHide={() => setShow(false)} aria-labelledby="keys" scrollable>
        <Modal.Header closeButton>
          <Modal.Title id="keys" as="h2">
            Keys and words
          </Modal.Title>
        </Modal.Header>
        <Modal.Body tabIndex={0}>
          <Form.Check
            type="switch"
            id="single-keys"
            label="Keys of one letter or sign"
            checked={on}
            onChange={(event) => singleKeys.set(event.target.checked)}
          />
          <p className="soft">
            {on
              ? 'Switch them off when you speak instead of typing, or press keys by mistake.'
              : 'They are off in this browser; arrows, Del, Esc and keys with Ctrl still work.'}
          </p>
          <Form.Check
            type="switch"
            className="mb-3"
            id="led"
            label="Say what to do next, above every place"
            checked={isLed}
            onChange={(event) => led.set(event.target.checked)}
          />
          {groups.map(({ title, rows }) => (
            <section key={title} className="key-list">
              <h3>{title}</h3>
              <dl>
                {rows.map(({ keys, does }) => (
                  <div key={does}>
                    <dt>
                      {keys.map((key) => (
                        <kbd key={key}>{key}</kbd>
                      ))}
                    </dt>
                    <dd>{does}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
          <section className="key-list">
            <h3>Words</h3>
            <dl>
              {Object.entries(words).map(([word, means]) => (
                <div key={word}>
                  <dt>{word}</dt>
                  <dd>{means}</dd>
                </div>
              ))}
            </dl>
          </section>
        </Modal.Body>
      </Modal>
    </>
  )
}
