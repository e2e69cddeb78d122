import { useEffect, useState } from 'react'
import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { momentWords } from '../../base/momentWords.ts'
import { forgetDraft, orphanDrafts } from '../../store/desk.ts'
import type { Draft } from '../../store/pen/penEvents.ts'
import { KeepAsFile } from '../pen/KeepAsFile.tsx'

/** Work that never reached the server, of pages that are gone: found again here, whatever became of its plan. */
export function KeptWork() {
  const [drafts, setDrafts] = useState<readonly Draft[]>([])
  useEffect(() => {
    let here = true
    void orphanDrafts().then((found) => here && setDrafts(found))
    return () => {
      here = false
    }
  }, [])
  const letGo = (draft: Draft): void => {
    forgetDraft(draft.slot)
    setDrafts(drafts.filter((one) => one !== draft))
  }
  return drafts.map((draft) => (
    <section key={draft.slot} className="notice" aria-label={`Unsaved changes of ${draft.plan.title}`}>
      <p>
        <b>“{draft.plan.title}” has changes that were never saved</b>
        {draft.at > 0 && `, of ${momentWords(draft.at)}`}. This browser keeps them.
      </p>
      <span className="notice-actions">
        <Link className="btn btn-sm btn-dark" to={`/plan/${draft.planId}/pins`}>
          Go on with it
        </Link>
        <KeepAsFile plan={draft.plan} />
        <Button size="sm" variant="outline-dark" onClick={() => letGo(draft)}>
          Let them go
        </Button>
      </span>
    </section>
  ))
}
