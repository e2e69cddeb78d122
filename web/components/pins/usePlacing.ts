import { useCallback, useState } from 'react'
import type { AssignResult } from '../../../core/assign/assign.ts'
import { counted } from '../../../core/base/counted.ts'
import type { Plan } from '../../../core/plan/planSchema.ts'
import { useDerived } from '../../store/derived.ts'
import { editLate } from '../../store/desk.ts'
import { planActions } from '../../store/planSlice.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { answerOf, useSearch } from '../../store/useSearch.ts'
import type { SearchClient } from '../../workers/search.ts'
import type { Impasse } from '../../workers/search.worker.ts'

/** An answer that does not place everything, of the plan that it was worked out for. */
export interface Stuck {
  readonly from: Plan
  readonly result: AssignResult
  readonly way: Impasse | undefined
}

export interface Placing {
  readonly client: SearchClient
  /** Arrangements tried by the search that runs; undefined while none does. */
  readonly searching: number | undefined
  /** The rest was placed here: from then on what only the maker knows is asked. */
  readonly placed: boolean
  readonly stuck: Stuck | undefined
  readonly letGo: () => void
  /** Places what is open, of some parts or of all. */
  readonly placeRest: (refs?: readonly string[]) => Promise<void>
  readonly moveClashing: () => Promise<void>
}

/** The searches of Pins: what is open is placed, or what clashes is moved. */
export function usePlacing(): Placing {
  const { wiring } = useDerived()
  const dispatch = useAppDispatch()
  const client = useSearch()
  const [searching, setSearching] = useState<number>()
  const [placed, setPlaced] = useState(false)
  const [stuck, setStuck] = useState<Stuck>()

  const placeRest = useCallback(
    async (refs?: readonly string[]): Promise<void> => {
      setSearching(0)
      const from = wiring.plan
      const result = await answerOf(client.assign(from, refs, setSearching))
      setSearching(undefined)
      if (!result) {
        dispatch(toasted({ text: 'The search was stopped; nothing was changed.' }))
        return
      }
      if (result.unplaced.length > 0) {
        setStuck({ from, result, way: undefined })
        const way = await answerOf(client.wayOut(from, refs ? undefined : result))
        setStuck((now) => (now?.result === result ? { from, result, way } : now))
        return
      }
      const label = refs ? `Wire ${refs.join(', ')}` : 'Place the rest'
      if (result.edits.length > 0 && !editLate(from, result.edits, label)) return
      setPlaced(true)
      dispatch(toasted({ text: placedWords(result) }))
      dispatch(planActions.picked(undefined))
    },
    [client, wiring, dispatch],
  )

  const moveClashing = useCallback(async (): Promise<void> => {
    const from = wiring.plan
    const found = await answerOf(client.rearrange(from))
    if (!found)
      return void dispatch(toasted({ text: 'Moving signals to other pins does not help here; see the findings.' }))
    if (!editLate(from, found.edits, 'Move what clashes')) return
    const moves = found.moved.map(({ end, to }) => `${end} to ${to}`).join(', ')
    dispatch(
      toasted({
        text: `Moved ${moves}.${found.left.length > 0 ? ` ${counted(found.left.length, 'fault')} ${found.left.length === 1 ? 'is' : 'are'} not about pins.` : ''}`,
      }),
    )
  }, [client, wiring, dispatch])

  return { client, searching, placed, stuck, letGo: () => setStuck(undefined), placeRest, moveClashing }
}

/** What a search placed and added, and how good that is. */
function placedWords({ placed, choices, added, left, optimal, neatness, cost, bound }: AssignResult): string {
  if (placed.length === 0) return 'Nothing was open.'
  const chosen = choices.map(({ ref, title }) => `, ${ref} as ${title}`).join('')
  const bought = added.map(({ ref, what }) => `, added ${ref} (${what})`).join('')
  const kept = left.map(({ ref, why }) => ` ${ref} stays in the box: ${why}.`).join('')
  const quality = !optimal
    ? `. Not proven best: it costs ${cost} points, and none can cost less than ${bound}`
    : neatness.paid > 0
      ? `; ${neatness.paid} points above the cheapest, so that what belongs together stands side by side`
      : '; no arrangement costs less'
  return `${counted(placed.length, 'wire')} placed${chosen}${bought}${quality}.${kept}`
}
