import { useEffect, useRef, useState } from 'react'
import { answerOf, useSearch } from '../../store/useSearch.ts'
import type { SearchClient } from '../../workers/search.ts'

type Ask<T> = (client: SearchClient, tell: (done: number, of: number) => void) => Promise<T | undefined>

/** Asks the search once, in its own thread, for as long as the component is shown; `share` is in per cent. */
export function useTrying<T>(ask: Ask<T>) {
  const client = useSearch()
  const first = useRef(ask)
  const [share, setShare] = useState(0)
  const [answer, setAnswer] = useState<T>()
  const [stopped, setStopped] = useState(false)
  useEffect(() => {
    let here = true
    void answerOf(first.current(client, (done, of) => here && setShare((100 * done) / of))).then((found) => {
      if (!here) return
      setAnswer(found)
      setStopped(found === undefined)
    })
    return () => {
      here = false
    }
  }, [client])
  return { client, share, answer, stopped }
}
