import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { momentWords } from '../../base/momentWords.ts'
import { problemText, useBinQuery, useForgetMutation, usePutBackMutation } from '../../store/api.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'

/** Plans that were deleted, to be put back or let go; nothing while there are none. */
export function Bin() {
  const { data } = useBinQuery()
  const [open, setOpen] = useState(false)
  const [asked, setAsked] = useState<string>()
  const [putBack] = usePutBackMutation()
  const [forget] = useForgetMutation()
  const dispatch = useAppDispatch()
  if (!data || data.length === 0) return null
  const done = async (work: Promise<{ error?: unknown }>): Promise<void> => {
    const { error } = await work
    if (error) dispatch(toasted({ text: problemText(error), kind: 'wrong' }))
  }
  return (
    <section className="bin" aria-label="Bin">
      <button type="button" className="bin-head" aria-expanded={open} onClick={() => setOpen(!open)}>
        <span aria-hidden="true">{open ? '▾' : '▸'}</span> Bin: {data.length}{' '}
        {data.length === 1 ? 'deleted plan' : 'deleted plans'}
      </button>
      {open && (
        <ul>
          {data.map(({ id, title, deleted }) => (
            <li key={id}>
              <b>{title}</b> <span className="soft">deleted {momentWords(deleted)}</span>
              <Button
                size="sm"
                variant="outline-dark"
                aria-label={`Put back ${title}`}
                onClick={() => void done(putBack(id))}
              >
                Put back
              </Button>
              {asked === id ? (
                <Button
                  size="sm"
                  variant="danger"
                  aria-label={`${title} is gone for good`}
                  onClick={() => void done(forget(id))}
                >
                  Gone for good?
                </Button>
              ) : (
                <Button size="sm" variant="outline-dark" aria-label={`Let go of ${title}`} onClick={() => setAsked(id)}>
                  Let go
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
