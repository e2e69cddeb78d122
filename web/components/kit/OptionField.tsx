import { Form } from 'react-bootstrap'
import { entryOf } from '../../../core/base/entryOf.ts'
import type { PartOption } from '../../../core/catalog/partSchema.ts'
import { hexAddress } from '../../../core/electrical/hexAddress.ts'
import { formatOptionAmount } from '../../../core/electrical/quantity.ts'
import type { Edit } from '../../../core/plan/edit.ts'
import { optionValue } from '../../../core/plan/readPlan.ts'
import { strapEdits } from '../../../core/wiring/i2c.ts'
import type { PartInstance } from '../../../core/wiring/model.ts'
import { useDerived } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { CommitField } from './fields.tsx'

/** An option of a part: a choice in words, or an amount with its unit. Straps are rewired with it. */
export function OptionField({ part, option }: { part: PartInstance; option: PartOption }) {
  const { wiring } = useDerived()
  const dispatch = useAppDispatch()
  const value = entryOf(part.options, option.id) ?? option.usual
  const set = (next: string | number): void => {
    const entry = entryOf(wiring.plan.parts, part.ref)
    const change: Edit = {
      do: 'change-part',
      ref: part.ref,
      entry: { options: { ...entry?.options, [option.id]: next } },
    }
    edit([change, ...(strapEdits(wiring, part, option.id, String(next)) ?? [])], `Set ${option.title} of ${part.ref}`)
  }
  const label = `${option.title} of ${part.ref}`
  if (option.kind === 'amount') {
    return (
      <span className="d-inline-flex align-items-center gap-1" title={option.title}>
        <CommitField
          label={label}
          narrow
          value={formatOptionAmount(Number(value), option.unit, 6)}
          onCommit={(text) => {
            const read = optionValue(option, text)
            if (read.ok) set(read.value)
            else dispatch(toasted({ text: read.message, kind: 'wrong' }))
          }}
        />
      </span>
    )
  }
  return (
    <Form.Select
      aria-label={label}
      value={String(value)}
      onChange={(event) =>
        set(option.values.find((one) => String(one.value) === event.target.value)?.value ?? event.target.value)
      }
    >
      {option.values.map((one) => (
        <option key={String(one.value)} value={String(one.value)}>
          {option.kind === 'i2c-address'
            ? `${hexAddress(Number(one.value))}${one.title ? ` ${one.title}` : ''}`
            : (one.title ?? one.value)}
        </option>
      ))}
    </Form.Select>
  )
}
