import { useMemo } from 'react'
import { useDerived } from '../../store/derived.ts'
import { planActions } from '../../store/planSlice.ts'
import { useAppDispatch, useAppSelector } from '../../store/store.ts'
import type { YardState } from '../BoardView.tsx'
import { yardUses } from '../yardViews.ts'
import type { AtHand } from './ByHand.tsx'
import type { Picked } from './usePicked.ts'

/** What the posts of the yard show and do at the moment. */
export function useYard({ use, ranked, best, keys, put, refuse }: Picked, hand: AtHand | undefined): YardState {
  const { wiring, findings } = useDerived()
  const dispatch = useAppDispatch()
  const litEnds = useAppSelector((state) => state.plan.lit)
  return useMemo((): YardState => {
    const uses = yardUses(wiring)
    // By hand every key is part of a name, and the best pins are only marked.
    const keyOf = new Map(best.map((one, index) => [one.host, hand ? '·' : keys[index]]))
    return {
      wiring,
      uses,
      picked: use,
      best: best[0],
      candidates:
        ranked &&
        new Map(ranked.map((candidate) => [candidate.host.end, { candidate, key: keyOf.get(candidate.host) }])),
      lit: new Set(litEnds),
      hurt: new Set(
        findings
          .filter((finding) => finding.severity === 'fault' && finding.accepted === undefined)
          .flatMap((finding) => finding.at),
      ),
      onPost: (host) => {
        const here = uses.get(host.end)
        const candidate = ranked?.find((one) => one.host === host)
        if (use && candidate && candidate.blocked === undefined) put(use, host)
        else if (here?.[0]) dispatch(planActions.picked(here[0].end))
        else if (use && candidate) refuse(host)
        // Where nothing is said of the pins, any of them takes the signal.
        else if (use && !ranked) put(use, host)
      },
      onDropped: (signal, host) => {
        const dropped = wiring.signal(signal)
        if (dropped) put(dropped, host)
      },
      onEnd: hand?.take,
    }
  }, [wiring, ranked, best, keys, use, litEnds, findings, put, refuse, hand, dispatch])
}
