import { useCallback, useMemo, useRef } from 'react'
import { allowing, pinAnswers } from '../../../core/advice/whyPin.ts'
import { type Candidate, candidates } from '../../../core/assign/candidates.ts'
import { detach, place, swapSignals, wiresOf } from '../../../core/assign/rewire.ts'
import type { Edit } from '../../../core/plan/edit.ts'
import type { Host, SignalUse } from '../../../core/wiring/model.ts'
import { useDerived } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { useHints } from '../../store/hints.ts'
import { planActions } from '../../store/planSlice.ts'
import { useAppDispatch, useAppSelector } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { candidateKeys } from './candidateKeys.ts'
import { ledgerOrder } from './Ledger.tsx'

/** The picked signal, what each pin is worth to it, and what can be done with it. */
export interface Picked {
  readonly use: SignalUse | undefined
  readonly ranked: readonly Candidate[] | undefined
  /** Its best other pins, with their keys. */
  readonly best: readonly Candidate[]
  readonly keys: readonly string[]
  /** When a signal was last put on a pin, in milliseconds. */
  readonly placedAt: { current: number }
  readonly put: (signal: SignalUse, host: Host) => void
  readonly step: (by: 1 | -1) => void
  readonly letGo: () => void
  /** Says why the signal lies on a pin, could, or does not. */
  readonly tellWhy: (host: Host) => void
  /** A pin that does not suit was pressed: why is said, and a second press puts the signal there all the same. */
  readonly refuse: (host: Host) => void
  readonly clear: () => void
  readonly lock: () => void
  readonly leaveOpen: () => void
  readonly swap: (other: SignalUse) => void
}

export function usePicked(): Picked {
  const { wiring } = useDerived()
  const dispatch = useAppDispatch()
  const hints = useHints()
  const picked = useAppSelector((state) => state.plan.picked)
  const use = picked === undefined ? undefined : wiring.signal(picked)
  const ranked = useMemo(() => (use && hints ? candidates(wiring, use) : undefined), [wiring, use, hints])
  const keys = useMemo(() => candidateKeys(use?.part.home), [use])
  const best = useMemo(
    () =>
      ranked
        ?.filter((one) => one.blocked === undefined && !use?.hosts.some(({ host }) => host === one.host))
        .slice(0, keys.length) ?? [],
    [ranked, use, keys],
  )
  const placedAt = useRef(0)
  const refused = useRef('')
  const sayLocked = useCallback(
    (signal: SignalUse) => void dispatch(toasted({ text: `${signal.end} is locked; unlock it first.`, kind: 'wrong' })),
    [dispatch],
  )

  const step = useCallback(
    (by: 1 | -1): void => {
      const all = ledgerOrder(wiring.parts, wiring.signals).flatMap((row) => row.uses)
      const at = all.findIndex((one) => one.end === picked)
      dispatch(planActions.picked(all[(at + by + all.length) % all.length]?.end))
    },
    [dispatch, wiring, picked],
  )
  /** The next open signal after one, around the end of the list. */
  const nextOpen = useCallback(
    (after: string): void => {
      const all = ledgerOrder(wiring.parts, wiring.signals).flatMap((row) => row.uses)
      const at = all.findIndex((one) => one.end === after)
      const next = [...all.slice(at + 1), ...all.slice(0, at)].find((one) => one.state === 'open' && one.facts.required)
      dispatch(planActions.picked(next?.end))
    },
    [dispatch, wiring],
  )
  const put = useCallback(
    (signal: SignalUse, host: Host): void => {
      refused.current = ''
      const edits = place(wiring, signal, host)
      if (!edits) {
        sayLocked(signal)
        return
      }
      const wasOpen = signal.state === 'open'
      if (!edit(edits, `Place ${signal.end} at ${host.end}`) || !wasOpen) return
      placedAt.current = Date.now()
      nextOpen(signal.end)
    },
    [wiring, nextOpen, sayLocked],
  )
  const tell = useCallback(
    (host: Host, more: string): void => {
      if (!hints) {
        dispatch(toasted({ text: 'This is a task to be solved by oneself: pins are not explained.', kind: 'answer' }))
        return
      }
      const said = use && pinAnswers(wiring, use).find(({ pin }) => pin === host.end)
      if (use && said) {
        const isBlocked = said.state === 'blocked' && said.blocked !== null
        const allowed = isBlocked && said.blocked ? allowing(use, said.blocked) : undefined
        const text = [said.text, ...(allowed ? [allowed] : []), ...(isBlocked ? [more] : [])].join(' ')
        dispatch(toasted({ text, kind: 'answer' }))
      } else if (use) dispatch(toasted({ text: `${host.end} is not on the board of ${use.part.ref}.`, kind: 'answer' }))
    },
    [wiring, use, hints, dispatch],
  )
  const tellWhy = useCallback(
    (host: Host) => tell(host, "Type the pin's name, or press it twice, to put it there all the same."),
    [tell],
  )
  const refuse = useCallback(
    (host: Host): void => {
      if (!use) return
      const asked = `${use.end} ${host.end}`
      if (refused.current === asked) put(use, host)
      else {
        refused.current = asked
        tell(host, 'Press it again to put it there all the same.')
      }
    },
    [use, put, tell],
  )
  const clear = useCallback((): void => {
    if (!use) return
    const edits = detach(wiring, use)
    if (edits && edits.length > 0) edit(edits, `Take ${use.end} off`)
    else if (!edits) sayLocked(use)
  }, [use, wiring, sayLocked])
  const lock = useCallback((): void => {
    if (!use) return
    const wires = wiresOf(wiring, use)
    if (wires.length > 0)
      edit(
        wires.map((wire): Edit => ({ do: 'change-wire', from: wire[0], to: wire[1], facts: { locked: !use.locked } })),
        `${use.locked ? 'Unlock' : 'Lock'} ${use.end}`,
      )
  }, [use, wiring])
  const leaveOpen = useCallback((): void => {
    if (use)
      edit(
        [use.state === 'unused' ? { do: 'use-again', end: use.end } : { do: 'leave-open', end: use.end }],
        use.state === 'unused' ? `Use ${use.end} again` : `Leave ${use.end} open`,
      )
  }, [use])
  const swap = useCallback(
    (other: SignalUse): void => {
      if (!use) return
      const edits = swapSignals(wiring, use, other)
      if (edits) edit(edits, `Swap ${use.end} and ${other.end}`)
      else sayLocked(use)
    },
    [use, wiring, sayLocked],
  )
  const letGo = useCallback((): void => void dispatch(planActions.picked(undefined)), [dispatch])
  return { use, ranked, best, keys, placedAt, put, step, letGo, tellWhy, refuse, clear, lock, leaveOpen, swap }
}
