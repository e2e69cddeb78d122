import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { saveNow } from '../../store/desk.ts'
import type { Pen, Trouble, TroubleKind } from '../../store/pen/penEvents.ts'
import { useAppSelector } from '../../store/store.ts'
import { KeepAsFile } from './KeepAsFile.tsx'

/** What each trouble is called, and what the maker can do about it. */
const words: Readonly<Record<TroubleKind, { readonly title: string; readonly advice: string }>> = {
  'server-away': {
    title: 'the server does not answer',
    advice: 'Start Mark Post again if it was stopped; saving is tried again by itself.',
  },
  'in-use': {
    title: 'the database is in use by another program',
    advice: 'Close what else has the data folder open; saving is tried again by itself.',
  },
  'disk-full': { title: 'the disk is full', advice: 'Make room on the disk; saving is tried again by itself.' },
  'read-only': {
    title: 'the data folder may not be written to',
    advice: 'Give the program the right to write there; saving is tried again by itself.',
  },
  disk: {
    title: 'the disk does not answer as it should',
    advice: 'The server’s log says more; saving is tried again.',
  },
  refused: { title: 'the server does not take it', advice: 'Undo the last step, or change what it names.' },
  gone: { title: 'the plan was deleted elsewhere', advice: 'Keep it as a new plan, or let it go.' },
}

/** One word beside the tools while all is well. */
export function SaveState() {
  const pen = useAppSelector((state) => state.plan.pen)
  if (!pen) return null
  const word = pen.theirs
    ? 'changed elsewhere'
    : pen.sync.is === 'saved'
      ? `saved, rev. ${pen.base.revision}`
      : pen.sync.is === 'trouble'
        ? 'not saved'
        : 'saving …'
  return (
    <span className="save-state" role="status" data-state={pen.theirs ? 'conflict' : pen.sync.is}>
      <Link to={`/plan/${pen.id}/history`} title="What it was before (h)">
        {word}
      </Link>
    </span>
  )
}

/** Said aloud: that something is not saved, why, where it is meanwhile, and what to do. */
export function SaveNotice({ onKeepAsNew }: { onKeepAsNew: () => void }) {
  const pen = useAppSelector((state) => state.plan.pen)
  if (!pen) return null
  if (pen.sync.is === 'trouble') return <TroubleNotice pen={pen} trouble={pen.sync.trouble} onKeepAsNew={onKeepAsNew} />
  if (pen.draftRefused === undefined) return null
  return (
    <div className="notice" role="status">
      <p>
        <b>Careful with closing this page:</b> {pen.draftRefused}, so a change is in this page only until it is saved.
      </p>
    </div>
  )
}

function TroubleNotice({ pen, trouble, onKeepAsNew }: { pen: Pen; trouble: Trouble; onKeepAsNew: () => void }) {
  const { title, advice } = words[trouble.kind]
  return (
    <div className="notice loud" role="alert">
      <p>
        <b>Not saved: {title}.</b> {trouble.kind === 'refused' && <span className="refusal">{trouble.text} </span>}
        {pen.draftRefused === undefined
          ? 'Your changes are kept in this browser. '
          : `Your changes are in this page only: ${pen.draftRefused}. `}
        {advice}
      </p>
      <span className="notice-actions">
        {trouble.kind === 'gone' ? (
          <Button size="sm" variant="dark" onClick={onKeepAsNew}>
            Keep it as a new plan
          </Button>
        ) : (
          <Button size="sm" variant="dark" onClick={saveNow}>
            Try now
          </Button>
        )}
        <KeepAsFile plan={pen.history.present} />
      </span>
    </div>
  )
}
