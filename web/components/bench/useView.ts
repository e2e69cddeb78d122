import { type RefObject, useCallback, useEffect, useRef, useState } from 'react'
import type { Layout } from '../../../core/breadboard/workbench.ts'
import type { BenchPicture } from '../../../core/sheets/benchPicture.ts'
import type { Place } from '../../../core/sheets/lanes.ts'

/** What part of the bench is seen: its middle, and how many pixels a pitch takes. */
interface View extends Place {
  readonly scale: number
}

/** Pixels a pitch at which the smallest letters are read: the screen does not open with less. */
const READABLE = 21
const LARGEST = 90
/** Pitches around what is looked at. */
const AROUND = 8
/** Pixels at the lower edge that the buttons take. */
const BUTTONS = 46

/** Zoom with the wheel or two fingers, pan by dragging the paper; the bench cannot get lost. */
export function useView(
  svg: RefObject<SVGSVGElement | null>,
  picture: BenchPicture,
  breadboards: Layout['grid']['boards'],
  centre: Place | undefined,
) {
  const [size, setSize] = useState({ width: 800, height: 560 })
  const [view, setView] = useState<View>({ x: 0, y: 0, scale: READABLE })
  const middle = { x: picture.left + picture.width / 2, y: picture.top + picture.height / 2 }
  const fit = Math.min(size.width / picture.width, (size.height - BUTTONS) / picture.height)
  /** Middle of the screen when the whole bench is seen above the buttons. */
  const whole = { x: middle.x, y: middle.y + BUTTONS / 2 / fit }
  /** A view in which the middle of the screen shows something of the bench. */
  const kept = useCallback(
    ({ x, y, scale }: View): View => {
      const within = Math.min(LARGEST, Math.max(Math.min(fit, READABLE) * 0.7, scale))
      const slack = (shown: number, all: number): number => Math.max(0, (all - shown / within) / 2)
      const [dx, dy] = [slack(size.width, picture.width), slack(size.height, picture.height)]
      const clamp = (value: number, around: number, by: number): number =>
        Math.min(around + by + AROUND / 2, Math.max(around - by - AROUND / 2, value))
      return { x: clamp(x, middle.x, dx), y: clamp(y, middle.y, dy), scale: within }
    },
    [fit, size.width, size.height, picture.width, picture.height, middle.x, middle.y],
  )
  const change = useCallback((next: (now: View) => View): void => setView((now) => kept(next(now))), [kept])
  // The first layout, and one with other breadboards, opens where its letters are read, around what matters. What a
  // search brings afterwards opens anew as well, until somebody has chosen what to see, or has moved a part. The whole
  // bench stays whole, whatever layout comes, until something else is chosen.
  const breadth = `${picture.pose} ${breadboards.map(({ ref, x, rows }) => `${ref} ${x} ${rows}`)} ${size.width} ${size.height}`
  const extent = `${breadth} ${picture.left} ${picture.top} ${picture.width} ${picture.height}`
  const opened = useRef({ breadth: '', extent: '' })
  const chosen = useRef<'nothing' | 'all' | 'a view'>('nothing')
  const hold = useCallback((): void => {
    chosen.current = 'a view'
  }, [])
  useEffect(() => {
    const before = opened.current
    if (before.extent === extent) return
    opened.current = { breadth, extent }
    if (chosen.current === 'a view' && before.breadth !== breadth) chosen.current = 'nothing'
    if (chosen.current === 'a view') return
    const all = chosen.current === 'all'
    const at = all || fit >= READABLE || !centre ? whole : centre
    change(() => ({ x: at.x, y: at.y, scale: all ? fit : Math.max(fit, READABLE) }))
  })
  useEffect(() => {
    const element = svg.current
    if (!element) return
    const watch = new ResizeObserver(() => {
      const { width, height } = element.getBoundingClientRect()
      if (width > 0 && height > 0) setSize({ width, height })
    })
    watch.observe(element)
    return () => watch.disconnect()
  }, [svg])
  const seeAll = useCallback((): void => {
    chosen.current = 'all'
    change(() => ({ x: whole.x, y: whole.y, scale: fit }))
  }, [change, fit, whole.x, whole.y])
  /** Looks closely at a box of the drawing, with so much around it that its ends are seen. */
  const focus = useCallback(
    (x: number, y: number, width: number, height: number): void => {
      hold()
      const scale = Math.min(34, size.width / (width + 2 * AROUND), size.height / (height + 2 * AROUND))
      change(() => ({ x, y, scale: Math.max(scale, Math.min(fit, READABLE)) }))
    },
    [change, hold, size.width, size.height, fit],
  )
  const zoom = useCallback(
    (factor: number, at?: Place): void => {
      hold()
      change((now) => {
        const scale = Math.min(LARGEST, now.scale / factor)
        const by = now.scale / scale
        const around = at ?? now
        return { x: around.x + (now.x - around.x) * by, y: around.y + (now.y - around.y) * by, scale }
      })
    },
    [change, hold],
  )
  const pan = useCallback(
    (dx: number, dy: number): void => {
      hold()
      change((now) => ({ ...now, x: now.x - dx, y: now.y - dy }))
    },
    [change, hold],
  )
  useEffect(() => {
    const element = svg.current
    if (!element) return
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault()
      const at = pointIn(element, event.clientX, event.clientY)
      zoom(event.deltaY > 0 ? 1.18 : 1 / 1.18, at)
    }
    element.addEventListener('wheel', onWheel, { passive: false })
    return () => element.removeEventListener('wheel', onWheel)
  }, [svg, zoom])
  const [width, height] = [size.width / view.scale, size.height / view.scale]
  return { viewBox: `${view.x - width / 2} ${view.y - height / 2} ${width} ${height}`, seeAll, focus, zoom, pan, hold }
}

/** A place on the screen in the coordinates of the drawing. */
export function pointIn(svg: SVGSVGElement, clientX: number, clientY: number): Place {
  const matrix = svg.getScreenCTM()
  if (!matrix) return { x: 0, y: 0 }
  const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix.inverse())
  return { x, y }
}
