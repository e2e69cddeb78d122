import { type KeyboardEvent, type PointerEvent, useMemo } from 'react'
import { rowOf } from '../../../core/breadboard/grid.ts'
import type { Layout } from '../../../core/breadboard/layout.ts'
import { type BodyPicture, type BreadboardPicture, bowOf, type WirePicture } from '../../../core/sheets/benchPicture.ts'
import { railRuns } from '../../../core/sheets/benchSvg.ts'

/** Strips, rails, holes and the letters along the edge; strips of lit nets stand out. */
export function Breadboard(props: {
  readonly picture: BreadboardPicture
  readonly layout: Layout
  readonly bright: ReadonlySet<number>
}) {
  const { picture, layout, bright } = props
  const { ref, left, right, rows, columns, rails, railRows, gapAt } = picture
  const strips = useMemo(() => {
    let path = ''
    for (let row = 1; row <= rows; row += 1)
      path += `M${columns[0]!.x} ${row}H${columns[4]!.x}M${columns[5]!.x} ${row}H${columns[9]!.x}`
    return path
  }, [rows, columns])
  const holes = useMemo(() => {
    let path = ''
    for (let row = 1; row <= rows; row += 1) for (const { x } of columns) path += `M${x} ${row}h.001`
    for (const { x } of rails) for (const row of railRows) path += `M${x} ${row}h.001`
    return path
  }, [rows, columns, rails, railRows])
  const litStrips = [...layout.nodes]
    .filter(([node, net]) => bright.has(net) && layout.grid.board(node).ref === ref)
    .map(([node]) => {
      const own = layout.grid.holes(node)
      return `M${layout.grid.x(own[0]!)} ${rowOf(own[0]!)}L${layout.grid.x(own.at(-1)!)} ${rowOf(own.at(-1)!)}`
    })
    .join('')
  return (
    <g className="breadboard">
      <rect x={left} y={-0.9} width={right - left} height={rows + 2.6} className="plate" />
      <text x={left + 0.2} y={-1.2} className="name">
        {ref}
      </text>
      <path d={strips} className="strip" />
      {rails.map(({ name, x }) => (
        <g key={name}>
          {railRuns(railRows, gapAt).map(([from, to]) => (
            <path key={from} d={`M${x} ${from - 0.3}V${to + 0.3}`} className={name.endsWith('+') ? 'plus' : 'minus'} />
          ))}
          <text x={x} y={railRows[0]! - 0.75} className="sign">
            {name.endsWith('+') ? '+' : '−'}
          </text>
        </g>
      ))}
      {litStrips !== '' && <path d={litStrips} className="strip lit" />}
      <path d={holes} className="hole" />
      {columns.flatMap(({ letter, x }) =>
        [0.2, rows + 1.25].map((y) => (
          <text key={`${letter} ${y}`} x={x} y={y} className="letter">
            {letter}
          </text>
        )),
      )}
      {Array.from({ length: rows }, (_, at) => at + 1)
        .filter((row) => row === 1 || row % 5 === 0)
        .map((row) => (
          <text key={row} x={columns[4]!.x + 1.5} y={row + 0.2} className="letter">
            {row}
          </text>
        ))}
    </g>
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
      <Shape body={body} />
    </g>
  )
}

/** What a part looks like: its body with named legs, or two legs with a tag. */
export function Shape({ body }: { body: BodyPicture }) {
  const { ref, kind, left, top, width, height, legs } = body
  const size = kind === 'legs' || width < 4 ? 0.62 : 0.85
  const middle =
    kind === 'legs'
      ? { x: (legs[0]!.x + legs[1]!.x) / 2, y: (legs[0]!.y + legs[1]!.y) / 2 }
      : { x: left + width / 2, y: kind === 'beside' || kind === 'leads' ? top + 0.7 : top + height / 2 }
  const label = ref.length * size * 0.62 + 0.5
  return (
    <>
      {kind === 'legs' ? (
        <path d={`M${legs[0]!.x} ${legs[0]!.y}L${legs[1]!.x} ${legs[1]!.y}`} className="wire-leg" />
      ) : (
        <rect x={left} y={top} width={width} height={height} className="shell" rx="0.15" />
      )}
      {legs.map((leg) => {
        const onLeft = leg.x - left <= left + width - leg.x
        const room = Math.max(leg.x - left, left + width - leg.x) - (kind === 'straddle' ? width / 2 : 0)
        // Names of a narrow board beside stand outside it.
        const outside = kind === 'beside' && width < 6
        const toRight = onLeft !== outside
        return (
          <g key={leg.pin}>
            <circle cx={leg.x} cy={leg.y} r="0.24" className="leg" />
            {kind !== 'legs' && (outside || room > leg.pin.length * 0.41) && (
              <text
                x={toRight ? leg.x + 0.45 : leg.x - 0.45}
                y={leg.y + 0.2}
                className={`pin ${toRight ? '' : 'right'}`}
              >
                {leg.pin}
              </text>
            )}
          </g>
        )
      })}
      <rect x={middle.x - label / 2} y={middle.y - size * 0.7} width={label} height={size * 1.4} className="tag" />
      <text x={middle.x} y={middle.y + size * 0.34} className="tag-text" fontSize={size}>
        {ref}
      </text>
    </>
  )
}

/** A wire as a bow, with its number at both ends where it is flagged. */
export function Wire(props: { readonly wire: WirePicture; readonly state: string; readonly flagged: boolean }) {
  const { wire, state, flagged } = props
  const bow = bowOf(wire)
  const d = `M${wire.x1} ${wire.y1}Q${bow.x.toFixed(2)} ${bow.y.toFixed(2)} ${wire.x2} ${wire.y2}`
  return (
    <g className={`wire ${state}`} data-wire={wire.number}>
      <path d={d} className="casing" />
      <path d={d} className="core" style={{ stroke: wire.colour }} />
      {flagged &&
        [
          [wire.x1, wire.y1],
          [wire.x2, wire.y2],
        ].map(([x, y]) => (
          <g key={`${x} ${y}`}>
            <circle cx={x} cy={y} r="0.55" className="flag-dot" />
            <text x={x} y={y! + 0.22} className="flag-number">
              {wire.number}
            </text>
          </g>
        ))}
    </g>
  )
}
