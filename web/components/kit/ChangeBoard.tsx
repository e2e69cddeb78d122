import { counted } from '../../../core/base/counted.ts'
import { entryOf } from '../../../core/base/entryOf.ts'
import { formatVolts } from '../../../core/electrical/quantity.ts'
import type { BoardInstance } from '../../../core/wiring/model.ts'
import { useCatalog, usePlan } from '../../store/derived.ts'
import { editPlan as edit, editLate } from '../../store/desk.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { answerOf, useSearch } from '../../store/useSearch.ts'
import { ActionMenu } from '../ActionMenu.tsx'

/** Takes the plan to another board: what is wired moves along, and what has to be plugged anew is counted. */
export function ChangeBoard({ board }: { readonly board: BoardInstance }) {
  const catalog = useCatalog()
  const plan = usePlan()
  const client = useSearch()
  const dispatch = useAppDispatch()
  const { ref } = board
  const change = async (id: string): Promise<void> => {
    const next = catalog.boards.get(id)
    if (!next) return
    const label = `Change ${ref} to ${next.title}`
    if (!plan.wires.some(([from, to]) => from.startsWith(`${ref}.`) || to.startsWith(`${ref}.`))) {
      const uses = next.features.filter(({ usual }) => usual).map((feature) => feature.id)
      const entry = { board: id, uses, variant: undefined, clocks: undefined }
      edit([{ do: 'change-board', ref, entry }], label)
      return
    }
    const moved = await answerOf(client.move(plan, ref, id))
    if (!moved || !editLate(plan, moved.edits, label)) return
    const { stay, move, come, go } = moved.replug
    const rest = [
      ...(come.length > 0 ? [`${come.length} come`] : []),
      ...(go.length > 0 ? [`${go.length} go`] : []),
      ...(moved.unplaced.length > 0 ? [`${counted(moved.unplaced.length, 'pin')} found no place`] : []),
    ].map((text) => `, ${text}`)
    dispatch(
      toasted({
        text: `${counted(stay.length, 'wire')} ${stay.length === 1 ? 'stays' : 'stay'}, ${move.length} move${rest.join('')}. Undo brings ${board.title} back.`,
      }),
    )
  }
  return (
    <ActionMenu
      size="sm"
      label={`Change the board ${ref}`}
      actions={[...catalog.boards.values()]
        .filter(({ id }) => id !== entryOf(plan.boards, ref)?.board)
        .map(({ id, title, logicVolts }) => ({ id, text: `${title} (${formatVolts(logicVolts)})` }))}
      onPick={(id) => void change(id)}
    >
      Change …
    </ActionMenu>
  )
}
