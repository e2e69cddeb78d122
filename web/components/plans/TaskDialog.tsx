import { useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { taskOf } from '../../../core/classroom/task.ts'
import { problemText, useCreateMutation, useLazyPlanQuery } from '../../store/api.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'

/** Makes a task of a plan: a plan of its own, to be opened by others or saved as a file. */
export function TaskDialog({
  id,
  title,
  onClose,
}: {
  readonly id: string
  readonly title: string
  readonly onClose: () => void
}) {
  const dispatch = useAppDispatch()
  const [hints, setHints] = useState(true)
  const [open, { isFetching }] = useLazyPlanQuery()
  const [create, { isLoading }] = useCreateMutation()
  const make = async (): Promise<void> => {
    const from = await open(id)
    const plan = from.data?.plan
    const done = plan && (await create({ plan: { ...taskOf(plan, { hints }), title: taskTitle(plan.title) } }))
    const error = from.error ?? done?.error
    dispatch(
      toasted(
        error
          ? { text: problemText(error), kind: 'wrong' }
          : { text: `“${taskTitle(title)}” stands in the list; save it as a file, or share it.` },
      ),
    )
    if (!error) onClose()
  }
  return (
    <Modal show onHide={onClose} centered aria-labelledby="task-title">
      <Modal.Body>
        <h2 id="task-title">“{title}” as a task</h2>
        <p>
          Board, supplies and parts are given, and the script of the rehearsal, if there is one. Wires, places, programs
          and comments are left out: they are to be found.
        </p>
        <Form.Check
          id="task-hints"
          type="checkbox"
          checked={hints}
          onChange={({ target }) => setHints(target.checked)}
          label="The tool may help: place signals, rank pins, offer fixes"
        />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-dark" onClick={onClose}>
          Leave it
        </Button>
        <Button variant="dark" disabled={isFetching || isLoading} onClick={() => void make()}>
          Make the task
        </Button>
      </Modal.Footer>
    </Modal>
  )
}

const taskTitle = (title: string): string => `${[...title].slice(0, 190).join('')} (task)`
