import { Button } from 'react-bootstrap'
import { removal } from '../../../core/advice/byHand.ts'
import { useDerived } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { CommitField } from './fields.tsx'

export function RefField({ name }: { name: string }) {
  return (
    <CommitField
      label={`Reference of ${name}`}
      mono
      value={name}
      onCommit={(to) => edit([{ do: 'rename', ref: name, to: to.trim() }], `Rename ${name} to ${to}`)}
    />
  )
}

export function RemoveButton({ name, wired }: { name: string; wired: boolean }) {
  const { wiring } = useDerived()
  return (
    <Button
      size="sm"
      variant="link"
      className="text-decoration-none"
      style={{ color: 'var(--mp-soft)' }}
      aria-label={`Remove ${name}`}
      title={wired ? `Remove ${name} with its wires` : `Remove ${name}`}
      onClick={() => edit(removal(wiring, name), `Remove ${name}`)}
    >
      ✕
    </Button>
  )
}
