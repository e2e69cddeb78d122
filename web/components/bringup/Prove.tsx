import { useEffect, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { useParams } from 'react-router'
import { type Answer, judgeAnswer, readBoardLine, stageOf } from '../../../core/bringup/answers.ts'
import { phases, phaseTitles, type Step } from '../../../core/bringup/step.ts'
import { stepsMarkdown } from '../../../core/bringup/stepsText.ts'
import { type TestLanguage, testLanguages, testProgram } from '../../../core/bringup/testProgram.ts'
import { languagesOf, languageTitles } from '../../../core/firmware/pinNames.ts'
import type { Proof } from '../../../core/plan/planSchema.ts'
import { hearAnswers } from '../../store/boardAnswers.ts'
import { useDerived, usePlan } from '../../store/derived.ts'
import { editPlan } from '../../store/desk.ts'
import { isTyping, keysAreOn } from '../../store/keys.ts'
import { BoardLine } from './BoardLine.tsx'
import { BeginPractice, type Practice } from './Practice.tsx'
import { SpotDrawing } from './SpotDrawing.tsx'
import { StepCard } from './StepCard.tsx'
import { fileName, saveAs } from './takeAway.ts'
import { type SerialLine, useSerial } from './useSerial.ts'
import { useSteps } from './useSteps.ts'

const stageWords = {
  planned: 'planned',
  wired: 'wired: every joint sounds',
  powered: 'powered: the supplies are right',
  proven: 'proven: it does what the plan says',
} as const

/** The steps before, at and after the first power, one at a time. */
export function Prove({
  practice,
  onPractice,
}: {
  readonly practice: Practice | undefined
  readonly onPractice: (practice: Practice) => void
}) {
  const { id: planId = '' } = useParams()
  const plan = usePlan()
  const { wiring } = useDerived()
  const { steps, layout, layingOut, laid } = useSteps()
  const done = practice?.done ?? plan.bringup?.done ?? {}
  const [at, setAt] = useState<string>()
  const [log, setLog] = useState<readonly string[]>([])
  const first = steps.find(({ id }) => done[id] === undefined) ?? steps[0]
  const step = steps.find(({ id }) => id === at) ?? first
  const index = step ? steps.indexOf(step) : -1

  const prove = (proofs: Readonly<Record<string, Proof | null>>, label: string): void => {
    const after = { ...done }
    for (const [id, proof] of Object.entries(proofs))
      if (proof === null) delete after[id]
      else after[id] = proof
    if (practice) onPractice({ ...practice, done: after })
    else editPlan([{ do: 'prove', steps: proofs, stage: stageOf(steps, after) }], label)
  }
  const seen = (one: Step, value: string, wrong: boolean, remark = ''): void => {
    prove(
      {
        [one.id]: {
          at: new Date().toISOString(),
          ...(value === '' ? {} : { value }),
          ...(remark === '' ? {} : { remark }),
          ...(wrong ? { wrong: true } : {}),
        },
      },
      wrong ? 'Write down what is otherwise' : 'Tick a step of bring-up',
    )
  }
  const take = (answers: readonly Answer[]): void => {
    const proofs: Record<string, Proof> = {}
    for (const answer of answers) {
      const one = steps.find(({ id }) => id === answer.step)
      if (!one) continue
      const { value, right } = judgeAnswer(wiring, one, answer)
      // What only eyes know is ticked by hand.
      if (right !== undefined)
        proofs[one.id] = { at: new Date().toISOString(), value, ...(right ? {} : { wrong: true as const }) }
    }
    if (Object.keys(proofs).length > 0) prove(proofs, 'Take what the board says')
  }
  const hear = (line: string): void => {
    setLog((before) => [...before.slice(-199), line.trim()])
    const read = readBoardLine(line)
    if (read.is === 'answer') take([read.answer])
    // A board that began anew is asked the step again.
    if (read.is === 'hello' && step?.board) void ask(step)
  }
  const hearAll = (lines: readonly string[]): void => {
    setLog((before) => [...before, ...lines].slice(-200))
    take(
      lines.flatMap((line) => {
        const read = readBoardLine(line)
        return read.is === 'answer' ? [read.answer] : []
      }),
    )
  }
  const told = useRef(hearAll)
  told.current = hearAll
  // Of several pages of one plan the one that is looked at takes them.
  useEffect(
    () =>
      hearAnswers((of, lines) => {
        if (of === planId && document.visibilityState === 'visible' && !practice) told.current(lines)
      }),
    [planId, practice],
  )
  const real = useSerial(hear)
  const serial: SerialLine = practice
    ? {
        ...real,
        open: true,
        send: async (line) => {
          for (const said of practice.board.answer(line)) hear(said)
        },
      }
    : real
  const ask = async (one: Step): Promise<void> => {
    const [kind, rest] = [one.id.slice(0, one.id.indexOf(':')), one.id.slice(one.id.indexOf(':') + 1)]
    if (kind === 'out') {
      for (const level of ['high', 'low', 'rest']) {
        await serial.send(JSON.stringify({ do: one.id, level }))
        await new Promise((wait) => setTimeout(wait, 900))
      }
      return
    }
    await serial.send(
      JSON.stringify({ do: kind === 'i2c' ? `scan:${rest}` : kind === 'echo' ? one.id : `read:${rest}` }),
    )
  }
  const go = (by: number): void => {
    const next = steps[Math.max(0, Math.min(steps.length - 1, index + by))]
    if (next) setAt(next.id)
  }
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || !step) return
      if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
        event.preventDefault()
        go(event.key === 'ArrowDown' ? 1 : -1)
      } else if (keysAreOn() && (event.key === 'y' || event.key === 'n')) {
        event.preventDefault()
        seen(step, '', event.key === 'n')
        if (event.key === 'y') go(1)
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  })
  if (layingOut) return <p className="soft">The bench is being laid out …</p>
  if (!step)
    return (
      <p className="soft">
        Nothing is wired yet. Once it is, every joint, supply and signal stands here with what it must show.
      </p>
    )
  const right = steps.filter(({ id }) => done[id] !== undefined && done[id]?.wrong !== true).length
  return (
    <div className="prove">
      <aside className="prove-list" aria-label="Steps">
        <p role="status">
          <b>
            {right} of {steps.length}
          </b>{' '}
          done. The build is {stageWords[stageOf(steps, done)]}.
        </p>
        {phases.map((phase) => {
          const own = steps.filter((one) => one.phase === phase)
          return own.length === 0 ? null : (
            <details key={phase} open={step.phase === phase}>
              <summary>
                {phaseTitles[phase]}{' '}
                <small>
                  {own.filter(({ id }) => done[id] !== undefined && done[id]?.wrong !== true).length} of {own.length}
                </small>
              </summary>
              <ol>
                {own.map((one) => (
                  <li key={one.id}>
                    <button
                      type="button"
                      aria-current={one === step ? 'step' : undefined}
                      className={stateOf(done[one.id])}
                      onClick={() => setAt(one.id)}
                    >
                      <span aria-hidden="true">{markOf(done[one.id])}</span>
                      <span className="visually-hidden">{stateOf(done[one.id])}: </span>
                      {one.title}
                    </button>
                  </li>
                ))}
              </ol>
            </details>
          )
        })}
        <div className="prove-take">
          <Button
            size="sm"
            variant="outline-dark"
            onClick={() => saveAs(fileName(plan.title, '-bring-up.md'), stepsMarkdown(plan.title, steps, done))}
          >
            Save as a record
          </Button>
          <TestPrograms />
        </div>
        {!practice && <BeginPractice laid={laid} onPractice={onPractice} />}
      </aside>
      <StepCard
        key={step.id}
        step={step}
        shows={step.board === undefined ? practice?.board.shows(step.id) : undefined}
        number={index + 1}
        of={steps.length}
        proof={done[step.id]}
        onSeen={(value, wrong, remark) => {
          seen(step, value, wrong, remark)
          if (!wrong) go(1)
        }}
        onForget={() => prove({ [step.id]: null }, 'Take a tick back')}
        onGo={go}
        drawing={layout && <SpotDrawing wiring={wiring} layout={layout} spots={step.spots} />}
        board={
          step.board !== undefined && (
            <BoardLine
              serial={serial}
              standIn={practice !== undefined}
              sendTo={
                wiring.boards.find(({ ref }) => ref === step.board)?.board.system
                  ? `${location.origin}/api/plans/${planId}/answers`
                  : undefined
              }
              log={log}
              onAsk={() => void ask(step)}
              onAnswers={take}
            />
          )
        }
      />
    </div>
  )
}

const stateOf = (proof: Proof | undefined): string => (proof === undefined ? 'open' : proof.wrong ? 'wrong' : 'right')
const markOf = (proof: Proof | undefined): string => (proof === undefined ? '○' : proof.wrong ? '✗' : '✓')

function TestPrograms() {
  const plan = usePlan()
  const { wiring } = useDerived()
  const endings: Readonly<Record<TestLanguage, string>> = { cpp: '.ino', micropython: '.py', python: '.py' }
  return wiring.boards.flatMap((board) =>
    testLanguages
      .filter((language) => languagesOf(board.board).includes(language))
      .map((language) => (
        <Button
          key={`${board.ref} ${language}`}
          size="sm"
          variant="outline-dark"
          onClick={() =>
            saveAs(
              fileName(`${plan.title} ${board.ref} test`, endings[language]),
              testProgram(wiring, board.ref, language),
            )
          }
        >
          Test program{wiring.boards.length > 1 ? ` of ${board.ref}` : ''}, {languageTitles[language]}
        </Button>
      )),
  )
}
