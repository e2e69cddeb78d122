import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { entryOf } from '../../../core/base/entryOf.ts'
import type { Source } from '../../../core/catalog/common.ts'
import type { EntryKind } from '../../../core/catalog/ownEntry.ts'
import { useEntryPlansQuery } from '../../store/api.ts'
import { useCatalog } from '../../store/derived.ts'

/** What can be done with any entry: copy it, change it when it is one's own, take the file. */
export function EntryActions({ kind, id, children }: { kind: EntryKind; id: string; children?: ReactNode }) {
  const own = entryOf(useCatalog().own[kind], id) !== undefined
  return (
    <div className="entry-actions">
      {children}
      {own && (
        <Link className="btn btn-sm btn-dark" to={`/shelf/${kind}/${id}/edit`}>
          Change
        </Link>
      )}
      <Link className="btn btn-sm btn-outline-dark" to={`/shelf/new/${kind}/${id}`}>
        Copy as my own
      </Link>
      <a className="btn btn-sm btn-outline-dark" href={`/api/entries/${kind}/${id}/file`}>
        File
      </a>
    </div>
  )
}

export function Sources({ sources }: { sources: readonly Source[] }) {
  return (
    <>
      <h2>Sources</h2>
      <ul className="sources">
        {sources.map((source) => (
          <li key={source.title + source.section}>
            <b>{source.title}</b>
            {source.section && <>, {source.section}</>}
            {source.for && <span className="soft">: {source.for}</span>}
          </li>
        ))}
      </ul>
    </>
  )
}

/** Plans of this machine in which the entry stands. */
export function UsedIn({ kind, id }: { kind: EntryKind; id: string }) {
  const { data: using = [] } = useEntryPlansQuery({ kind, id }, { refetchOnMountOrArgChange: true })
  return (
    <>
      <h2>Used in</h2>
      {using.length === 0 ? (
        <p className="soft">No plan of yours uses it yet.</p>
      ) : (
        <ul className="used-in">
          {using.map((plan) => (
            <li key={plan.id}>
              <Link to={`/plan/${plan.id}/kit`}>{plan.title}</Link>
            </li>
          ))}
        </ul>
      )}
    </>
  )
}
