import type { Request } from 'express'
import { HttpProblem } from './problem.ts'

/** The revision that a request names in `If-Match`; -1, which nothing has, for anything else; undefined without one. */
export function revisionNamed(request: Request): number | undefined {
  const match = request.get('If-Match')
  return match === undefined ? undefined : Number(/^"(\d{1,15})"$/.exec(match)?.[1] ?? -1)
}

/** The same for a save, which must name one. */
export function revisionToSaveOver(request: Request): number {
  const revision = revisionNamed(request)
  if (revision === undefined)
    throw new HttpProblem(428, 'If-Match is missing', 'a save must name the revision that it changes in If-Match')
  return revision
}
