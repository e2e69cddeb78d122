import { type ReactNode, useMemo } from 'react'
import { Alert } from 'react-bootstrap'
import { makeCatalog } from '../../core/catalog/catalog.ts'
import { problemText, useCatalogQuery } from '../store/api.ts'
import { CatalogContext } from '../store/catalog.ts'
import { Loading } from './Loading.tsx'
import { SignIn } from './SignIn.tsx'

/** Loads the catalogue once and gives it to everything below. */
export function CatalogGate({ children }: { children: ReactNode }) {
  const { data, error } = useCatalogQuery()
  const catalog = useMemo(() => data && makeCatalog(data.boards, data.parts, data.own, data.drivers), [data])
  if (error && !catalog && 'status' in error && error.status === 401) return <SignIn />
  if (error && !catalog)
    return (
      <Alert variant="danger" className="m-4">
        The catalogue cannot be loaded: {problemText(error)}
      </Alert>
    )
  if (!catalog) return <Loading what="catalogue" />
  return <CatalogContext value={catalog}>{children}</CatalogContext>
}
