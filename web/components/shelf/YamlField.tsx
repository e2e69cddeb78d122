import { yaml } from '@codemirror/lang-yaml'
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { lintGutter, setDiagnostics } from '@codemirror/lint'
import { EditorView } from '@codemirror/view'
import { tags } from '@lezer/highlight'
import { basicSetup } from 'codemirror'
import { useEffect, useRef } from 'react'
import type { Problem } from '../../../core/base/problem.ts'

const look = EditorView.theme({
  '&': { height: '100%', fontSize: '13.5px', backgroundColor: 'var(--mp-sheet)', color: 'var(--mp-ink)' },
  '.cm-scroller': { fontFamily: 'var(--bs-font-monospace)', lineHeight: '1.45' },
  '.cm-gutters': {
    backgroundColor: 'var(--mp-paper)',
    color: 'var(--mp-soft)',
    borderRight: '1px solid var(--mp-rule)',
  },
  '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'var(--mp-shade)' },
  '&.cm-focused .cm-cursor': { borderLeftColor: 'var(--mp-ink)' },
  '&.cm-focused': { outline: '2px solid var(--mp-line)' },
  '.cm-selectionBackground, &.cm-focused .cm-selectionBackground': { backgroundColor: 'var(--mp-rule) !important' },
})
const colours = HighlightStyle.define([
  { tag: tags.propertyName, color: 'var(--mp-line)' },
  { tag: tags.definition(tags.propertyName), color: 'var(--mp-line)' },
  { tag: tags.string, color: 'var(--mp-ink)' },
  { tag: tags.number, color: 'var(--mp-flag)' },
  { tag: tags.comment, color: 'var(--mp-soft)', fontStyle: 'italic' },
])

/** A text field for YAML with line numbers; problems are marked on their lines. */
export function YamlField({
  value,
  onChange,
  problems,
}: {
  value: string
  onChange: (text: string) => void
  problems: readonly Problem[]
}) {
  const place = useRef<HTMLDivElement>(null)
  const view = useRef<EditorView>(null)
  const changed = useRef(onChange)
  changed.current = onChange
  const start = useRef(value)
  useEffect(() => {
    if (!place.current) return
    // In a tree of its own the editor brings its style as a sheet; in the page it would be an element, which the content
    // policy keeps out.
    const root = place.current.shadowRoot ?? place.current.attachShadow({ mode: 'open' })
    const made = new EditorView({
      doc: start.current,
      root,
      parent: root,
      extensions: [
        basicSetup,
        yaml(),
        lintGutter(),
        EditorView.lineWrapping,
        look,
        syntaxHighlighting(colours),
        EditorView.contentAttributes.of({ 'aria-label': 'Entry as YAML', tabindex: '0' }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) changed.current(update.state.doc.toString())
        }),
      ],
    })
    view.current = made
    return () => made.destroy()
  }, [])
  // What another hand wrote, such as the form beside it.
  useEffect(() => {
    const now = view.current?.state.doc.toString()
    if (view.current && now !== value)
      view.current.dispatch({ changes: { from: 0, to: now?.length ?? 0, insert: value } })
  }, [value])
  useEffect(() => {
    const state = view.current?.state
    if (!state || !view.current) return
    const marks = problems.map((problem) => {
      const line = state.doc.line(Math.min(Math.max(problem.line ?? 1, 1), state.doc.lines))
      const from = Math.min(line.to, line.from + Math.max(0, (problem.column ?? 1) - 1))
      return { from, to: Math.max(from, line.to), severity: 'error' as const, message: problem.message }
    })
    view.current.dispatch(
      setDiagnostics(
        state,
        marks.sort((a, b) => a.from - b.from),
      ),
    )
  }, [problems])
  return <div className="yaml-field" ref={place} />
}
