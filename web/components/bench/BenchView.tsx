import { type KeyboardEvent, type PointerEvent, type ReactNode, useEffect, useMemo, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { entryOf } from '../../../core/base/entryOf.ts'
import { type AsideSpot, asidePlace } from '../../../core/breadboard/aside.ts'
import { isRail, rowOf } from '../../../core/breadboard/grid.ts'
import { AsideHand, Hand, mayLieBeside, nearestHole, turnedPlace } from '../../../core/breadboard/moving.ts'
import { placeOf, type Seat } from '../../../core/breadboard/seats.ts'
import type { Layout } from '../../../core/breadboard/workbench.ts'
import type { BenchPlace } from '../../../core/plan/planSchema.ts'
import {
  type BenchPicture,
  type BodyPicture,
  ghostPicture,
  type WirePicture,
} from '../../../core/sheets/benchPicture.ts'
import { unturnPlace } from '../../../core/sheets/ink.ts'
import type { Wiring } from '../../../core/wiring/model.ts'
import { AsideGhost } from './AsideGhost.tsx'
import { firstBoard, placeOfNow, touches } from './around.ts'
import { Body, Breadboards, Ends, Inked, Lane } from './BenchDrawing.tsx'
import { BreadboardGrips } from './BreadboardGrips.tsx'
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
  /** Breadboards in another order, and the one that was moved. */
  readonly onOrder: (refs: readonly string[], moved: string) => void
  /** Turns the whole drawing by a quarter. */
  readonly onTurn: () => void
  /** Further buttons beside those of the view. */
  readonly tools: ReactNode
  readonly children?: ReactNode
}

export interface Drag {
  readonly ref: string
  readonly hand: Hand
  readonly beside: AsideHand
  /** Where it would lie beside; undefined while it is over the breadboards. */
  readonly aside: AsideSpot | undefined
  readonly from: { readonly x: number; readonly y: number }
  readonly anchor: { readonly x: number; readonly y: number }
  readonly seat: Seat | undefined
  readonly refusal: string | undefined
  readonly moved: boolean
}

/** The bench drawn to be looked at closely and rearranged. */
export function BenchView(props: BenchViewProps) {
  const { picture, layout, wiring, shown, now, picked, lit, hurt, movable, follow, onPick, onMove, onRefused, onTurn } =
    props
  const svg = useRef<SVGSVGElement>(null)
  const near = placeOfNow(picture, (follow ? now : undefined) ?? picked)
  const { viewBox, seeAll, focus, zoom, pan, hold } = useView(
    svg,
    picture,
    layout.grid.boards,
    near ?? firstBoard(picture, layout),
  )
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

  const close = follow ? placeOfNow(picture, now) : undefined
  const closeKey = close && `${close.x} ${close.y} ${close.width} ${close.height}`
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the place
  useEffect(() => {
    if (close) focus(close.x, close.y, close.width, close.height)
  }, [closeKey, focus])
  /** A place on the screen as one of the bench. */
  const onBench = (event: { clientX: number; clientY: number }): { x: number; y: number } =>
    svg.current ? unturnPlace(picture.pose, pointIn(svg.current, event.clientX, event.clientY)) : { x: 0, y: 0 }

  const look = (x: number, y: number): void => {
    const hole = nearestHole(layout.grid, x, y, true)
    if (hole === undefined || Math.hypot(layout.grid.x(hole) - x, rowOf(hole) - y) > 0.75) {
      setUnder(undefined)
      return
    }
    const node = layout.grid.node(hole)
    const net = layout.nodes.get(node)
    const ends = net === undefined ? [] : wiring.nets[net]!.all
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
    hold()
    const hand = new Hand(wiring, layout, body.ref)
    svg.current.setPointerCapture(event.pointerId)
    const seat = layout.seats.get(body.ref)
    const first = seat ? (seat.at ?? seat.legs[0]!.hole) : undefined
    const from = onBench(event)
    const aside = layout.asides.get(body.ref)
    setDrag({
      ref: body.ref,
      hand,
      beside: new AsideHand(wiring, layout, body.ref),
      aside: seat ? undefined : aside,
      from,
      anchor: first === undefined ? from : { x: layout.grid.x(first), y: rowOf(first) },
      seat,
      refusal: undefined,
      moved: false,
    })
  }

  const dragTo = (now: Drag, at: { x: number; y: number }): Drag => {
    const [dx, dy] = [at.x - now.from.x, at.y - now.from.y]
    const moved = now.moved || Math.hypot(dx, dy) > 0.5
    const onHoles = layout.seats.has(now.ref)
    const aside = now.beside.spotAt(at, onHoles ? undefined : dy)
    if (aside) return { ...now, moved, aside, seat: undefined, refusal: now.beside.refusal(aside) }
    const seat = now.hand.canStand ? now.hand.seatNear(now.anchor.x + dx, now.anchor.y + dy) : undefined
    return { ...now, moved, aside: undefined, seat, refusal: seat ? now.hand.refusal(seat) : undefined }
  }

  const onPointerMove = (event: PointerEvent<SVGSVGElement>): void => {
    const at = pointIn(event.currentTarget, event.clientX, event.clientY)
    if (drag) {
      setDrag(dragTo(drag, unturnPlace(picture.pose, at)))
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
    const on = unturnPlace(picture.pose, at)
    look(on.x, on.y)
  }

  const letGo = (event: PointerEvent<SVGSVGElement>): void => {
    fingers.current.delete(event.pointerId)
    panning.current = undefined
    setDrag(undefined)
  }

  const onPointerUp = (event: PointerEvent<SVGSVGElement>): void => {
    letGo(event)
    if (!drag) return
    // The last moves may not have been drawn yet: where the hand leaves is what counts.
    const { ref, seat, aside, refusal, moved } = dragTo(drag, onBench(event))
    if (!moved) return
    if (aside && !refusal) {
      const before = entryOf(wiring.plan.bench?.places, ref)
      const wasSeated = layout.seats.has(ref)
      onMove(ref, asidePlace(aside, wasSeated ? { beside: true } : before))
    } else if (!seat && !aside) onRefused(`${ref} was let go where there is no room for it; it stays where it was.`)
    else if (refusal || !seat) onRefused(`${ref} cannot ${aside ? 'lie' : 'stand'} there: ${refusal}.`)
    else onMove(ref, placeOf(layout.grid, seat))
  }

  const onBodyKey = (body: BodyPicture, event: KeyboardEvent): void => {
    const arrow = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
    const turned = arrow && unturnPlace(picture.pose, { x: arrow[0]!, y: arrow[1]! })
    const way = turned && [turned.x, turned.y]
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
    if (event.key === 'b' && mayLieBeside(layout, body.ref)) {
      event.preventDefault()
      onMove(body.ref, { beside: true })
      return
    }
    if (!way && !isTurn) return
    event.preventDefault()
    onPick(body.ref)
    if (!way) {
      const place = turnedPlace(wiring, layout, body.ref)
      if (typeof place === 'string') onRefused(place)
      else onMove(body.ref, place)
      return
    }
    const aside = layout.seats.has(body.ref) ? undefined : layout.asides.get(body.ref)
    if (aside) {
      const side = way[0] === 0 ? aside.side : way[0]! < 0 ? 'left' : 'right'
      const spot: AsideSpot = { ...aside, side, row: aside.row + way[1]! }
      const trouble = new AsideHand(wiring, layout, body.ref).refusal(spot)
      if (trouble) onRefused(`${body.ref} cannot lie there: ${trouble}.`)
      else onMove(body.ref, asidePlace(spot, entryOf(wiring.plan.bench?.places, body.ref)))
      return
    }
    const hand = new Hand(wiring, layout, body.ref)
    if (!hand.canStand) return
    const seat = hand.next(way[0]!, way[1]!)
    if (!seat) onRefused(`${body.ref} finds no free place that way.`)
    else onMove(body.ref, placeOf(layout.grid, seat))
  }

  const ghost = drag?.moved && drag.seat ? drag.seat : undefined
  const ghostUnit = ghost && layout.units.find((unit) => unit.ref === ghost.ref)
  const stateOf = ({ number, net, ends }: WirePicture): string =>
    `${now === number ? 'now' : ''} ${brightNets.has(net) || (picked !== undefined && touches(picture, picked, ends)) ? 'bright' : ''} ${typeof now === 'number' && now !== number ? 'past' : ''} ${drag?.moved && touches(picture, drag.ref, ends) ? 'away' : ''}`
  const wires = picture.wires.filter(({ number }) => shown === undefined || shown.has(number) || number === now)
  const dim = brightNets.size > 0 || picked !== undefined
  return (
    <div className="bench-view">
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing has no fieldset */}
      <svg
        ref={svg}
        viewBox={viewBox}
        role="group"
        aria-label="Breadboard with parts and wires"
        className={`${dim ? 'dim' : ''} ${movable ? 'movable' : ''}`}
        onPointerDown={(event) => {
          fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY })
          panning.current = { x: event.clientX, y: event.clientY }
          onPick(undefined)
          const at = onBench(event)
          const hole = nearestHole(layout.grid, at.x, at.y, true)
          const net = hole === undefined ? undefined : layout.nodes.get(layout.grid.node(hole))
          setHeld(net === held || net === undefined || !wiring.nets[net]!.wired ? undefined : net)
        }}
        onPointerMove={onPointerMove}
        onPointerUp={onPointerUp}
        onPointerCancel={letGo}
        onPointerLeave={() => setUnder(undefined)}
      >
        <Breadboards picture={picture} layout={layout} bright={brightNets} />
        <g className="wires">
          {wires.map((wire) => (
            <Lane key={wire.number} wire={wire} state={stateOf(wire)} />
          ))}
        </g>
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
        <Inked ink={picture.labels} />
        <g className="wires">
          {wires.map((wire) => (
            <Ends key={wire.number} wire={wire} state={stateOf(wire)} />
          ))}
        </g>
        {ghost && ghostUnit && (
          <g className={`ghost ${drag?.refusal ? 'refused' : ''}`} data-testid="ghost">
            <Inked ink={ghostPicture(ghostUnit, ghost, layout, picture.pose).ink} />
          </g>
        )}
        {drag?.moved && drag.aside && <AsideGhost picture={picture} drag={drag} />}
        {movable && <BreadboardGrips layout={layout} pose={picture.pose} onBench={onBench} onOrder={props.onOrder} />}
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
        <Button
          size="sm"
          variant="outline-dark"
          title={picture.pose === 'stands' ? 'Lay the drawing on its side' : 'Stand the drawing up'}
          onClick={onTurn}
        >
          {picture.pose === 'stands' ? 'Lay it down' : 'Stand it up'}
        </Button>
        {props.tools}
      </div>
      <div className="bench-under mono" data-testid="under-pointer">
        {drag?.moved ? (
          (drag.refusal ??
          (drag.aside
            ? `lays ${drag.ref} to the ${drag.aside.side}`
            : drag.seat
              ? `puts ${drag.ref} in ${layout.grid.name(drag.seat.legs[0]!.hole)}`
              : 'no room'))
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
