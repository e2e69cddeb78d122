import { Button, Form } from 'react-bootstrap'
import { waysToJoin } from '../../../core/assign/choices.ts'
import { staysInBox } from '../../../core/assign/left.ts'
import { openEnds } from '../../../core/assign/openEnds.ts'
import { entryOf } from '../../../core/base/entryOf.ts'
import { formatVolts } from '../../../core/electrical/quantity.ts'
import { duplicatePart } from '../../../core/plan/kit.ts'
import { companionOffers } from '../../../core/rules/mend.ts'
import type { PartInstance } from '../../../core/wiring/model.ts'
import { useCatalog, useDerived, usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { Explained } from '../words.tsx'
import { CommitField } from './fields.tsx'
import { RefField, RemoveButton } from './lineParts.tsx'
import { OptionField } from './OptionField.tsx'

/** `I2C` of `Two-wire bus (I2C)`. */
const shortTitle = (title: string): string => /\(([^)]+)\)$/.exec(title)?.[1] ?? title

/** A part of the plan; a companion stands indented below the part that it belongs to. */
export function PartLine({ part, companion }: { part: PartInstance; companion?: boolean }) {
  const { wiring } = useDerived()
  const catalog = useCatalog()
  const plan = usePlan()
  const { ref } = part
  const open = openEnds(wiring, part).filter((one) => one.required).length
  const boxed = staysInBox(wiring).find((one) => one.ref === ref)
  const wired = part.part.pins.some((pin) => wiring.netOf(`${ref}.${pin.id}`).wired)
  const source = part.supplies[0]?.source
  const leftOpen = waysToJoin(part).length > 1
  return (
    <div className={`kit-line ${companion ? 'companion' : ''}`} data-part={ref}>
      <RefField name={ref} />
      <CommitField
        label={`What ${ref} is for`}
        value={entryOf(plan.parts, ref)?.title ?? ''}
        placeholder="what it is for"
        onCommit={(title) => edit([{ do: 'change-part', ref, entry: { title: title || undefined } }], `Rename ${ref}`)}
      />
      <span title={part.part.summary}>
        {part.part.title}
        {entryOf(plan.parts, ref)?.buy && (
          <Button
            size="sm"
            variant="link"
            className="to-buy"
            title="It was added, since the kit had none. Press when you have it."
            onClick={() => edit([{ do: 'change-part', ref, entry: { buy: undefined } }], `Have ${ref} at hand`)}
          >
            to buy: have it?
          </Button>
        )}
      </span>
      <div className="settings">
        {part.part.modes.length > 1 && (
          <Form.Select
            aria-label={`Mode of ${ref}`}
            value={entryOf(plan.parts, ref)?.mode ?? (leftOpen ? '' : part.mode?.id)}
            onChange={(event) =>
              edit(
                [{ do: 'change-part', ref, entry: { mode: event.target.value || undefined } }],
                `Change the mode of ${ref}`,
              )
            }
          >
            {leftOpen && <option value="">as it fits: {shortTitle(part.part.modes[0]?.title ?? '')}</option>}
            {part.part.modes.map((mode) => (
              <option key={mode.id} value={mode.id}>
                {mode.title}
              </option>
            ))}
          </Form.Select>
        )}
        {part.part.options
          .filter(
            ({ id, kind }) =>
              !['tolerance', 'watts'].includes(id) && (kind !== 'i2c-address' || part.mode?.i2c !== undefined),
          )
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
      <span className="mono" title={boxed?.why ?? (source ? `fed from ${source.end}` : undefined)}>
        {boxed ? (
          <span className="soft">{boxed.is === 'unfit' ? 'unfit' : 'spare'}</span>
        ) : open > 0 ? (
          <span className="soft">{open} open</span>
        ) : source ? (
          formatVolts(source.volts)
        ) : (
          'wired'
        )}
      </span>
      <span className="line-buttons">
        <Button
          size="sm"
          variant="link"
          aria-label={`Add another like ${ref}`}
          title={`Add another like ${ref}, with its options`}
          onClick={() => edit(duplicatePart(plan, catalog, ref), `Add another like ${ref}`)}
        >
          +1
        </Button>
        <RemoveButton name={ref} wired={wired} />
      </span>
    </div>
  )
}

/** Companions that a part asks for and does not have: one press adds each, wired to its place. */
export function CompanionOffers({ part }: { part: PartInstance }) {
  const { wiring } = useDerived()
  const offers = companionOffers(wiring, part)
  if (offers.length === 0) return null
  return (
    <div className="offers">
      {offers.map(({ title, what, facts, edits }) => (
        <span key={facts.why + (facts.series ?? facts.across?.join())}>
          <Button size="sm" variant="outline-dark" aria-label={title} onClick={() => edit(edits, title)}>
            + {what}
          </Button>{' '}
          <span className="soft">
            {facts.required ? 'needed: ' : ''}
            <Explained text={facts.why} />
          </span>
        </span>
      ))}
    </div>
  )
}
