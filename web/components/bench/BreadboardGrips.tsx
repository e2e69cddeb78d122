import { type KeyboardEvent, type PointerEvent, useState } from 'react'
import type { Layout } from '../../../core/breadboard/workbench.ts'
import { type Pose, turnPlace } from '../../../core/sheets/ink.ts'

/** Size of a grip and where it stands above the first row, in pitches. */
const GRIP = { width: 7, height: 1.8, above: 2 } as const
/** Pitches from column `a` to the middle of a breadboard. */
const MIDDLE = 5.5

/** Handles by which whole breadboards are drawn to another place among each other; nothing while there is one. */
export function BreadboardGrips({
  layout,
  pose,
  onBench,
  onOrder,
}: {
  readonly layout: Layout
  readonly pose: Pose
  /** A place on the screen as one of the bench. */
  readonly onBench: (event: { clientX: number; clientY: number }) => { x: number; y: number }
  readonly onOrder: (refs: readonly string[], moved: string) => void
}) {
  const { boards } = layout.grid
  const [held, setHeld] = useState<{ readonly ref: string; readonly by: number; readonly from: number }>()
  if (boards.length < 2) return null
  const refs = boards.map(({ ref }) => ref)
  const put = (ref: string, index: number): void => {
    const others = refs.filter((one) => one !== ref)
    const to = Math.max(0, Math.min(others.length, index))
    if (refs.indexOf(ref) !== to) onOrder([...others.slice(0, to), ref, ...others.slice(to)], ref)
  }
  const drop = (event: PointerEvent<SVGGElement>): void => {
    if (!held) return
    setHeld(undefined)
    const own = boards.find(({ ref }) => ref === held.ref)!
    const at = own.x + onBench(event).x - held.from
    put(held.ref, boards.filter(({ ref, x }) => ref !== held.ref && x < at).length)
  }
  const key = (event: KeyboardEvent, ref: string): void => {
    const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key]
    if (by === undefined) return
    event.preventDefault()
    put(ref, refs.indexOf(ref) + by)
  }
  return boards.map(({ ref, x }) => {
    const by = held?.ref === ref ? held.by : 0
    const at = turnPlace(pose, { x: x + MIDDLE + by, y: -GRIP.above })
    return (
      // biome-ignore lint/a11y/useSemanticElements: a drawing has no buttons
      <g
        key={ref}
        role="button"
        tabIndex={0}
        aria-label={`Move breadboard ${ref}`}
        className={`grip ${by === 0 ? '' : 'held'}`}
        onPointerDown={(event) => {
          if (event.button !== 0) return
          event.stopPropagation()
          event.currentTarget.setPointerCapture(event.pointerId)
          setHeld({ ref, by: 0, from: onBench(event).x })
        }}
        onPointerMove={(event) => {
          if (!held) return
          event.stopPropagation()
          setHeld({ ...held, by: onBench(event).x - held.from })
        }}
        onPointerUp={drop}
        onPointerCancel={() => setHeld(undefined)}
        onKeyDown={(event) => key(event, ref)}
      >
        <g transform={`translate(${at.x} ${at.y})${pose === 'lies' ? ' rotate(-90)' : ''}`}>
          <rect x={-GRIP.width / 2} y={-GRIP.height / 2} width={GRIP.width} height={GRIP.height} rx="0.3" />
          <text y="0.35" textAnchor="middle">
            ↔ {ref}
          </text>
        </g>
      </g>
    )
  })
}
