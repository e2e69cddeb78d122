import type { ErrorRequestHandler, Response } from 'express'
import type { Logger } from 'pino'
import { StoreTrouble, type TroubleKind } from './storeTrouble.ts'

/** An error that the client can act on, sent as `application/problem+json` (RFC 9457). */
export class HttpProblem extends Error {
  readonly status: number
  readonly title: string
  readonly extra: Readonly<Record<string, unknown>>
  constructor(status: number, title: string, detail: string, extra: Readonly<Record<string, unknown>> = {}) {
    super(detail)
    this.status = status
    this.title = title
    this.extra = extra
  }
}

export function sendProblem(response: Response, problem: HttpProblem): void {
  response
    .status(problem.status)
    .type('application/problem+json')
    .send(
      JSON.stringify({
        type: 'about:blank',
        title: problem.title,
        status: problem.status,
        detail: problem.message,
        ...problem.extra,
      }),
    )
}

const storeStatus: Readonly<Record<TroubleKind, number>> = {
  'in-use': 503,
  'disk-full': 507,
  'read-only': 503,
  damaged: 503,
  disk: 503,
}

export const problemHandler =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, _request, response, next) => {
    if (response.headersSent) return next(error)
    if (error instanceof HttpProblem) return sendProblem(response, error)
    const { status, type } = error as { status?: unknown; type?: unknown }
    if (type === 'entity.too.large')
      return sendProblem(response, new HttpProblem(413, 'Too large', 'the request is too large; expected at most 2 MB'))
    if (type === 'entity.parse.failed')
      return sendProblem(response, new HttpProblem(400, 'Not JSON', 'the request body is not valid JSON'))
    if (typeof status === 'number' && status >= 400 && status < 500)
      return sendProblem(
        response,
        new HttpProblem(
          status,
          'Bad request',
          error instanceof Error ? error.message : 'the request cannot be understood',
        ),
      )
    if (error instanceof StoreTrouble) {
      log.error({ error: error.cause }, error.message)
      return sendProblem(
        response,
        new HttpProblem(storeStatus[error.kind], 'The data folder', error.message, { kind: error.kind }),
      )
    }
    log.error(error)
    sendProblem(
      response,
      new HttpProblem(500, 'Internal error', 'something went wrong inside the server; its log says what'),
    )
  }
