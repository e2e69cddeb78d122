import { useMemo, useState } from 'react'
import { Button } from 'react-bootstrap'
import type { Fault } from '../../../core/bringup/fault.ts'
import { faultsOf } from '../../../core/bringup/faults.ts'
import type { Laid } from '../../../core/bringup/laid.ts'
import { StandIn } from '../../../core/bringup/standIn.ts'
import type { Proof } from '../../../core/plan/planSchema.ts'
import { useDerived } from '../../store/derived.ts'

/** A stand-in board with its fault, and what was ticked while practising: nothing of it goes into the plan. */
export interface Practice {
  readonly board: StandIn
  readonly fault: Fault | undefined
  readonly done: Readonly<Record<string, Proof>>
}

/** Begins practising on a stand-in board, with a fault by chance or a chosen one. */
export function BeginPractice({
  laid,
  onPractice,
}: {
  readonly laid: Laid
  readonly onPractice: (practice: Practice) => void
}) {
  const { wiring } = useDerived()
  const faults = useMemo(() => [...faultsOf(wiring), ...laid.rails], [wiring, laid])
  const [chosen, setChosen] = useState('chance')
  const begin = (): void => {
    const fault =
      chosen === 'chance' ? faults[Math.floor(Math.random() * faults.length)] : faults.find(({ id }) => id === chosen)
    onPractice({ board: new StandIn(wiring, fault ? [fault] : [], laid.touches), fault, done: {} })
  }
  return (
    <details className="practise">
      <summary>Practise on a stand-in board</summary>
      <p className="soft">
        Board and parts of this plan, simulated, with a fault to find. Nothing that you tick is kept with the plan.
      </p>
      <label htmlFor="fault-to-plant">Fault to plant</label>
      <select
        id="fault-to-plant"
        className="form-select"
        value={chosen}
        onChange={({ target }) => setChosen(target.value)}
      >
        <option value="chance">one by chance</option>
        <option value="none">none</option>
        {faults.map(({ id, words }) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
      <Button size="sm" variant="outline-dark" onClick={begin}>
        Begin
      </Button>
    </details>
  )
}

/** Says that one practises, and ends it. */
export function PracticeBar({ practice, onEnd }: { readonly practice: Practice; readonly onEnd: () => void }) {
  const [told, setTold] = useState(false)
  return (
    <p className="practice-bar" role="status">
      <b>Practising on a stand-in board.</b>{' '}
      {told ? `Planted: ${practice.fault?.words ?? 'nothing'}.` : 'Nothing is kept with the plan.'}{' '}
      {!told && (
        <Button size="sm" variant="outline-dark" onClick={() => setTold(true)}>
          Tell me the fault
        </Button>
      )}{' '}
      <Button size="sm" variant="outline-dark" onClick={onEnd}>
        End practice
      </Button>
    </p>
  )
}
