import { type FormEvent, useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { openEnds } from '../../core/assign/openEnds.ts'
import type { PartOption } from '../../core/catalog/partSchema.ts'
import { readQuickEntry } from '../../core/catalog/search.ts'
import { formatVolts } from '../../core/electrical/quantity.ts'
import type { Edit } from '../../core/plan/edit.ts'
import { applyEdits } from '../../core/plan/edit.ts'
import { addParts } from '../../core/plan/kit.ts'
import { hexAddress, optionValue } from '../../core/plan/readPlan.ts'
import { freshRef } from '../../core/plan/refs.ts'
import { strapEdits } from '../../core/wiring/i2c.ts'
import type { BoardInstance, PartInstance, SupplyInstance } from '../../core/wiring/model.ts'
import { useCatalog, useDerived, useEdit, usePlan } from '../store/derived.ts'
import { useAppDispatch } from '../store/store.ts'
import { toasted } from '../store/toastSlice.ts'

/** What do I have, and does a board carry it? */
export function Kit() {
  const { wiring } = useDerived()
  const plan = usePlan()
  const edit = useEdit()
  return (
    <div className="kit">
      <h1 className="visually-hidden">Kit</h1>
      <QuickEntry />
      <h2>
        Boards <AddBoard />
      </h2>
      {wiring.boards.length === 0 && <p className="soft py-2 mb-0">Choose the board that everything hangs on.</p>}
      {wiring.boards.map((board) => (
        <BoardLine key={board.ref} board={board} />
      ))}
      <h2>
        Supplies{' '}
        <Button
          size="sm"
          variant="outline-dark"
          onClick={() =>
            edit(
              [
                {
                  do: 'add-supply',
                  ref: freshRef(plan, 'PACK', 1)[0] as string,
                  entry: { volts: 5, limitMilliamps: 2000 },
                },
              ],
              'Add a supply',
            )
          }
        >
          Add a supply
        </Button>
      </h2>
      {wiring.supplies.length === 0 && (
        <p className="soft py-2 mb-0">None besides the boards’ own. Motors and servos want one.</p>
      )}
      {wiring.supplies.map((supply) => (
        <SupplyLine key={supply.ref} supply={supply} />
      ))}
      <h2>
        <span>
          Parts <span className="soft fw-normal">{wiring.parts.length}</span>
        </span>
      </h2>
      {wiring.parts.length === 0 && (
        <p className="soft py-2 mb-0">
          Type what lies in front of you in the field above, for example “2 bme280, oled, led”.
        </p>
      )}
      {wiring.parts.map((part) => (
        <PartLine key={part.ref} part={part} />
      ))}
    </div>
  )
}

function QuickEntry() {
  const catalog = useCatalog()
  const plan = usePlan()
  const edit = useEdit()
  const dispatch = useAppDispatch()
  const [typed, setTyped] = useState('')
  const items = useMemo(() => readQuickEntry([...catalog.parts.values()], typed), [catalog, typed])
  const add = (event: FormEvent): void => {
    event.preventDefault()
    const unknown = items.filter((item) => !item.entry)
    let now = plan
    const edits: Edit[] = []
    for (const { entry, count } of items) {
      if (!entry) continue
      const more = addParts(now, catalog, entry, count)
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
            </span>
          ),
        )}
        {items.length === 0 && <span className="soft">Amounts, names and commas; a slip of a letter is forgiven.</span>}
      </div>
    </Form>
  )
}

function AddBoard() {
  const catalog = useCatalog()
  const plan = usePlan()
  const edit = useEdit()
  const add = (id: string): void => {
    const board = catalog.boards.get(id)
    if (!board) return
    const uses = board.features.filter((feature) => feature.usual).map((feature) => feature.id)
    edit(
      [{ do: 'add-board', ref: freshRef(plan, 'MCU', 1)[0] as string, entry: { board: id, uses } }],
      `Add ${board.title}`,
    )
  }
  return (
    <Form.Select
      size="sm"
      style={{ width: 'auto' }}
      value=""
      onChange={(event) => add(event.target.value)}
      aria-label="Add a board"
    >
      <option value="">Add a board …</option>
      {[...catalog.boards.values()].map((board) => (
        <option key={board.id} value={board.id}>
          {board.title} ({formatVolts(board.logicVolts)})
        </option>
      ))}
    </Form.Select>
  )
}

function BoardLine({ board }: { board: BoardInstance }) {
  const edit = useEdit()
  const plan = usePlan()
  const inUse = board.features.map((feature) => feature.id)
  const toggle = (id: string): void => {
    const uses = inUse.includes(id) ? inUse.filter((one) => one !== id) : [...inUse, id]
    edit(
      [{ do: 'change-board', ref: board.ref, entry: { uses } }],
      `${inUse.includes(id) ? 'Switch off' : 'Switch on'} ${id}`,
    )
  }
  return (
    <div className="kit-line" style={{ gridTemplateColumns: '116px minmax(120px, 1fr) minmax(200px, 2fr) 34px' }}>
      <RefField name={board.ref} />
      <span>{board.board.title}</span>
      <div className="features">
        {board.board.features.map((feature) => (
          <Form.Check
            key={feature.id}
            id={`${board.ref}-${feature.id}`}
            type="checkbox"
            label={feature.title}
            title={feature.text}
            checked={inUse.includes(feature.id)}
            onChange={() => toggle(feature.id)}
          />
        ))}
      </div>
      <RemoveButton
        name={board.ref}
        wired={plan.wires.some((wire) => wire[0].startsWith(`${board.ref}.`) || wire[1].startsWith(`${board.ref}.`))}
      />
    </div>
  )
}

function SupplyLine({ supply }: { supply: SupplyInstance }) {
  const edit = useEdit()
  const { ref, entry } = supply
  return (
    <div className="kit-line" style={{ gridTemplateColumns: '116px minmax(120px, 1fr) minmax(200px, 2fr) 34px' }}>
      <RefField name={ref} />
      <CommitField
        label={`What ${ref} is`}
        value={entry.title ?? ''}
        placeholder="what it is"
        onCommit={(title) =>
          edit([{ do: 'change-supply', ref, entry: { title: title || undefined } }], `Rename ${ref}`)
        }
      />
      <div className="settings">
        <NumberField
          label={`Volts of ${ref}`}
          unit="V"
          value={entry.volts}
          least={0.5}
          most={60}
          onCommit={(volts) => edit([{ do: 'change-supply', ref, entry: { volts } }], `Set ${ref} to ${volts} V`)}
        />
        <NumberField
          label={`Limit of ${ref} in milliamperes`}
          unit="mA"
          value={entry.limitMilliamps}
          least={0}
          most={100000}
          onCommit={(limitMilliamps) =>
            edit([{ do: 'change-supply', ref, entry: { limitMilliamps } }], `Set the limit of ${ref}`)
          }
        />
      </div>
      <RemoveButton name={ref} wired />
    </div>
  )
}

function PartLine({ part }: { part: PartInstance }) {
  const { wiring } = useDerived()
  const edit = useEdit()
  const plan = usePlan()
  const { ref } = part
  const open = openEnds(wiring, part).filter((one) => one.required).length
  const wired = part.part.pins.some((pin) => wiring.netOf(`${ref}.${pin.id}`).wired)
  const source = part.supplies[0]?.source
  return (
    <div className={`kit-line ${part.part.category === 'passive' ? 'companion' : ''}`} data-part={ref}>
      <RefField name={ref} />
      <CommitField
        label={`What ${ref} is for`}
        value={plan.parts[ref]?.title ?? ''}
        placeholder="what it is for"
        onCommit={(title) => edit([{ do: 'change-part', ref, entry: { title: title || undefined } }], `Rename ${ref}`)}
      />
      <span title={part.part.summary}>{part.part.title}</span>
      <div className="settings">
        {part.part.modes.length > 1 && (
          <Form.Select
            aria-label={`Mode of ${ref}`}
            value={part.mode?.id}
            onChange={(event) =>
              edit([{ do: 'change-part', ref, entry: { mode: event.target.value } }], `Change the mode of ${ref}`)
            }
          >
            {part.part.modes.map((mode) => (
              <option key={mode.id} value={mode.id}>
                {mode.title}
              </option>
            ))}
          </Form.Select>
        )}
        {part.part.options
          .filter((option) => !['tolerance', 'watts'].includes(option.id))
          .map((option) => (
            <OptionField key={option.id} part={part} option={option} />
          ))}
        {wiring.boards.length > 1 && (
          <Form.Select
            aria-label={`Board of ${ref}`}
            value={part.home?.ref}
            onChange={(event) =>
              edit(
                [{ do: 'change-part', ref, entry: { on: event.target.value } }],
                `Move ${ref} to ${event.target.value}`,
              )
            }
          >
            {wiring.boards.map((board) => (
              <option key={board.ref}>{board.ref}</option>
            ))}
          </Form.Select>
        )}
      </div>
      <span className="mono" title={source ? `fed from ${source.end}` : undefined}>
        {open > 0 ? <span className="soft">{open} open</span> : source ? formatVolts(source.volts) : 'wired'}
      </span>
      <RemoveButton name={ref} wired={wired} />
    </div>
  )
}

function OptionField({ part, option }: { part: PartInstance; option: PartOption }) {
  const { wiring } = useDerived()
  const edit = useEdit()
  const dispatch = useAppDispatch()
  const value = part.options[option.id] ?? option.usual
  const set = (next: string | number): void => {
    const entry = wiring.plan.parts[part.ref]
    const change: Edit = {
      do: 'change-part',
      ref: part.ref,
      entry: { options: { ...entry?.options, [option.id]: next } },
    }
    edit([change, ...(strapEdits(wiring, part, option.id, String(next)) ?? [])], `Set ${option.title} of ${part.ref}`)
  }
  const label = `${option.title} of ${part.ref}`
  if (option.kind === 'amount')
    return (
      <CommitField
        label={label}
        narrow
        value={String(engineering(Number(value)))}
        onCommit={(text) => {
          const read = optionValue(option, text)
          if (read.ok) set(read.value)
          else dispatch(toasted({ text: read.message, kind: 'wrong' }))
        }}
      />
    )
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

/** `4k7`-like short form of an amount for an entry field. */
function engineering(value: number): string {
  for (const [factor, prefix] of [
    [1e6, 'M'],
    [1e3, 'k'],
    [1, ''],
    [1e-3, 'm'],
    [1e-6, 'u'],
    [1e-9, 'n'],
    [1e-12, 'p'],
  ] as const)
    if (Math.abs(value) >= factor * 0.9999999) return `${Number((value / factor).toPrecision(4))}${prefix}`
  return String(value)
}

function RefField({ name }: { name: string }) {
  const edit = useEdit()
  return (
    <CommitField
      label={`Reference of ${name}`}
      mono
      value={name}
      onCommit={(to) => edit([{ do: 'rename', ref: name, to: to.trim() }], `Rename ${name} to ${to}`)}
    />
  )
}

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
function CommitField({ label, value, placeholder, mono, narrow, onCommit }: CommitFieldProps) {
  const [text, setText] = useState<string>()
  const commit = (): void => {
    if (text !== undefined && text !== value) onCommit(text)
    setText(undefined)
  }
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

function NumberField({
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

function RemoveButton({ name, wired }: { name: string; wired: boolean }) {
  const edit = useEdit()
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
