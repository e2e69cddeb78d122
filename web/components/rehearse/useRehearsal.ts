import { useEffect, useMemo, useRef, useState } from 'react'
import { stringify } from 'yaml'
import type { Rehearsal as KeptRehearsal, Plan } from '../../../core/plan/planSchema.ts'
import { withRehearsal } from '../../../core/plan/sections.ts'
import type { SourceFile } from '../../../core/rehearse/cpp/preprocess.ts'
import { keptPrograms } from '../../../core/rehearse/kept.ts'
import type { Script, ScriptStep } from '../../../core/rehearse/script.ts'
import type { BoardInstance } from '../../../core/wiring/model.ts'
import { useMayChange } from '../../store/access.ts'
import { usePlan } from '../../store/derived.ts'
import { editPlan } from '../../store/desk.ts'
import { rehearsalActions, sameRun } from '../../store/rehearsalSlice.ts'
import { useAppDispatch } from '../../store/store.ts'
import { answerOf, useSearch } from '../../store/useSearch.ts'
import type { RunAnswer, RunData } from '../../workers/rehearsal.ts'

const noFiles: readonly SourceFile[] = []
const nothing: KeptRehearsal = {}
const noSteps: readonly ScriptStep[] = []
/** Seconds of a run where nothing else is said. */
const USUAL_SECONDS = 10

/** A statement that was run: when, in microseconds, and where it stands. */
export type Stepped = RunData['stepped'][number]

/** Statements that are kept at once. */
const MOST_STEPS = 2000

/** The first statement behind a moment; none where the kept ones do not reach so far. */
export function nextStep(stepped: readonly Stepped[], cursor: number): Stepped | undefined {
  const [first] = stepped
  if (!first || first.at > cursor + 1e6) return undefined
  return stepped.find(({ at }) => at > cursor + 1e-6)
}

/** The programs of a plan and what is done meanwhile: kept in the plan; by who may only look, in this page. */
export function useKept(id: string) {
  const plan = usePlan()
  const may = useMayChange(id)
  const [tried, setTried] = useState<Plan>()
  const kept = (may ? plan : (tried ?? plan)).rehearsal ?? nothing
  const programs = useMemo(() => keptPrograms({ rehearsal: { programs: kept.programs } }), [kept.programs])
  /** The program of a board; of no files to put it away. False where it cannot be kept, which was said then. */
  const give = (ref: string, files: readonly SourceFile[]): boolean => {
    const texts = Object.fromEntries(files.map(({ name, text }) => [name, text.replace(/\r\n?/g, '\n')]))
    if (!may) {
      setTried(withRehearsal(plan, { ...kept, programs: { ...kept.programs, [ref]: texts } }))
      return true
    }
    const label = files.length === 0 ? `Put the program of ${ref} away` : `Take in ${Object.keys(texts).join(', ')}`
    return editPlan([{ do: 'set-program', ref, files: files.length === 0 ? null : texts }], label)
  }
  const change = (script: Omit<KeptRehearsal, 'programs'>, label: string): void => {
    if (may) editPlan([{ do: 'set-script', script }], label, true)
    else setTried(withRehearsal(plan, { ...kept, ...script }))
  }
  return { kept, programs, give, change }
}

/** A rehearsal on a board of a plan: the run that comes of it is made anew at each change. */
export function useRehearsal(
  { kept, programs, give, change }: ReturnType<typeof useKept>,
  board: BoardInstance | undefined,
) {
  const plan = useSameRun()
  const client = useSearch()
  const [run, setRun] = useState<RunData>()
  const [trouble, setTrouble] = useState<Extract<RunAnswer, { ok: false }>>()
  const [busy, setBusy] = useState(false)
  const { steps = noSteps, seconds = USUAL_SECONDS, from } = kept
  const [stepped, setStepped] = useState<readonly Stepped[]>([])
  const dispatch = useAppDispatch()
  const asked = useRef(0)
  const ref = board?.ref
  const files = (ref === undefined ? undefined : programs[ref]) ?? noFiles
  const script = useMemo((): Script => ({ rehearsal: 1, seconds, from, steps: [...steps] }), [seconds, from, steps])
  useEffect(() => {
    if (files.length === 0 || ref === undefined) {
      setRun(undefined)
      setTrouble(undefined)
      dispatch(rehearsalActions.putAway())
      return
    }
    const mine = asked.current + 1
    asked.current = mine
    // A change that comes while one runs makes that one worthless.
    client.stop()
    setBusy(true)
    void answerOf(client.rehearse({ plan, ref, programs, script })).then((answer) => {
      if (asked.current !== mine) return
      setBusy(false)
      if (!answer) return
      if (answer.ok) {
        setRun(answer.run)
        setStepped([])
        setTrouble(undefined)
        dispatch(rehearsalActions.ran({ plan, findings: answer.run.findings }))
      } else setTrouble(answer)
    })
  }, [client, dispatch, plan, ref, files, programs, script])
  /** Statements from a moment on: the same run once more, with each of them kept. */
  const stepFrom = async (at: number): Promise<readonly Stepped[] | undefined> => {
    if (ref === undefined) return undefined
    const answer = await answerOf(
      client.rehearse({ plan, ref, programs, script, statements: { from: at / 1e6, most: MOST_STEPS } }),
    )
    if (!answer?.ok) return undefined
    setStepped(answer.run.stepped)
    return answer.run.stepped
  }
  /** Puts a step into its place in time; one of the same moment and thing is replaced. */
  const put = (step: ScriptStep): void => {
    const names = Object.keys({ ...step.set, ...step.expect })
    const others = steps.filter(
      (one) =>
        Math.abs(one.at - step.at) > 0.0005 ||
        !names.some((name) => (step.set ? one.set : one.expect)?.[name] !== undefined),
    )
    change({ steps: [...others, step].sort((a, b) => a.at - b.at) }, `Script at ${step.at.toFixed(3)} s`)
  }
  const drop = (step: ScriptStep): void =>
    change({ steps: steps.filter((one) => one !== step) }, `Take out of the script at ${step.at.toFixed(3)} s`)
  const text = (): string =>
    stringify(
      { rehearsal: 1, title: plan.title, seconds, ...(from === undefined ? {} : { from }), steps },
      { flowCollectionPadding: true },
    )
  return { files, programs, give, steps, seconds, stepped, stepFrom, run, trouble, busy, change, put, drop, text }
}
export type Rehearsal = ReturnType<typeof useRehearsal>

/** The plan, the same one as long as nothing changes that a run depends on. */
function useSameRun(): Plan {
  const plan = usePlan()
  const held = useRef(plan)
  if (!sameRun(held.current, plan)) held.current = plan
  return held.current
}
