import { useEffect, useMemo } from 'react'
import { SearchClient } from '../workers/search.ts'
import { useCatalog } from './derived.ts'
import { store } from './store.ts'
import { toasted } from './toastSlice.ts'

/** A search thread for as long as a component is shown. */
export function useSearch(): SearchClient {
  const catalog = useCatalog()
  const client = useMemo(() => new SearchClient(catalog), [catalog])
  useEffect(() => () => client.stop(), [client])
  return client
}

/** The answer of a search; what goes wrong is said, and is no answer. */
export async function answerOf<T>(asked: Promise<T | undefined>): Promise<T | undefined> {
  try {
    return await asked
  } catch (error) {
    store.dispatch(toasted({ text: error instanceof Error ? error.message : String(error), kind: 'wrong' }))
    return undefined
  }
}
