import { type KeyboardEvent, type PointerEvent, type ReactNode, useEffect, useMemo, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { isRail, rowOf } from '../../../core/breadboard/grid.ts'
import type { Layout } from '../../../core/breadboard/layout.ts'
import { Hand, nearestHole } from '../../../core/breadboard/moving.ts'
import { placeOf, type Seat } from '../../../core/breadboard/seats.ts'
import type { BenchPlace } from '../../../core/plan/planSchema.ts'
import {
  type BenchPicture,
  type BodyPicture,
  type BreadboardPicture,
  bowOf,
  seatPicture,
  type WirePicture,
} from '../../../core/sheets/benchPicture.ts'
import { railRuns } from '../../../core/sheets/benchSvg.ts'
import type { Wiring } from '../../../core/wiring/model.ts'
import { pointIn, useView } from './useView.ts'

interface BenchViewProps {
  readonly picture: BenchPicture
  readonly layout: Layout
  readonly wiring: Wiring
  /** Wires that are drawn as in; the others not at all. Undefined: all. */
  readonly shown: ReadonlySet<number> | undefined
  /** Wire, or reference of a part, that is next. */
  readonly now: number | string | undefined
  readonly picked: string | undefined
  readonly lit: readonly string[]
  /** References of what stands in a fault. */
  readonly hurt: ReadonlySet<string>
  readonly movable: boolean
  /** Looks closely at what is next. */
  readonly follow: boolean
  readonly onPick: (ref: string | undefined) => void
  readonly onMove: (ref: string, place: BenchPlace | null) => void
  readonly onRefused: (text: string) => void
  readonly children?: ReactNode
}

interface Drag {
  readonly ref: string
  readonly hand: Hand
  readonly from: { readonly x: number; readonly y: number }
  readonly anchor: { readonly x: number; readonly y: number }
  readonly seat: Seat | undefined
  readonly refusal: string | undefined
  readonly moved: boolean
}

/** The bench drawn to be looked at closely and rearranged. */
export function BenchView(props: BenchViewProps) {
  const { picture, layout, wiring, shown, now, picked, lit, hurt, movable, follow, onPick, onMove, onRefused } = props
  const svg = useRef<SVGSVGElement>(null)
  const { view, seeAll, focus, zoom, pan } = useView(svg, picture)
  const [under, setUnder] = useState<{ hole: string; words: string; net: number | undefined }>()
  const [held, setHeld] = useState<number>()
  const [drag, setDrag] = useState<Drag>()
  const panning = useRef<{ x: number; y: number } | undefined>(undefined)
  const fingers = useRef(new Map<number, { x: number; y: number }>())
  const litNets = useMemo(
    () => new Set(lit.flatMap((end) => (end.includes('.') && wiring.terminal(end) ? [wiring.netOf(end).index] : []))),
    [lit, wiring],
  )
  const bright = held ?? under?.net
  const brightNets = new Set([...litNets, ...(bright === undefined ? [] : [bright])])

  const near = follow ? placeOfNow(picture, now) : undefined
  const nearKey = near && `${near.x} ${near.y} ${near.span}`
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the place
  useEffect(() => {
    if (near) focus(near.x, near.y, near.span)
  }, [nearKey, focus])

  const look = (x: number, y: number): void => {
    const hole = nearestHole(layout.grid, x, y, true)
    if (hole === undefined || Math.hypot(layout.grid.x(hole) - x, rowOf(hole) - y) > 0.75) {
      setUnder(undefined)
      return
    }
    const node = layout.grid.node(hole)
    const net = layout.nodes.get(node)
    const ends = net === undefined ? [] : wiring.nets[net]!.ends
    setUnder({
      hole: layout.grid.name(hole),
      words: `${layout.grid.nodeWords(node)}${ends.length > 0 ? `: ${ends.slice(0, 4).join(', ')}${ends.length > 4 ? ' …' : ''}` : isRail(hole) ? ': nothing on it' : ': free'}`,
      net: net !== undefined && wiring.nets[net]!.wired ? net : undefined,
    })
  }

  const grab = (body: BodyPicture, event: PointerEvent): void => {
    if (event.button !== 0 || !svg.current) return
    event.stopPropagation()
    onPick(body.ref)
    if (!movable) return
    const hand = new Hand(wiring, layout, body.ref)
    if (!hand.canStand) return
    svg.current.setPointerCapture(event.pointerId)
    const seat = layout.seats.get(body.ref)
    const first = seat ? (seat.at ?? seat.legs[0]!.hole) : undefined
    const from = pointIn(svg.current, event.clientX, event.clientY)
    setDrag({
      ref: body.ref,
      hand,
      from,
      anchor: first === undefined ? from : { x: layout.grid.x(first), y: rowOf(first) },
      seat,
      refusal: undefined,
      moved: false,
    })
  }

  const onPointerMove = (event: PointerEvent<SVGSVGElement>): void => {
    const at = pointIn(event.currentTarget, event.clientX, event.clientY)
    if (drag) {
      const seat = drag.hand.seatNear(drag.anchor.x + at.x - drag.from.x, drag.anchor.y + at.y - drag.from.y)
      const moved = drag.moved || Math.hypot(at.x - drag.from.x, at.y - drag.from.y) > 0.5
      setDrag({ ...drag, seat, refusal: seat ? drag.hand.refusal(seat) : undefined, moved })
      return
    }
    const before = fingers.current.get(event.pointerId)
    if (before && fingers.current.size === 2) {
      const other = [...fingers.current].find(([id]) => id !== event.pointerId)![1]
      const was = Math.hypot(before.x - other.x, before.y - other.y)
      const is = Math.hypot(event.clientX - other.x, event.clientY - other.y)
      if (was > 0 && is > 0)
        zoom(was / is, pointIn(event.currentTarget, (event.clientX + other.x) / 2, (event.clientY + other.y) / 2))
    } else if (panning.current) {
      const from = pointIn(event.currentTarget, panning.current.x, panning.current.y)
      pan(at.x - from.x, at.y - from.y)
      panning.current = { x: event.clientX, y: event.clientY }
    }
    if (before) fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY })
    look(at.x, at.y)
  }

  const onPointerUp = (event: PointerEvent<SVGSVGElement>): void => {
    fingers.current.delete(event.pointerId)
    panning.current = undefined
    if (!drag) return
    setDrag(undefined)
    if (!drag.moved) return
    if (!drag.seat) onRefused(`${drag.ref} was let go where there is no room for it; it stays where it was.`)
    else if (drag.refusal) onRefused(`${drag.ref} cannot stand there: ${drag.refusal}.`)
    else onMove(drag.ref, placeOf(layout.grid, drag.seat))
  }

  const onBodyKey = (body: BodyPicture, event: KeyboardEvent): void => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
    const isTurn = event.key === 't' || event.key === 'T'
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault()
      onPick(picked === body.ref ? undefined : body.ref)
      return
    }
    if (!movable || event.ctrlKey || event.metaKey || event.altKey) return
    if (event.key === 'Delete') {
      event.preventDefault()
      onMove(body.ref, null)
      return
    }
    if (event.key === 'b' && (body.kind === 'straddle' || body.kind === 'row')) {
      event.preventDefault()
      onMove(body.ref, { beside: true })
      return
    }
    if (!way && !isTurn) return
    event.preventDefault()
    onPick(body.ref)
    const hand = new Hand(wiring, layout, body.ref)
    if (!hand.canStand) return
    const seat = way ? hand.next(way[0]!, way[1]!) : hand.turned()
    const refusal = seat && !way ? hand.refusal(seat) : undefined
    if (!seat) onRefused(way ? `${body.ref} finds no free place that way.` : `${body.ref} cannot be turned.`)
    else if (refusal) onRefused(`${body.ref} cannot be turned there: ${refusal}.`)
    else onMove(body.ref, placeOf(layout.grid, seat))
  }

  const ghost = drag?.moved && drag.seat ? drag.seat : undefined
  const ghostUnit = ghost && layout.units.find((unit) => unit.ref === ghost.ref)
  const shift = ghost ? shiftOf(layout, ghost) : undefined
  const wires = picture.wires.filter(({ number }) => shown === undefined || shown.has(number) || number === now)
  const dim = brightNets.size > 0
  return (
    <div className="bench-view">
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing has no fieldset */}
      <svg
        ref={svg}
        viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`}
        role="group"
        aria-label="Breadboard with parts and wires"
        className={`${dim ? 'dim' : ''} ${movable ? 'movable' : ''}`}
        onPointerDown={(event) => {
          fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY })
          panning.current = { x: event.clientX, y: event.clientY }
          onPick(undefined)
          const at = pointIn(event.currentTarget, event.clientX, event.clientY)
          const hole = nearestHole(layout.grid, at.x, at.y, true)
          const net = hole === undefined ? undefined : layout.nodes.get(layout.grid.node(hole))
          setHeld(net === held || net === undefined || !wiring.nets[net]!.wired ? undefined : net)
        }}
        onPointerMove={onPointerMove}
        onPointerUp={onPointerUp}
        onPointerCancel={onPointerUp}
        onPointerLeave={() => setUnder(undefined)}
      >
        {picture.breadboards.map((one) => (
          <Breadboard key={one.ref} picture={one} layout={layout} bright={brightNets} />
        ))}
        {picture.bodies.map((body) => (
          <Body
            key={body.ref}
            body={body}
            state={`${picked === body.ref ? 'picked' : ''} ${now === body.ref ? 'now' : ''} ${lit.some((end) => end.split('.')[0] === body.ref) ? 'lit' : ''} ${hurt.has(body.ref) ? 'hurt' : ''} ${drag?.moved && drag.ref === body.ref ? 'away' : ''}`}
            kept={wiring.plan.bench?.places[body.ref] !== undefined}
            onPointerDown={(event) => grab(body, event)}
            onKeyDown={(event) => onBodyKey(body, event)}
          />
        ))}
        <g className="wires">
          {wires.map((wire) => (
            <Wire
              key={wire.number}
              wire={shift ? moved(wire, shift) : wire}
              state={`${now === wire.number ? 'now' : ''} ${brightNets.has(wire.net) ? 'bright' : ''} ${typeof now === 'number' && now !== wire.number ? 'past' : ''}`}
              flagged={now === wire.number || brightNets.has(wire.net)}
            />
          ))}
        </g>
        {ghost && ghostUnit && (
          <g className={`ghost ${drag?.refusal ? 'refused' : ''}`} data-testid="ghost">
            <Shape body={seatPicture(ghostUnit, ghost, layout)} />
          </g>
        )}
      </svg>
      <div className="bench-zoom">
        <Button size="sm" variant="outline-dark" aria-label="Nearer" onClick={() => zoom(1 / 1.4)}>
          +
        </Button>
        <Button size="sm" variant="outline-dark" aria-label="Further away" onClick={() => zoom(1.4)}>
          −
        </Button>
        <Button size="sm" variant="outline-dark" onClick={seeAll}>
          Whole bench
        </Button>
      </div>
      <div className="bench-under mono" data-testid="under-pointer">
        {drag?.moved ? (
          (drag.refusal ?? (drag.seat ? `puts ${drag.ref} in ${layout.grid.name(drag.seat.legs[0]!.hole)}` : 'no room'))
        ) : under ? (
          <>
            <b>{under.hole}</b> {under.words}
          </>
        ) : (
          props.children
        )}
      </div>
    </div>
  )
}

/** Middle and extent of what is next. */
function placeOfNow(
  picture: BenchPicture,
  now: number | string | undefined,
): { x: number; y: number; span: number } | undefined {
  const wire = picture.wires.find(({ number }) => number === now)
  if (wire)
    return {
      x: (wire.x1 + wire.x2) / 2,
      y: (wire.y1 + wire.y2) / 2,
      span: Math.max(Math.abs(wire.x1 - wire.x2), Math.abs(wire.y1 - wire.y2)),
    }
  const body = picture.bodies.find(({ ref }) => ref === now)
  return body && { x: body.left + body.width / 2, y: body.top + body.height / 2, span: body.height }
}

/** How far each leg's metal moves with the part that is dragged. */
function shiftOf(layout: Layout, ghost: Seat): Map<string, { dx: number; dy: number }> {
  const seat = layout.seats.get(ghost.ref)
  const shift = new Map<string, { dx: number; dy: number }>()
  for (const { pin, hole } of seat?.legs ?? []) {
    const to = ghost.legs.find((leg) => leg.pin === pin)?.hole
    if (to === undefined) continue
    const by = { dx: layout.grid.x(to) - layout.grid.x(hole), dy: rowOf(to) - rowOf(hole) }
    for (const at of layout.grid.holes(layout.grid.node(hole)))
      if (!isRail(at)) shift.set(`${layout.grid.x(at)} ${rowOf(at)}`, by)
  }
  return shift
}

function moved(wire: WirePicture, shift: ReadonlyMap<string, { dx: number; dy: number }>): WirePicture {
  const [a, b] = [shift.get(`${wire.x1} ${wire.y1}`), shift.get(`${wire.x2} ${wire.y2}`)]
  if (!a && !b) return wire
  return {
    ...wire,
    x1: wire.x1 + (a?.dx ?? 0),
    y1: wire.y1 + (a?.dy ?? 0),
    x2: wire.x2 + (b?.dx ?? 0),
    y2: wire.y2 + (b?.dy ?? 0),
  }
}

function Breadboard(props: {
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

function Body(props: {
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

function Shape({ body }: { body: BodyPicture }) {
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

function Wire(props: { readonly wire: WirePicture; readonly state: string; readonly flagged: boolean }) {
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
