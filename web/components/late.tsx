import { type ComponentType, useEffect, useState } from 'react'
import { Loading } from './Loading.tsx'

/** Code that the server did not give: the program is as it should be, and another try may do. */
export class NotLoaded extends Error {
  override name = 'NotLoaded'
  readonly lost: Lost | undefined

  constructor(message: string, lost: Lost | undefined) {
    super(message)
    this.lost = lost
  }
}

/** Address of code that did not come, where the browser says it, and how often it was asked for. */
interface Lost {
  readonly url: string
  readonly times: number
}

/**
 * True when only a new page brings lost code: it did not come under another address either, so that something it needs was
 * lost with it, and the server is there.
 */
export const needsNewPage = async ({ lost }: NotLoaded): Promise<boolean> =>
  lost !== undefined &&
  lost.times > 1 &&
  (await fetch(lost.url, { method: 'HEAD' }).then(
    ({ ok }) => ok,
    () => false,
  ))

/** A component that is loaded when it is first shown, or earlier when somebody asks for it. */
export interface Late<P> {
  (props: P): React.ReactNode
  /** Begins to load it. A load that failed is tried again. */
  readonly load: () => Promise<void>
}

/**
 * A component whose code comes later. Once it is there it is drawn at once, without the pause that React keeps before it
 * takes a fallback away; a load that fails breaks the nearest boundary, which says so and offers another try.
 */
export function late<N extends string, P extends object>(
  load: () => Promise<Record<N, ComponentType<P>>>,
  name: N,
  what: string,
): Late<P> {
  let Component: ComponentType<P> | undefined
  let loading: Promise<void> | undefined
  let lost: Lost | undefined
  // A browser may remember that an address gave no module, and not ask again: it is asked under another.
  const fetchIt = (): Promise<Record<N, ComponentType<P>>> =>
    lost ? import(/* @vite-ignore */ `${lost.url}?again=${lost.times}`) : load()
  const begin = (): Promise<void> => {
    loading ??= fetchIt().then(
      (module) => {
        Component = module[name]
      },
      (error: unknown) => {
        loading = undefined
        const url = lost?.url ?? /https?:\/\/\S+\.js\b/.exec(String(error))?.[0]
        lost = url === undefined ? undefined : { url, times: (lost?.times ?? 0) + 1 }
        throw new NotLoaded(`The ${what} cannot be loaded: is the server still there?`, lost)
      },
    )
    return loading
  }
  function Place(props: P) {
    const [, drawn] = useState(Component !== undefined)
    const [failed, setFailed] = useState<unknown>()
    useEffect(() => {
      let here = true
      // Asked for also when it has come since it was drawn.
      begin().then(
        () => here && drawn(true),
        (error: unknown) => here && setFailed(error),
      )
      return () => {
        here = false
      }
    }, [])
    if (failed !== undefined) throw failed
    return Component ? <Component {...props} /> : <Loading what={what} />
  }
  return Object.assign(Place, { load: begin })
}
