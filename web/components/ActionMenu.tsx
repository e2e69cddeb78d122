import { type KeyboardEvent, useRef } from 'react'
import { Dropdown } from 'react-bootstrap'

interface Action {
  /** Tells it from the others. */
  readonly id: string
  readonly text: string
}

interface ActionMenuProps {
  /** What stands on the button. */
  readonly children: string
  /** Names the menu for those who do not see where it stands. */
  readonly label: string
  readonly actions: readonly Action[]
  readonly onPick: (id: string) => void
  readonly size?: 'sm'
  readonly className?: string
}

/** Milliseconds after which a letter begins a new word. */
const NEW_WORD = 900

/** Actions of which one is taken: nothing happens until an entry is pressed, whatever the arrow keys pass over. */
export function ActionMenu({ children, label, actions, onPick, size, className }: ActionMenuProps) {
  const typed = useRef({ text: '', at: 0 })
  /** Letters go to the first entry that has them, as in a list of choices. */
  const onKeyDown = (event: KeyboardEvent<HTMLElement>): void => {
    if (event.key.length !== 1 || event.key === ' ' || event.ctrlKey || event.metaKey || event.altKey) return
    const now = Date.now()
    const text = (now - typed.current.at > NEW_WORD ? '' : typed.current.text) + event.key.toLowerCase()
    typed.current = { text, at: now }
    const entries = [...event.currentTarget.querySelectorAll<HTMLElement>('.dropdown-item')]
    const has = (one: HTMLElement, begins: boolean): boolean => {
      const words = one.textContent.toLowerCase()
      return begins ? words.startsWith(text) : words.includes(text)
    }
    const entry = entries.find((one) => has(one, true)) ?? entries.find((one) => has(one, false))
    entry?.focus()
  }
  return (
    <Dropdown className={className} focusFirstItemOnShow onSelect={(id) => id !== null && onPick(id)}>
      <Dropdown.Toggle variant="outline-dark" size={size} aria-label={label}>
        {children}
      </Dropdown.Toggle>
      <Dropdown.Menu className="action-menu" onKeyDown={onKeyDown}>
        {actions.map(({ id, text }) => (
          <Dropdown.Item as="button" type="button" key={id} eventKey={id} data-action={id}>
            {text}
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  )
}
