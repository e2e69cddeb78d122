import { type KeyboardEvent, type PointerEvent, type ReactNode, useEffect, useMemo, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { entryOf } from '../../../core/base/entryOf.ts'
import { isRail, rowOf } from '../../../core/breadboard/grid.ts'
import type { Layout } from '../../../core/breadboard/layout.ts'
import { Hand, nearestHole } from '../../../core/breadboard/moving.ts'
import { placeOf, type Seat } from '../../../core/breadboard/seats.ts'
import type { BenchPlace } from '../../../core/plan/planSchema.ts'
import {
  type BenchPicture,
  type BodyPicture,
  seatPicture,
  type WirePicture,
} from '../../../core/sheets/benchPicture.ts'
import type { Wiring } from '../../../core/wiring/model.ts'
import { Body, Breadboard, Shape, Wire } from './BenchDrawing.tsx'
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
            kept={entryOf(wiring.plan.bench?.places, body.ref) !== undefined}
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
