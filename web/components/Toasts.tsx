import { Toast, ToastContainer } from 'react-bootstrap'
import { useAppDispatch, useAppSelector } from '../store/store.ts'
import { toastClosed } from '../store/toastSlice.ts'

const titles = { said: 'Done', wrong: 'That did not work', answer: 'Why' } as const

export function Toasts() {
  const notes = useAppSelector((state) => state.toast.notes)
  const dispatch = useAppDispatch()
  return (
    // Over the foot of the findings: words about a pin or a part must not lie on it.
    <ToastContainer position="bottom-end" className="p-3 mb-5" style={{ zIndex: 1100 }}>
      {notes.map((note) => (
        <Toast
          key={note.id}
          onClose={() => dispatch(toastClosed(note.id))}
          delay={note.kind === 'said' ? 5000 : 9000}
          autohide
          role={note.kind === 'wrong' ? 'alert' : 'status'}
        >
          <Toast.Header closeLabel="Close">
            <strong className="me-auto">{titles[note.kind]}</strong>
          </Toast.Header>
          <Toast.Body style={{ whiteSpace: 'pre-line' }}>{note.text}</Toast.Body>
        </Toast>
      ))}
    </ToastContainer>
  )
}
