import { type ReactNode, useEffect, useMemo } from 'react'
import { Alert, Spinner } from 'react-bootstrap'
import { makeCatalog } from '../../core/catalog/catalog.ts'
import { problemText, useCatalogQuery } from '../store/api.ts'
import { CatalogContext } from '../store/derived.ts'
import { atDesk } from '../store/desk.ts'

/** Loads the catalogue once and gives it to everything below. */
export function CatalogGate({ children }: { children: ReactNode }) {
  const { data, error } = useCatalogQuery()
  const catalog = useMemo(() => data && makeCatalog(data.boards, data.parts, data.own), [data])
  useEffect(() => {
    if (catalog) atDesk(catalog)
  }, [catalog])
  if (error && !catalog)
    return (
      <Alert variant="danger" className="m-4">
        The catalogue cannot be loaded: {problemText(error)}
      </Alert>
    )
  if (!catalog)
    return (
      <div className="p-5">
        <Spinner animation="border" role="status">
          <span className="visually-hidden">Loading</span>
        </Spinner>
      </div>
    )
  return <CatalogContext value={catalog}>{children}</CatalogContext>
}
