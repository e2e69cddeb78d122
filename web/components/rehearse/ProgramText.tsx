import { memo, useEffect, useRef } from 'react'
import type { SourceFile } from '../../../core/rehearse/cpp/preprocess.ts'
import type { RunFinding } from '../../../core/rehearse/stage/findings.ts'

/** The program, the line at which the cursor stands, and lines of which something is to be said. */
export function ProgramText(props: {
  readonly files: readonly SourceFile[]
  readonly at: { readonly file: string; readonly line: number } | undefined
  readonly findings: readonly RunFinding[]
}) {
  const { files, at, findings } = props
  const now = useRef<HTMLOListElement>(null)
  const shown = files.find(({ name }) => name === at?.file) ?? files[0]
  useEffect(() => {
    const item = at && now.current?.children[at.line - 1]
    item?.scrollIntoView({ block: 'nearest' })
  }, [at])
  if (!shown) return null
  const wrong = findings.filter(({ file }) => file === shown.name).map(({ line }) => line)
  return (
    <section className="program" aria-label="The program">
      <h2>{shown.name}</h2>
      <ol ref={now} className="mono" tabIndex={0}>
        <Lines text={shown.text} now={at?.file === shown.name ? at.line : 0} wrong={wrong.join(' ')} />
      </ol>
    </section>
  )
}

const Lines = memo(function Lines({
  text,
  now,
  wrong,
}: {
  readonly text: string
  readonly now: number
  readonly wrong: string
}) {
  const marked = new Set(wrong.split(' ').map(Number))
  return text.split('\n').map((line, index) => (
    <li
      // biome-ignore lint/suspicious/noArrayIndexKey: a line is its number
      key={index}
      className={`${now === index + 1 ? 'now' : ''} ${marked.has(index + 1) ? 'wrong' : ''}`}
      aria-current={now === index + 1 ? 'step' : undefined}
    >
      {line === '' ? '\u00a0' : line}
    </li>
  ))
})
