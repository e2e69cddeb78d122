import express, { type Request, type RequestHandler } from 'express'
import * as v from 'valibot'
import { HttpProblem } from './problem.ts'

/** Longest line of the serial contract in bytes, and most lines of one request. */
const MOST_BYTES = 200
const MOST_LINES = 500

/** Reads newline-delimited JSON as text; a page from elsewhere cannot send it without being asked first. */
export const readLines: RequestHandler = express.text({ type: 'application/x-ndjson', limit: '128kb' })

const Body = v.strictObject({ lines: v.array(v.string()) })

/**
 * Lines that a board said, from a request: newline-delimited JSON, or `{ "lines": […] }`. Throws what is wrong with them;
 * lines that are no answers pass, as they do on the serial line.
 */
export function linesOf(request: Request): string[] {
  const body = v.safeParse(Body, request.body)
  const given =
    typeof request.body === 'string' ? request.body.split('\n') : body.success ? body.output.lines : undefined
  if (!given)
    throw new HttpProblem(
      415,
      'No lines',
      'expected the lines of the test program as application/x-ndjson, or {"lines": ["…"]} as application/json',
    )
  const lines = given.map((line) => line.trim()).filter((line) => line !== '')
  if (lines.length > MOST_LINES)
    throw new HttpProblem(413, 'Too many lines', `${lines.length} lines; expected at most ${MOST_LINES} at once`)
  const long = lines.findIndex((line) => Buffer.byteLength(line) > MOST_BYTES)
  if (long >= 0)
    throw new HttpProblem(
      400,
      'A line is too long',
      `line ${long + 1} has ${Buffer.byteLength(lines[long] ?? '')} bytes; expected at most ${MOST_BYTES}`,
    )
  return lines
}
