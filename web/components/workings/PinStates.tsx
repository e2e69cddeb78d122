import { useId, useMemo, useState } from 'react'
import { Form } from 'react-bootstrap'
import { useSearchParams } from 'react-router'
import { type ExplainedState, explainEnd } from '../../../core/circuit/explain.ts'
import { formatVolts } from '../../../core/electrical/quantity.ts'
import { canonicalEnd } from '../../../core/plan/ends.ts'
import { useCatalog, useDerived } from '../../store/derived.ts'
import { Explained } from '../words.tsx'

/** Every voltage and current that the model gives for one pin, with the arithmetic. */
export function PinStates() {
  const { wiring, findings } = useDerived()
  const catalog = useCatalog()
  const [parameters, setParameters] = useSearchParams()
  const [typed, setTyped] = useState<string>()
  const id = useId()
  const wired = useMemo(
    () => wiring.nets.filter((net) => net.wired).flatMap((net) => net.ends.filter((end) => wiring.terminal(end))),
    [wiring],
  )
  const asked = parameters.get('end') ?? findings[0]?.at.find((end) => end.includes('.')) ?? wired[0] ?? ''
  const found = asked === '' ? undefined : canonicalEnd(wiring.plan, catalog, asked)
  const explained = useMemo(() => (found?.ok ? explainEnd(wiring, found.end) : undefined), [wiring, found])
  const bears = explained?.bears
  const highest = Math.max(1, bears ?? 0, ...(explained?.states ?? []).map(({ volts = 0 }) => volts))
  return (
    <section className="pin-states">
      <Form
        onSubmit={(event) => {
          event.preventDefault()
          if (typed !== undefined && typed.trim() !== '') setParameters({ end: typed.trim() })
          setTyped(undefined)
        }}
      >
        <label htmlFor={id}>Pin</label>
        <Form.Control
          id={id}
          list={`${id}-ends`}
          className="mono"
          value={typed ?? asked}
          maxLength={80}
          placeholder="MCU.D4"
          onFocus={(event) => event.target.select()}
          onChange={(event) => {
            setTyped(event.target.value)
            if (wired.includes(event.target.value)) {
              setParameters({ end: event.target.value })
              setTyped(undefined)
            }
          }}
        />
        <datalist id={`${id}-ends`}>
          {wired.map((end) => (
            <option key={end} value={end} />
          ))}
        </datalist>
      </Form>
      {found && !found.ok && <p className="wrong">{found.message}</p>}
      {asked === '' && <p className="soft">Nothing is wired yet.</p>}
      {explained && (
        <>
          <h2>{explained.end}</h2>
          <p className="line">{explained.is.join(' ')}</p>
          <p className="line">
            <Explained text={explained.facts.join(' ')} />
          </p>
          <ol className="states" aria-label={`States of ${explained.end}`}>
            {explained.states.map((state) => (
              <State key={`${state.when} ${state.because.join(' ')}`} state={state} highest={highest} bears={bears} />
            ))}
          </ol>
          {explained.states.length === 0 && <p className="soft">Nothing that drives or holds it is wired to it.</p>}
          <p className="soft">{explained.tried}</p>
        </>
      )}
    </section>
  )
}

interface StateProps {
  readonly state: ExplainedState
  /** Volts at the end of the scale. */
  readonly highest: number
  readonly bears: number | undefined
}

function State({ state: { when, volts, because }, highest, bears }: StateProps) {
  const share = (at: number): string => `${(Math.max(0, at) / highest) * 100}%`
  const over = bears !== undefined && volts !== undefined && volts > bears
  return (
    <li>
      <h3>{when === 'always' ? 'Always' : `When ${when}`}</h3>
      <div className={`level ${over ? 'over' : ''}`} aria-hidden="true">
        <span className="scale">
          <i style={{ width: share(volts ?? 0) }} />
          {bears !== undefined && <em style={{ left: share(bears) }} title={`bears ${formatVolts(bears)}`} />}
        </span>
        <b className="mono">{volts === undefined ? 'floats' : formatVolts(volts)}</b>
      </div>
      {because.map((line) => (
        <p key={line}>{line}</p>
      ))}
    </li>
  )
}
