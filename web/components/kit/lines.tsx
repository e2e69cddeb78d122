import { Button, Form } from 'react-bootstrap'
import { openEnds } from '../../../core/assign/openEnds.ts'
import type { PartOption } from '../../../core/catalog/partSchema.ts'
import { formatVolts } from '../../../core/electrical/quantity.ts'
import type { Edit } from '../../../core/plan/edit.ts'
import { hexAddress, optionValue } from '../../../core/plan/readPlan.ts'
import { strapEdits } from '../../../core/wiring/i2c.ts'
import type { BoardInstance, PartInstance, SupplyInstance } from '../../../core/wiring/model.ts'
import { useDerived, useEdit, usePlan } from '../../store/derived.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { CommitField, NumberField } from './fields.tsx'

export function BoardLine({ board }: { board: BoardInstance }) {
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

export function SupplyLine({ supply }: { supply: SupplyInstance }) {
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

export function PartLine({ part }: { part: PartInstance }) {
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
