import { type ClipboardEvent, type DragEvent, type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { type HandRow, handRows, wireByHand } from '../../../core/advice/byHand.ts'
import { type WireTable, wireTable } from '../../../core/advice/wireTable.ts'
import { counted } from '../../../core/base/counted.ts'
import { splitEnd } from '../../../core/plan/ends.ts'
import type { Wiring } from '../../../core/wiring/model.ts'
import { useDerived } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { planActions } from '../../store/planSlice.ts'
import { useAppDispatch } from '../../store/store.ts'
import { KindMark } from '../kinds.tsx'
import { TableDialog, takenOf } from './TableDialog.tsx'

/** Of a dropped file more is not read: no table of wires is longer. */
const MOST_BYTES = 200_000

/** What the yard may do with the pin at hand. */
export interface AtHand {
  readonly end: string
  /** Takes the pin to an end, and goes on to the next. */
  readonly take: (to: string) => void
}

/**
 * Wiring that is there already, entered down a part pin by pin at the speed of reading it out: each row says where its
 * wire goes, Enter goes on to the next pin, and after the last to the next part.
 */
export function ByHand({
  onDone,
  onHand,
}: {
  readonly onDone: () => void
  readonly onHand: (hand: AtHand | undefined) => void
}) {
  const { wiring } = useDerived()
  const dispatch = useAppDispatch()
  const parts = useMemo(
    () =>
      wiring.parts.filter(({ part }) => part.pins.length > 0).map((part) => ({ part, rows: handRows(wiring, part) })),
    [wiring],
  )
  const all = useMemo(() => parts.flatMap(({ rows }) => rows), [parts])
  const [at, setAt] = useState<string>()
  const [wrong, setWrong] = useState<{ readonly end: string; readonly message: string }>()
  const [pasted, setPasted] = useState<WireTable>()
  /** A table of a file, to be looked at before it is taken in. */
  const [offered, setOffered] = useState<string>()
  const list = useRef<HTMLElement>(null)
  /** The row that gets the focus when it is shown. */
  const wanted = useRef<string | undefined>((all.find(({ state }) => state === 'open') ?? all[0])?.end)

  useEffect(() => {
    const { current: end } = wanted
    const field = end && list.current?.querySelector<HTMLInputElement>(`[data-hand="${CSS.escape(end)}"]`)
    if (!field) return
    wanted.current = undefined
    field.focus({ preventScroll: true })
    // Within the list alone: the page around it stays where it is.
    const box = list.current
    if (box) box.scrollTop += field.getBoundingClientRect().top - box.getBoundingClientRect().top - box.clientHeight / 2
  })
  useEffect(() => () => onHand(undefined), [onHand])

  const goTo = (end: string | undefined): void => {
    wanted.current = end
    setAt(end)
    setWrong(undefined)
  }
  /** The pin after one, or before it; after the last of a part comes the next part. */
  const step = (end: string, by: 1 | -1): void => {
    const next = all[all.findIndex((row) => row.end === end) + by]
    if (next) goTo(next.end)
  }
  /** Wires a pin as it is said; false when that cannot be. */
  const wire = (row: HandRow, words: string): boolean => {
    const answer = wireByHand(wiring, row.end, words)
    if (!answer.ok) setWrong({ end: row.end, message: answer.message })
    return answer.ok && (answer.edits.length === 0 || edit(answer.edits, `Wire ${row.end} to ${words}`))
  }
  const enter = (row: HandRow, words: string): boolean => {
    const isDone = wire(row, words)
    if (isDone) step(row.end, 1)
    return isDone
  }
  // A post may be pressed long after its row got the focus: the wiring of that moment counts.
  const latest = useRef((_row: HandRow, _to: string): void => {})
  latest.current = (row, to) => void enter(row, to)
  const take = (text: string, ref?: string): void => {
    const table = wireTable(wiring, text, ref)
    if (table.edits.length > 0) edit(table.edits, `Enter ${counted(takenOf(table), 'wire')} from a table`)
    setPasted(table)
    setOffered(undefined)
  }
  const paste = (event: ClipboardEvent, ref: string): void => {
    const text = event.clipboardData.getData('text/plain')
    if (!/[\n\t]/.test(text.trim())) return
    event.preventDefault()
    take(text, ref)
  }
  const offer = (file: File): void => void file.slice(0, MOST_BYTES).text().then(setOffered)
  const drop = (event: DragEvent): void => {
    const [file] = event.dataTransfer.files
    if (!file) return
    event.preventDefault()
    offer(file)
  }
  const focused = (row: HandRow): void => {
    setAt(row.end)
    dispatch(planActions.picked(row.use ? row.end : undefined))
    if (!row.use) dispatch(planActions.lit([row.end, ...row.to]))
    onHand({ end: row.end, take: (to) => latest.current(row, to) })
  }
  const left = all.filter(({ state }) => state === 'open').length
  return (
    <section
      className="ledger by-hand"
      aria-label="Wires by hand"
      ref={list}
      onDragOver={(event) => event.preventDefault()}
      onDrop={drop}
    >
      <header>
        <h2>By hand</h2>
        <span className="soft" data-testid="open-count">
          {left === 0 ? 'all entered' : `${counted(left, 'pin')} to go`}
        </span>
        <Button size="sm" variant="dark" onClick={onDone}>
          Done
        </Button>
      </header>
      <p className="soft hand-help">
        Where does each pin go? <kbd>Enter</kbd> goes on. A pin of the board by any of its names, GND, 5V, another
        part’s pin, or - for open. Two columns (TRIG 10) or a whole table can be pasted, or taken from a file of from,
        to and colour:{' '}
        <label className="table-file">
          <input
            type="file"
            className="visually-hidden"
            accept=".csv,.tsv,.txt,text/csv"
            onChange={({ target }) => {
              const [file] = target.files ?? []
              target.value = ''
              if (file) offer(file)
            }}
          />
          <span className="btn btn-sm btn-outline-dark">Take in a table …</span>
        </label>
      </p>
      {offered !== undefined && (
        <TableDialog text={offered} onTake={() => take(offered)} onClose={() => setOffered(undefined)} />
      )}
      {pasted && <Pasted table={pasted} />}
      {parts.map(({ part, rows }) => (
        <fieldset key={part.ref}>
          <legend className="part">
            <b>{part.ref}</b>
            <span title={part.part.title}>{part.title}</span>
          </legend>
          {rows.map((row) => (
            <Row
              key={`${row.end} ${row.to.join()} ${row.state}`}
              row={row}
              wiring={wiring}
              isAt={row.end === at}
              wrong={wrong?.end === row.end ? wrong.message : undefined}
              onEnter={(words) => enter(row, words)}
              onLeave={(words) => void wire(row, words)}
              onStep={(by) => step(row.end, by)}
              onFocus={() => focused(row)}
              onPaste={(event) => paste(event, part.ref)}
            />
          ))}
        </fieldset>
      ))}
    </section>
  )
}

/** What came of a pasted table, with the lines that do not fit. */
function Pasted({ table }: { readonly table: WireTable }) {
  const problems = table.lines.filter(({ is }) => is === 'wrong')
  return (
    <div className="pasted" role="status">
      {counted(takenOf(table), 'wire')} entered from the table.
      {problems.length > 0 && (
        <ul>
          {problems.slice(0, 8).map(({ line, text, message }) => (
            <li key={line}>
              line {line} <span className="mono">{text.slice(0, 60)}</span>: {message}
            </li>
          ))}
          {problems.length > 8 && <li>and {problems.length - 8} more</li>}
        </ul>
      )}
    </div>
  )
}

interface RowProps {
  readonly row: HandRow
  readonly wiring: Wiring
  readonly isAt: boolean
  readonly wrong: string | undefined
  /** Wires the pin and goes on; false when that cannot be. */
  readonly onEnter: (words: string) => boolean
  /** Wires the pin that was left by Tab, by an arrow or by the mouse. */
  readonly onLeave: (words: string) => void
  readonly onStep: (by: 1 | -1) => void
  readonly onFocus: () => void
  readonly onPaste: (event: ClipboardEvent) => void
}

function Row({ row, wiring, isAt, wrong, onEnter, onLeave, onStep, onFocus, onPaste }: RowProps) {
  const { ref } = splitEnd(row.end)
  const told = row.state === 'unused' ? '-' : toldBy(wiring, ref, row.to)
  const [typed, setTyped] = useState(told)
  const entered = useRef(false)
  const onKey = (event: KeyboardEvent): void => {
    if (event.key === 'Enter') {
      event.preventDefault()
      // What stands there already is not entered anew, so that a look down the rows changes nothing.
      entered.current = true
      entered.current = onEnter(typed === told ? '' : typed)
    } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault()
      onStep(event.key === 'ArrowDown' ? 1 : -1)
    } else if (event.key === 'Escape') {
      event.stopPropagation()
      setTyped(told)
    }
  }
  return (
    <div className={`hand-row ${row.state} ${isAt ? 'at' : ''}`}>
      {row.use ? <KindMark need={row.use.facts.needs} /> : <RoleMark role={row.role} />}
      <label htmlFor={`hand ${row.end}`}>
        <b>{row.pin}</b>
        {row.mark !== undefined && <span className="soft"> {row.mark}</span>}
      </label>
      <Form.Control
        id={`hand ${row.end}`}
        data-hand={row.end}
        className="mono"
        value={typed}
        placeholder={row.state === 'open' ? 'open' : 'optional'}
        isInvalid={wrong !== undefined}
        aria-describedby={wrong === undefined ? undefined : `hand-wrong ${row.end}`}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={onKey}
        onFocus={(event) => {
          event.target.select()
          onFocus()
        }}
        onBlur={() => {
          if (typed !== told && !entered.current) onLeave(typed)
          entered.current = false
        }}
        onPaste={onPaste}
        autoComplete="off"
        spellCheck={false}
        maxLength={60}
      />
      {wrong !== undefined && (
        <p id={`hand-wrong ${row.end}`} className="wrong" role="alert">
          {wrong}
        </p>
      )}
    </div>
  )
}

/** Where a pin leads, as it is printed: pins of its own board by their label alone. */
function toldBy(wiring: Wiring, ref: string, to: readonly string[]): string {
  const home = wiring.parts.find((one) => one.ref === ref)?.home
  return to
    .map((end) => {
      const { ref: other, pin } = splitEnd(end)
      return home && other === home.ref ? (home.facts.pin(pin)?.label ?? pin) : end
    })
    .join(', ')
}

const roles = {
  supply: ['V', 'a supply'],
  ground: ['G', 'ground'],
  other: ['·', 'a pin'],
  signal: ['·', 'a signal'],
} as const

function RoleMark({ role }: { readonly role: HandRow['role'] }) {
  const [letter, words] = roles[role]
  return (
    <span className="kind rail" title={words}>
      <span aria-hidden="true">{letter}</span>
      <span className="visually-hidden">{words}</span>
    </span>
  )
}
