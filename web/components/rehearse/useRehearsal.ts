import { useCallback, useEffect, useRef, useState } from 'react'
import { stringify } from 'yaml'
import type { SourceFile } from '../../../core/rehearse/cpp/preprocess.ts'
import type { Script, ScriptStep } from '../../../core/rehearse/script.ts'
import type { BoardInstance } from '../../../core/wiring/model.ts'
import { usePlan } from '../../store/derived.ts'
import { rehearsalActions } from '../../store/rehearsalSlice.ts'
import { useAppDispatch } from '../../store/store.ts'
import { answerOf, useSearch } from '../../store/useSearch.ts'
import type { RunAnswer, RunData } from '../../workers/rehearsal.ts'

/** What is kept of a rehearsal, by plan, while the page is open: programs go nowhere. */
interface Kept {
  /** Programs by board. */
  readonly programs: Readonly<Record<string, readonly SourceFile[]>>
  readonly steps: readonly ScriptStep[]
  readonly seconds: number
}
const noFiles: readonly SourceFile[] = []
const kept = new Map<string, Kept>()
const nothing: Kept = { programs: {}, steps: [], seconds: 10 }

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

/** The program of a plan and what is done meanwhile. */
export function useKept(id: string) {
  const [state, setState] = useState<Kept>(kept.get(id) ?? nothing)
  const change = useCallback(
    (by: Partial<Kept>): void =>
      setState((now) => {
        const next = { ...now, ...by }
        kept.set(id, next)
        return next
      }),
    [id],
  )
  return { state, change }
}

/** A rehearsal on a board of a plan: the run that comes of it is made anew at each change. */
export function useRehearsal({ state, change }: ReturnType<typeof useKept>, board: BoardInstance | undefined) {
  const plan = usePlan()
  const client = useSearch()
  const [run, setRun] = useState<RunData>()
  const [trouble, setTrouble] = useState<Extract<RunAnswer, { ok: false }>>()
  const [busy, setBusy] = useState(false)
  const { programs, steps, seconds } = state
  const [stepped, setStepped] = useState<readonly Stepped[]>([])
  const dispatch = useAppDispatch()
  const asked = useRef(0)
  const ref = board?.ref
  const files = (ref === undefined ? undefined : programs[ref]) ?? noFiles
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
    const script: Script = { rehearsal: 1, seconds, steps: [...steps] }
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
  }, [client, dispatch, plan, ref, files, programs, steps, seconds])
  /** The program of a board; of no files to put it away. */
  const give = (to: string, program: readonly SourceFile[]): void => {
    const { [to]: _, ...others } = programs
    change({ programs: program.length === 0 ? others : { ...others, [to]: program } })
  }
  /** Statements from a moment on: the same run once more, with each of them kept. */
  const stepFrom = async (at: number): Promise<readonly Stepped[] | undefined> => {
    if (ref === undefined) return undefined
    const script: Script = { rehearsal: 1, seconds, steps: [...steps] }
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
    change({ steps: [...others, step].sort((a, b) => a.at - b.at) })
  }
  const drop = (step: ScriptStep): void => change({ steps: steps.filter((one) => one !== step) })
  const text = (): string =>
    stringify({ rehearsal: 1, title: plan.title, seconds, steps }, { flowCollectionPadding: true })
  return { files, programs, give, steps, seconds, stepped, stepFrom, run, trouble, busy, change, put, drop, text }
}
export type Rehearsal = ReturnType<typeof useRehearsal>
