import { afterAll } from 'vitest'

/** Worked out when it is first asked for, and forgotten after the tests of the `describe` that it stands in. */
export function once<V extends object>(work: () => V): () => V {
  let known: V | undefined
  afterAll(() => {
    known = undefined
  })
  return () => (known ??= work())
}
