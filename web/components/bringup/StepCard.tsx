import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { judgeTyped, predictedWords } from '../../../core/bringup/answers.ts'
import type { Step } from '../../../core/bringup/step.ts'
import type { Proof } from '../../../core/plan/planSchema.ts'
import { Explained } from '../words.tsx'

/** One step on its own: what to do, what it should be, and what was seen. */
export function StepCard({
  step,
  number,
  of,
  proof,
  shows,
  onSeen,
  onForget,
  onGo,
  drawing,
  board,
}: {
  readonly step: Step
  readonly number: number
  readonly of: number
  readonly proof: Proof | undefined
  /** What the stand-in board shows while one practises. */
  readonly shows: string | undefined
  readonly onSeen: (value: string, wrong: boolean, remark: string) => void
  readonly onForget: () => void
  readonly onGo: (by: number) => void
  readonly drawing: React.ReactNode
  readonly board: React.ReactNode
}) {
  const [value, setValue] = useState(proof?.value ?? '')
  const [remark, setRemark] = useState(proof?.remark ?? '')
  const predicted = predictedWords(step)
  const judged = judgeTyped(step, value)
  return (
    <section className="step-card" aria-label={`Step ${number} of ${of}`} data-testid="step-card" data-step={step.id}>
      <div className="step-words">
        <p className="soft">
          Step {number} of {of}
          {step.meter !== undefined && <> · meter: {step.meter}</>}
        </p>
        <h2>{step.title}</h2>
        <p className="step-do">
          <Explained text={step.does} />
        </p>
        <p className="step-expect">
          <b>It should be:</b> <Explained text={step.expect} />
        </p>
        {shows !== undefined && (
          <p className="step-shows">
            <b>The stand-in:</b> {shows}.
          </p>
        )}
        {(predicted !== undefined || step.phase === 'power') && (
          <Form.Group className="step-value" controlId="step-value">
            <Form.Label>What you read{predicted !== undefined ? ` (planned ${predicted})` : ''}</Form.Label>
            <Form.Control
              value={value}
              maxLength={60}
              className="mono"
              inputMode="decimal"
              onChange={(event) => setValue(event.target.value)}
            />
            {judged !== undefined && (
              <small className={judged ? 'text-success' : 'text-danger'}>{judged ? 'within' : 'outside'}</small>
            )}
          </Form.Group>
        )}
        <div className="step-buttons">
          <Button variant="dark" size="lg" onClick={() => onSeen(value, judged === false, remark)}>
            {judged === false ? 'Write it down' : 'As it should be'}
          </Button>
          <Button variant="outline-danger" size="lg" onClick={() => onSeen(value, true, remark)}>
            Otherwise
          </Button>
          <Button variant="outline-dark" size="lg" aria-label="The step before" onClick={() => onGo(-1)}>
            ↑
          </Button>
          <Button variant="outline-dark" size="lg" aria-label="The next step" onClick={() => onGo(1)}>
            ↓
          </Button>
        </div>
        {proof && (
          <p className={proof.wrong ? 'text-danger' : ''} role="status">
            {proof.wrong ? 'Otherwise' : 'As it should be'}
            {proof.value !== undefined && `: ${proof.value}`}
            {proof.remark !== undefined && ` (${proof.remark})`}, {new Date(proof.at).toLocaleString()}.{' '}
            <Button size="sm" variant="link" onClick={onForget}>
              take it back
            </Button>
          </p>
        )}
        <details open={proof?.wrong === true}>
          <summary>When it is otherwise</summary>
          <ul>
            {step.otherwise.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
          <Form.Control
            value={remark}
            maxLength={500}
            placeholder="what you saw"
            aria-label="Remark"
            onChange={(event) => setRemark(event.target.value)}
          />
        </details>
        {board}
      </div>
      {drawing}
    </section>
  )
}
