import { Form } from 'react-bootstrap'
import { entryOf } from '../../../core/base/entryOf.ts'
import type { BoardInstance, SupplyInstance } from '../../../core/wiring/model.ts'
import { useCatalog, usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { ChangeBoard } from './ChangeBoard.tsx'
import { CommitField, NumberField } from './fields.tsx'
import { RefField, RemoveButton } from './lineParts.tsx'

export function BoardLine({ board }: { board: BoardInstance }) {
  const plan = usePlan()
  const entry = entryOf(plan.boards, board.ref)
  const catalog = useCatalog()
  const models = catalog.boards.get(entry?.board ?? '')?.variants ?? []
  const inUse = board.features.map((feature) => feature.id)
  const toggle = (id: string): void => {
    const uses = inUse.includes(id) ? inUse.filter((one) => one !== id) : [...inUse, id]
    edit(
      [{ do: 'change-board', ref: board.ref, entry: { uses } }],
      `${inUse.includes(id) ? 'Switch off' : 'Switch on'} ${id}`,
    )
  }
  return (
    <div className="kit-line of-few">
      <RefField name={board.ref} />
      <span>
        <span className="board-title">
          {catalog.boards.get(entry?.board ?? '')?.title} <ChangeBoard board={board} />
        </span>
        {models.length > 0 && (
          <Form.Select
            aria-label={`Model of ${board.ref}`}
            value={entry?.variant ?? ''}
            onChange={(event) =>
              edit(
                [{ do: 'change-board', ref: board.ref, entry: { variant: event.target.value || undefined } }],
                `Change the model of ${board.ref}`,
              )
            }
          >
            <option value="">any model</option>
            {models.map((model) => (
              <option key={model.id} value={model.id}>
                {model.title}
              </option>
            ))}
          </Form.Select>
        )}
      </span>
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
  const { ref, entry } = supply
  return (
    <div className="kit-line of-few">
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
