import { type ReactNode, useId, useState } from 'react'
import { Form } from 'react-bootstrap'
import { expectedAmount, formatQuantity, parseAmount } from '../../../core/electrical/quantity.ts'

/** A number with its unit, typed as makers write it (`4k7`, `20m`); what cannot be read is said beside it. */
export function Amount({
  label,
  unit,
  value,
  onValue,
  least = 0,
}: {
  label: string
  unit: string
  value: number
  onValue: (value: number) => void
  /** Smallest value that makes sense. */
  least?: number
}) {
  const id = useId()
  const [text, setText] = useState<string>()
  const amountIn = (typed: string): number | undefined => {
    const amount = parseAmount(typed, unit)
    return amount !== undefined && amount >= least ? amount : undefined
  }
  const read = text === undefined ? value : amountIn(text)
  return (
    <div className="amount">
      <label htmlFor={id}>{label}</label>
      <Form.Control
        id={id}
        size="sm"
        className="mono"
        value={text ?? formatQuantity(value, unit, 4)}
        isInvalid={read === undefined}
        maxLength={20}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setText(event.target.value)
          const now = amountIn(event.target.value)
          if (now !== undefined) onValue(now)
        }}
        onBlur={() => setText(undefined)}
      />
      {read === undefined && (
        <span className="wrong">
          expected {expectedAmount(unit)}
          {least === 0 ? '' : `, at least ${formatQuantity(least, unit)}`}
        </span>
      )}
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
