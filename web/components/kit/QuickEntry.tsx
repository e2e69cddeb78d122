import { type FormEvent, type KeyboardEvent, useMemo, useRef, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import type { Board } from '../../../core/catalog/boardSchema.ts'
import { MOST_AT_ONCE } from '../../../core/catalog/kitPieces.ts'
import { type KitItem, kitReader } from '../../../core/catalog/kitText.ts'
import type { Part } from '../../../core/catalog/partSchema.ts'
import { formatOptionAmount } from '../../../core/electrical/quantity.ts'
import { addKit } from '../../../core/plan/kit.ts'
import { inContext } from '../../../core/plan/kitContext.ts'
import { useCatalog, usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { useAppSelector } from '../../store/store.ts'
import { Browse } from './Browse.tsx'
import { Glyph } from './Glyph.tsx'

type Item = KitItem<Board, Part>

/** Lines of a pasted list that are seen at once. */
const MOST_LINES = 8

/** What lies in front of the maker, in their own words: what is understood stands below while they type. */
export function QuickEntry() {
  const catalog = useCatalog()
  const plan = usePlan()
  const [typed, setTyped] = useState('')
  const [browsing, setBrowsing] = useState(false)
  const field = useRef<HTMLTextAreaElement>(null)
  const read = useMemo(() => kitReader([...catalog.boards.values()], [...catalog.parts.values()]), [catalog])
  const items = useMemo(() => inContext(read(typed), plan, catalog), [read, typed, plan, catalog])
  const known = items.filter(({ found }) => found?.kind === 'board' || found?.kind === 'part')
  const add = (event?: FormEvent): void => {
    event?.preventDefault()
    if (known.length === 0) return
    const { edits } = addKit(plan, catalog, items)
    // What is not known stays in the field, to be said otherwise.
    if (edit(edits, `Add ${known.map(({ text }) => text).join(', ')}`))
      setTyped(
        items
          .filter(({ found }) => found === undefined)
          .map(({ text, count, isApart }) => (isApart && count > 1 ? `${count} ${text}` : text))
          .join(', '),
      )
  }
  const onKey = (event: KeyboardEvent): void => {
    if (event.key === 'Enter' && !event.shiftKey) add(event)
  }
  /** Another thing is meant by a piece: its id takes the place of the words. */
  const mean = ({ start, end, count, isApart }: Item, { id }: Board | Part): void => {
    setTyped(`${typed.slice(0, start)}${count > 1 && !isApart ? `${count} ` : ''}${id}${typed.slice(end)}`)
    field.current?.focus()
  }
  return (
    <Form onSubmit={add}>
      <div className="quick">
        <Form.Control
          as="textarea"
          ref={field}
          id="quick-entry"
          autoFocus
          rows={Math.min(MOST_LINES, typed.split('\n').length)}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={onKey}
          placeholder={Object.keys(plan.boards).length === 0 ? 'uno, 2 servos, oled, hc-sr04' : '2 bme280, oled, lora'}
          aria-label="Quick entry of board and parts"
          autoComplete="off"
          spellCheck={false}
          maxLength={8000}
        />
        <Button type="submit" variant="dark" disabled={known.length === 0} className="text-nowrap">
          Add {countOf(known)} <kbd>Enter</kbd>
        </Button>
        <Button variant="outline-dark" onClick={() => setBrowsing(true)}>
          Browse
        </Button>
      </div>
      <div className="quick-said" aria-live="polite">
        {items.map((item, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: items have no identity but their place in the text
          <Understood key={index} item={item} onMean={mean} />
        ))}
        {items.length === 0 && (
          <span className="soft">
            Board and parts in your own words, with amounts and commas, or a whole list pasted; a slip of a letter is
            forgiven.
          </span>
        )}
      </div>
      {browsing && <Browse onClose={() => setBrowsing(false)} />}
    </Form>
  )
}

/** `a board, 3 parts`: what a press adds. */
function countOf(known: readonly Item[]): string {
  const boards = known.filter(({ found }) => found?.kind === 'board').length
  const parts = known.reduce((sum, { found, count }) => sum + (found?.kind === 'part' ? count : 0), 0)
  return [
    ...(boards === 0 ? [] : [boards === 1 ? 'a board' : `${boards} boards`]),
    ...(parts === 0 && boards > 0 ? [] : [parts === 1 ? '1 part' : `${parts || ''} parts`.trim()]),
  ].join(', ')
}

/** One piece of what was typed: amount, picture and name, and what else it may mean. */
function Understood({
  item,
  onMean,
}: {
  readonly item: Item
  readonly onMean: (item: Item, to: Board | Part) => void
}) {
  const { found, count, text, others, options } = item
  const planId = useAppSelector((state) => state.plan.pen?.id)
  if (found?.kind === 'bench')
    return (
      <div className="slip soft">
        {text}: nothing to add. Breadboards and wires are laid out and counted on the Bench; what carries no current is
        in no plan.
      </div>
    )
  if (found?.kind === 'mains')
    return (
      <div className="slip soft">
        {text}: nothing to add. Mains stays in a closed box behind the contacts of a relay, never on a breadboard: the
        plan ends at the relay.
      </div>
    )
  if (found?.kind === 'outside')
    return (
      <div className="slip soft">
        {text}: nothing to add. It hangs on {found.on.title}, and its leads are no part of the plan.
      </div>
    )
  const alternatives = others.slice(0, found ? 2 : 4)
  return (
    <div className={`slip ${found ? '' : 'none'}`}>
      {found ? (
        <>
          <b className="mono" title={count === MOST_AT_ONCE ? `at most ${MOST_AT_ONCE} at once` : undefined}>
            {found.kind === 'part' && `${count} ×`}
          </b>
          <Glyph of={found.entry} />
          <span>
            {found.entry.title}
            {found.kind === 'part' && <OptionWords part={found.entry} options={options} />}
          </span>
        </>
      ) : (
        <span>nothing answers to “{text}”</span>
      )}
      {alternatives.length > 0 && (
        <span className="alternatives">
          <span className="soft">{found ? 'or' : 'did you mean'}</span>
          {alternatives.map((other) => (
            <button key={other.id} type="button" title={other.title} onClick={() => onMean(item, other)}>
              {other.id}
            </button>
          ))}
        </span>
      )}
      {!found && planId !== undefined && (
        <Link to={`/shelf/new/parts?for=${planId}&name=${encodeURIComponent(text.slice(0, 60))}`}>
          make it a part of your own
        </Link>
      )}
    </div>
  )
}

function OptionWords({ part, options }: { readonly part: Part; readonly options: Item['options'] }) {
  return Object.entries(options).map(([id, value]) => {
    const option = part.options.find((one) => one.id === id)
    return (
      <span key={id} className="mono">
        {' '}
        {typeof value === 'number'
          ? formatOptionAmount(value, option?.kind === 'amount' ? option.unit : undefined)
          : value}
        {option?.unit === 'count' && ` ${option.title.toLowerCase()}`}
      </span>
    )
  })
}
