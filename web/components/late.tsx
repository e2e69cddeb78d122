import { type ComponentType, useEffect, useState } from 'react'
import { Loading } from './Loading.tsx'

/** Code that the server did not give: the program is as it should be, and another try may do. */
export class NotLoaded extends Error {
  override name = 'NotLoaded'
}

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
  const begin = (): Promise<void> => {
    loading ??= load().then(
      (module) => {
        Component = module[name]
      },
      () => {
        loading = undefined
        throw new NotLoaded(`The ${what} cannot be loaded: is the server still there?`)
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
