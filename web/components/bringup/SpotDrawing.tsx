import { useMemo } from 'react'
import { rowOf } from '../../../core/breadboard/grid.ts'
import type { Layout } from '../../../core/breadboard/workbench.ts'
import type { Spot } from '../../../core/bringup/metal.ts'
import { benchPicture } from '../../../core/sheets/benchPicture.ts'
import { makeSheet } from '../../../core/sheets/sheet.ts'
import type { Wiring } from '../../../core/wiring/model.ts'
import { Breadboards, Inked, Lane } from '../bench/BenchDrawing.tsx'

/** Room around the spots, and least side of the drawing, in pitches. */
const AROUND = 5
const LEAST = 18

/** The bench looked at closely where the meter's tips go; undefined for spots that the drawing does not hold. */
export function SpotDrawing({
  wiring,
  layout,
  spots,
}: {
  readonly wiring: Wiring
  readonly layout: Layout
  readonly spots: readonly Spot[]
}) {
  const picture = useMemo(() => benchPicture(wiring, layout, makeSheet(wiring, layout)), [wiring, layout])
  const points = spots.flatMap(({ id, hole }) => {
    const at = hole === undefined ? undefined : layout.grid.parse(hole)
    if (at !== undefined) return [{ id, x: layout.grid.x(at), y: rowOf(at) }]
    const post = layout.posts.get(id)
    return post ? [{ id, x: post.x, y: post.y }] : []
  })
  if (points.length === 0) return null
  const xs = points.map(({ x }) => x)
  const ys = points.map(({ y }) => y)
  const left = Math.min(...xs) - AROUND
  const top = Math.min(...ys) - AROUND
  const width = Math.max(...xs) - Math.min(...xs) + 2 * AROUND
  const height = Math.max(...ys) - Math.min(...ys) + 2 * AROUND
  const span = Math.max(width, height, LEAST)
  return (
    <div className="bench-view spot-drawing">
      <svg
        className="dim"
        viewBox={`${left - (span - width) / 2} ${top - (span - height) / 2} ${span} ${span}`}
        role="img"
        aria-label={`Where to touch: ${spots.map(({ words }) => words).join(' and ')}`}
      >
        <Breadboards picture={picture} layout={layout} bright={none} />
        {picture.bodies.map((body) => (
          <g key={body.ref} className="body">
            <Inked ink={body.ink} />
          </g>
        ))}
        <g className="wires">
          {picture.wires.map((wire) => (
            <Lane key={wire.number} wire={wire} state="" />
          ))}
        </g>
        <Inked ink={picture.labels} />
        {points.map(({ id, x, y }, index) => (
          <g key={id} className={`tip tip-${index}`}>
            <circle cx={x} cy={y} r={span / 42} />
            <circle cx={x} cy={y} r={span / 22} className="ring" />
            <text x={x + span / 18} y={y + (index === 0 ? -span / 40 : span / 16)} fontSize={span / 20}>
              {index === 0 ? 'first' : 'second'}
            </text>
          </g>
        ))}
      </svg>
    </div>
  )
}

const none: ReadonlySet<number> = new Set()
