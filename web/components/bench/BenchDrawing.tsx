import { type KeyboardEvent, memo, type PointerEvent } from 'react'
import { rowOf } from '../../../core/breadboard/grid.ts'
import type { Layout } from '../../../core/breadboard/workbench.ts'
import type { BenchPicture, BodyPicture, WirePicture } from '../../../core/sheets/benchPicture.ts'
import { type Ink, pathOf, strokesPath, tagBox, turnPlace } from '../../../core/sheets/ink.ts'
import { isDark } from '../../../core/sheets/wireInk.ts'

/** Ink on the screen: what a stroke is becomes its class, and the style gives it colour and weight. */
function Stroke({ ink }: { readonly ink: Ink }) {
  switch (ink.is) {
    case 'box':
      return <rect className={ink.role} x={ink.left} y={ink.top} width={ink.width} height={ink.height} rx={ink.round} />
    case 'dot':
      return <circle className={ink.role} cx={ink.x} cy={ink.y} r={ink.r} />
    case 'line':
      return <path className={ink.role} d={pathOf(ink.points, ink.closed)} />
    case 'strokes':
      return <path className={ink.role} d={strokesPath(ink.strokes)} />
    case 'tag': {
      const { left, top, width, height } = tagBox(ink)
      return (
        <>
          <rect className="tag" x={left} y={top} width={width} height={height} />
          <Stroke ink={{ ...ink, is: 'text', role: 'tag-text', anchor: 'middle' }} />
        </>
      )
    }
    case 'text':
      return (
        <text
          className={ink.role}
          x={ink.x}
          y={ink.y + ink.size * 0.35}
          fontSize={ink.size}
          textAnchor={ink.anchor}
          transform={ink.upwards ? `rotate(-90 ${ink.x} ${ink.y})` : undefined}
        >
          {ink.text}
        </text>
      )
  }
}

export const Inked = memo(function Inked({ ink }: { readonly ink: readonly Ink[] }) {
  // biome-ignore lint/suspicious/noArrayIndexKey: ink has no identity but its place
  return ink.map((one, at) => <Stroke key={at} ink={one} />)
})

/** Breadboards with their holes; strips of lit nets stand out. */
export function Breadboards(props: {
  readonly picture: BenchPicture
  readonly layout: Layout
  readonly bright: ReadonlySet<number>
}) {
  const { picture, layout, bright } = props
  const lit = [...layout.nodes].flatMap(([node, net]) => {
    if (!bright.has(net)) return []
    const own = layout.grid.holes(node)
    const place = (hole: number) => turnPlace(picture.pose, { x: layout.grid.x(hole), y: rowOf(hole) })
    return [[place(own[0]!), place(own.at(-1)!)] as const]
  })
  return (
    <>
      {picture.breadboards.map(({ ref, ink }) => (
        <g key={ref} className="breadboard">
          <Inked ink={ink} />
        </g>
      ))}
      {lit.length > 0 && <path className="strip-lit" d={strokesPath(lit)} />}
    </>
  )
}

/** A part in its holes or beside, to be picked, dragged and moved by keys. */
export function Body(props: {
  readonly body: BodyPicture
  readonly state: string
  readonly kept: boolean
  readonly onPointerDown: (event: PointerEvent) => void
  readonly onKeyDown: (event: KeyboardEvent) => void
}) {
  const { body, state, kept, onPointerDown, onKeyDown } = props
  const place = body.legs[0]?.hole ? ` at ${body.legs[0].hole}` : ', beside the breadboard'
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing has no button
    <g
      className={`body on-${body.kind} ${state}`}
      data-ref={body.ref}
      role="button"
      tabIndex={0}
      aria-label={`${body.ref}, ${body.title}${place}${kept ? ', kept there' : ''}`}
      onPointerDown={onPointerDown}
      onKeyDown={onKeyDown}
    >
      <Inked ink={body.ink} />
    </g>
  )
}

/** The way of a wire: at rest a thin lane, in hand its full colour. */
export function Lane(props: { readonly wire: WirePicture; readonly state: string }) {
  const { wire, state } = props
  const d = pathOf(wire.lane)
  return (
    <g className={`wire ${state}`} data-wire={wire.number}>
      <path d={d} className="casing" />
      <path d={d} className="core" style={{ stroke: wire.colour }} />
    </g>
  )
}

/** Both ends of a wire: its hole, its number in its colour, beside a post where it goes. */
export function Ends(props: { readonly wire: WirePicture; readonly state: string }) {
  const { wire, state } = props
  const { number, colour, ends } = wire
  const isInHand = /now|bright/.test(state)
  return (
    <g className={`ends ${state}`}>
      {ends.map(({ x, y, plate, goes }) => (
        <g key={`${x} ${y}`}>
          {isInHand && <circle cx={x} cy={y} r="0.55" className="hole-ring" />}
          <circle cx={x} cy={y} r="0.19" className="plug" style={{ fill: colour }} />
          <rect
            x={plate.x - 0.37}
            y={plate.y - 0.33}
            width="0.74"
            height="0.66"
            rx="0.12"
            className="number-plate"
            style={{ fill: colour }}
          />
          <text
            x={plate.x}
            y={plate.y + 0.19}
            className="number"
            style={{ fill: isDark(colour) ? '#fff' : '#16130d', fontSize: number > 99 ? 0.38 : 0.54 }}
          >
            {number}
          </text>
          {goes && <Stroke ink={goes} />}
        </g>
      ))}
    </g>
  )
}
