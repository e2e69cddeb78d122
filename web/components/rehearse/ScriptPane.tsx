import { Button } from 'react-bootstrap'
import { doneWords, expectWords } from '../../../core/plan/stepWords.ts'
import { Trace, writeVcd } from '../../../core/rehearse/stage/trace.ts'
import type { RunData } from '../../workers/rehearsal.ts'
import { fileName, saveAs } from '../bringup/takeAway.ts'
import type { Rehearsal } from './useRehearsal.ts'

interface ScriptPaneProps {
  readonly title: string
  readonly run: RunData
  readonly rehearsal: Rehearsal
  readonly onGo: (microseconds: number) => void
}

/** What is done while the program runs, and what came of what was expected. */
export function ScriptPane({ title, run, rehearsal, onGo }: ScriptPaneProps) {
  const { steps } = rehearsal
  return (
    <section className="steps" aria-label="What is done meanwhile">
      <h2>Script</h2>
      {steps.length === 0 && (
        <p className="soft">Press, turn or set something at any moment: it is written here, and can be taken along.</p>
      )}
      <ol>
        {steps.map((step) => (
          <li key={JSON.stringify(step)}>
            <button type="button" className="mono" onClick={() => onGo(step.at * 1e6)}>
              {step.at.toFixed(3)}
            </button>{' '}
            {stepWords(step)}
            <Outcome run={run} step={step} />
            <button
              type="button"
              className="drop"
              aria-label={`Take out: ${stepWords(step)}`}
              onClick={() => rehearsal.drop(step)}
            >
              ×
            </button>
          </li>
        ))}
      </ol>
      <div className="take-along">
        <Button
          size="sm"
          variant="outline-dark"
          onClick={() => saveAs(fileName(title, '.rehearsal.yaml'), rehearsal.text())}
        >
          Keep the script
        </Button>
        <Button size="sm" variant="outline-dark" onClick={() => saveAs(fileName(title, '.vcd'), vcdOf(run))}>
          Traces as VCD
        </Button>
      </div>
    </section>
  )
}

const stepWords = (step: Rehearsal['steps'][number]): string =>
  [doneWords(step), expectWords(step)].filter(Boolean).join(', ')

function Outcome({ run, step }: { readonly run: RunData; readonly step: Rehearsal['steps'][number] }) {
  if (!step.expect) return null
  const own = run.expectations.filter(
    (one) =>
      one.seconds === step.at &&
      Object.entries(step.expect ?? {}).some(([end, value]) => one.what === `${end} ${value}`),
  )
  const missed = own.find(({ came }) => !came)
  return own.length === 0 ? null : (
    <b className={missed ? 'text-danger' : 'came'}>{missed ? ` missed: ${missed.found}` : ' came'}</b>
  )
}

function vcdOf(run: RunData): string {
  const trace = new Trace()
  for (const [end, changes] of run.lines) trace.lines.set(end, [...changes])
  return writeVcd(trace, run.seconds * 1e6)
}
