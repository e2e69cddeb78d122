import { type FormEvent, type RefObject, useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link, useParams } from 'react-router'
import type { Candidate } from '../../../core/assign/candidates.ts'
import { type BusWay, busWays } from '../../../core/assign/moveBus.ts'
import { swapPartners } from '../../../core/assign/rewire.ts'
import { canonicalEnd } from '../../../core/plan/ends.ts'
import type { Host, SignalUse } from '../../../core/wiring/model.ts'
import { needWords } from '../../../core/wiring/needs.ts'
import { useCatalog, useDerived } from '../../store/derived.ts'
import { useHints } from '../../store/hints.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { ActionMenu } from '../ActionMenu.tsx'

interface PickedTaskProps {
  readonly use: SignalUse
  readonly best: readonly Candidate[]
  /** Key of the best. */
  readonly firstKey: string
  readonly field: RefObject<HTMLInputElement | null>
  readonly onPut: (use: SignalUse, host: Host) => void
  /** Asks why the signal lies on a pin, or does not. */
  readonly onWhy: (host: Host) => void
  readonly onLock: () => void
  readonly onClear: () => void
  readonly onSwap: (other: SignalUse) => void
  readonly onMoveBus: (way: BusWay) => void
  readonly onLeaveOpen: () => void
}

/** What the picked signal needs, its best pin, and what can be done with it. */
export function PickedTask({
  use,
  best,
  firstKey,
  field,
  onPut,
  onWhy,
  onLock,
  onClear,
  onSwap,
  onMoveBus,
  onLeaveOpen,
}: PickedTaskProps) {
  const { wiring } = useDerived()
  const catalog = useCatalog()
  const dispatch = useAppDispatch()
  const [typed, setTyped] = useState('')
  const submit = (event: FormEvent): void => {
    event.preventDefault()
    const isQuestion = typed.trim().endsWith('?')
    const pin = typed.trim().replace(/\s*\?$/, '')
    const name = pin.includes('.') ? pin : `${use.part.home?.ref ?? ''}.${pin}`
    const found = canonicalEnd(wiring.plan, catalog, name)
    if (!found.ok) return void dispatch(toasted({ text: found.message, kind: 'wrong' }))
    const host = wiring.terminal(found.end)?.host
    if (!host)
      return void dispatch(
        toasted({
          text: `${found.end} is no signal pin; expected a GPIO of the board or a pin of an expander`,
          kind: 'wrong',
        }),
      )
    setTyped('')
    if (isQuestion) onWhy(host)
    else {
      field.current?.blur()
      onPut(use, host)
    }
  }
  const ways = useMemo(() => {
    const bus = wiring.buses.find((one) => one.uses.includes(use))
    return bus && !use.facts.needs.endsWith('.cs') ? busWays(wiring, bus) : []
  }, [wiring, use])
  const partners = swapPartners(wiring, use)
  return (
    <>
      <Need use={use} best={best[0]} firstKey={firstKey} />
      <Form onSubmit={submit}>
        <Form.Control
          ref={field}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          placeholder="pin …"
          aria-label={`Pin for ${use.end}`}
          title="Puts it on the pin; with ? behind the name says why it is there, or is not"
          className="mono"
          autoComplete="off"
          maxLength={60}
        />
      </Form>
      {use.hosts.length > 0 ? (
        <>
          <Button variant="outline-dark" onClick={onLock}>
            {use.locked ? 'Unlock' : 'Lock'} <kbd>!</kbd>
          </Button>
          {partners.length > 0 && (
            <ActionMenu
              label={`Swap ${use.end} with`}
              actions={partners.map((one) => ({ id: one.end, text: `${one.end} at ${one.hosts[0]?.host.end}` }))}
              onPick={(id) => {
                const other = partners.find((one) => one.end === id)
                if (other) onSwap(other)
              }}
            >
              Swap …
            </ActionMenu>
          )}
          {ways.length > 0 && (
            <ActionMenu
              label="Move the whole bus to"
              actions={ways.map((way) => ({ id: way.controller, text: `move the whole bus to ${way.title}` }))}
              onPick={(id) => {
                const way = ways.find((one) => one.controller === id)
                if (way) onMoveBus(way)
              }}
            >
              Bus …
            </ActionMenu>
          )}
          <Button variant="outline-dark" onClick={onClear}>
            Clear <kbd>Del</kbd>
          </Button>
        </>
      ) : (
        <Button variant="outline-dark" onClick={onLeaveOpen}>
          {use.state === 'unused' ? 'Use it' : 'Leave open'} <kbd>-</kbd>
        </Button>
      )}
    </>
  )
}

/** What a signal needs, and its best pin with its key. */
export function Need({
  use,
  best,
  firstKey,
}: {
  readonly use: SignalUse
  readonly best: Candidate | undefined
  readonly firstKey: string | undefined
}) {
  const { id } = useParams()
  const hints = useHints()
  return (
    <div className="need" aria-live="polite">
      <div>
        <b>{use.end}</b> needs {needWords(use.facts.needs)}
        {use.facts.pull ? ', with a pull-up' : ''}
        {use.facts.text ? <span className="soft">: {use.facts.text}</span> : ''}
      </div>
      <div className="soft">
        {use.hosts.length > 0 && (
          <>
            <Link to={`/plan/${id}/workings/pins?end=${encodeURIComponent(use.end)}`}>Volts</Link>
            {', '}
          </>
        )}
        {!hints
          ? ''
          : best
            ? `${firstKey ? `${firstKey}: ` : 'best on '}${best.host.end}, ${[...best.for, ...best.against].slice(0, 3).join(', ')}`
            : 'no other pin suits'}
      </div>
    </div>
  )
}
