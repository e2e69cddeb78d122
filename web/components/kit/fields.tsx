import { useEffect, useRef, useState } from 'react'
import { Form } from 'react-bootstrap'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'

interface CommitFieldProps {
  readonly label: string
  readonly value: string
  readonly placeholder?: string
  readonly mono?: boolean
  readonly narrow?: boolean
  /** False, when it was refused, puts the old text back. */
  readonly onCommit: (text: string) => boolean | undefined | undefined
}

/** A text field that takes effect on Enter or on leaving, and goes back on Escape. */
export function CommitField({ label, value, placeholder, mono, narrow, onCommit }: CommitFieldProps) {
  const [text, setText] = useState<string>()
  const commit = (): void => {
    if (text !== undefined && text !== value) onCommit(text)
    setText(undefined)
  }
  // What is typed and not left counts as well when the page or the field goes.
  const latest = useRef(commit)
  latest.current = commit
  useEffect(() => {
    const leave = (): void => latest.current()
    const hide = (): void => {
      if (document.visibilityState === 'hidden') leave()
    }
    window.addEventListener('pagehide', leave)
    document.addEventListener('visibilitychange', hide)
    return () => {
      window.removeEventListener('pagehide', leave)
      document.removeEventListener('visibilitychange', hide)
      leave()
    }
  }, [])
  return (
    <Form.Control
      className={`${narrow ? 'mono' : 'plain'} ${mono ? 'mono fw-semibold' : ''}`}
      style={narrow ? { width: 68 } : undefined}
      aria-label={label}
      placeholder={placeholder}
      value={text ?? value}
      maxLength={200}
      onChange={(event) => setText(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') setText(undefined)
      }}
    />
  )
}

export function NumberField({
  label,
  unit,
  value,
  least,
  most,
  onCommit,
}: {
  label: string
  unit: string
  value: number | undefined
  least: number
  most: number
  onCommit: (value: number) => void
}) {
  const dispatch = useAppDispatch()
  return (
    <span className="d-inline-flex align-items-center gap-1">
      <CommitField
        label={label}
        narrow
        value={value === undefined ? '' : String(value)}
        onCommit={(text) => {
          const number = Number(text.replace(',', '.'))
          if (text.trim() !== '' && number >= least && number <= most) onCommit(number)
          else
            dispatch(
              toasted({
                text: `${label}: “${text}” does not fit; expected a number from ${least} to ${most}`,
                kind: 'wrong',
              }),
            )
        }}
      />
      {unit}
    </span>
  )
}
