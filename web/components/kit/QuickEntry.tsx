import { type FormEvent, useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { readQuickEntry } from '../../../core/catalog/search.ts'
import { formatQuantity } from '../../../core/electrical/quantity.ts'
import { applyEdits, type Edit } from '../../../core/plan/edit.ts'
import { addParts } from '../../../core/plan/kit.ts'
import { useCatalog, usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'

export function QuickEntry() {
  const catalog = useCatalog()
  const plan = usePlan()
  const dispatch = useAppDispatch()
  const [typed, setTyped] = useState('')
  const items = useMemo(() => readQuickEntry([...catalog.parts.values()], typed), [catalog, typed])
  const add = (event: FormEvent): void => {
    event.preventDefault()
    const unknown = items.filter((item) => !item.entry)
    let now = plan
    const edits: Edit[] = []
    for (const { entry, count, options } of items) {
      if (!entry) continue
      const more = addParts(now, catalog, entry, count, Object.keys(options).length > 0 ? { options } : {})
      now = applyEdits(now, more)
      edits.push(...more)
    }
    if (edits.length > 0)
      edit(
        edits,
        `Add ${items
          .filter((item) => item.entry)
          .map((item) => item.text)
          .join(', ')}`,
      )
    if (unknown.length > 0)
      dispatch(
        toasted({
          text: `Nothing in the catalogue answers to ${unknown.map((item) => `“${item.text}”`).join(' or ')}.`,
          kind: 'wrong',
        }),
      )
    setTyped(unknown.map((item) => item.text).join(', '))
  }
  return (
    <Form onSubmit={add}>
      <div className="quick">
        <Form.Control
          id="quick-entry"
          autoFocus
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          placeholder="2 bme280, oled, lora"
          aria-label="Quick entry of parts"
          autoComplete="off"
          maxLength={400}
        />
        <Button type="submit" variant="dark" disabled={items.length === 0} className="text-nowrap">
          Add parts <kbd>Enter</kbd>
        </Button>
      </div>
      <div className="quick-said" aria-live="polite">
        {items.map((item, index) =>
          item.entry ? (
            // biome-ignore lint/suspicious/noArrayIndexKey: items have no identity but their place in the text
            <span key={index}>
              <b className="mono">{item.count} ×</b> {item.entry.title}
              {Object.entries(item.options).map(([name, value]) => (
                <span key={name} className="mono">
                  {' '}
                  {typeof value === 'number' ? formatQuantity(value, '') : value}
                </span>
              ))}
              {item.others.length > 0 && (
                <span className="soft">
                  {' '}
                  (or{' '}
                  {item.others
                    .slice(0, 2)
                    .map((other) => other.id)
                    .join(', ')}
                  )
                </span>
              )}
            </span>
          ) : (
            // biome-ignore lint/suspicious/noArrayIndexKey: items have no identity but their place in the text
            <span key={index} className="none">
              nothing answers to “{item.text}”
              {item.others.length > 0 && `; did you mean ${item.others.map((other) => other.id).join(', ')}?`}
            </span>
          ),
        )}
        {items.length === 0 && <span className="soft">Amounts, names and commas; a slip of a letter is forgiven.</span>}
      </div>
    </Form>
  )
}
