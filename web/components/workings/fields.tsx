import { type ReactNode, useId, useState } from 'react'
import { Form } from 'react-bootstrap'
import { formatQuantity, parseQuantity } from '../../../core/electrical/quantity.ts'

/** A number with its unit, typed as makers write it (`4k7`, `20m`); what cannot be read is said beside it. */
export function Amount({
  label,
  unit,
  value,
  onValue,
}: {
  label: string
  unit: string
  value: number
  onValue: (value: number) => void
}) {
  const id = useId()
  const [text, setText] = useState<string>()
  const read = text === undefined ? value : parseQuantity(text.replace('−', '-'))
  return (
    <div className="amount">
      <label htmlFor={id}>{label}</label>
      <Form.Control
        id={id}
        size="sm"
        className="mono"
        value={text ?? formatQuantity(value, unit, 4).trim()}
        isInvalid={read === undefined}
        maxLength={20}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setText(event.target.value)
          const now = parseQuantity(event.target.value)
          if (now !== undefined) onValue(now)
        }}
        onBlur={() => setText(undefined)}
      />
      {read === undefined && <span className="wrong">expected a number such as 330, 4k7 or 20m</span>}
    </div>
  )
}

export function Choice({
  label,
  value,
  options,
  onValue,
}: {
  label: string
  value: string
  options: readonly (readonly [value: string, title: string])[]
  onValue: (value: string) => void
}) {
  const id = useId()
  return (
    <div className="amount">
      <label htmlFor={id}>{label}</label>
      <Form.Select id={id} size="sm" value={value} onChange={(event) => onValue(event.target.value)}>
        {options.map(([one, title]) => (
          <option key={one} value={one}>
            {title}
          </option>
        ))}
      </Form.Select>
    </div>
  )
}

/** A calculator: what goes in on the left, what comes out on the right. */
export function Calculator({ title, inputs, children }: { title: string; inputs: ReactNode; children: ReactNode }) {
  return (
    <section className="calculator" aria-label={title}>
      <h2>{title}</h2>
      <div className="calculator-body">
        <div className="inputs">{inputs}</div>
        <div className="outcome" aria-live="polite">
          {children}
        </div>
      </div>
    </section>
  )
}
