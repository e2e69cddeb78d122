import { Button } from 'react-bootstrap'
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
  return (
    <Button
      size="sm"
      variant="link"
      className="text-decoration-none"
      style={{ color: 'var(--mp-soft)' }}
      aria-label={`Remove ${name}`}
      title={wired ? `Remove ${name} with its wires` : `Remove ${name}`}
      onClick={() => edit([{ do: 'remove', ref: name }], `Remove ${name}`)}
    >
      ✕
    </Button>
  )
}
