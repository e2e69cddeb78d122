import { createContext, useContext } from 'react'
import type { Catalog } from '../../core/catalog/catalog.ts'

export const CatalogContext = createContext<Catalog | undefined>(undefined)

/** The catalogue without what the open plan carries. */
export function useBaseCatalog(): Catalog {
  const catalog = useContext(CatalogContext)
  if (!catalog) throw new Error('useBaseCatalog: no catalogue above this component')
  return catalog
}
