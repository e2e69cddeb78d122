import { type RefObject, useCallback, useEffect, useState } from 'react'
import type { BenchPicture } from '../../../core/sheets/benchPicture.ts'

/** What part of the bench is seen, in pitches; `round` when it is seen from its other end. */
export interface Viewport {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

const LEAST = 10

/** Zoom with the wheel or two fingers, pan by dragging the paper. */
export function useView(svg: RefObject<SVGSVGElement | null>, picture: BenchPicture) {
  const whole: Viewport = { x: picture.left, y: picture.top, width: picture.width, height: picture.height }
  const [view, setView] = useState(whole)
  const extent = `${picture.left} ${picture.top} ${picture.width} ${picture.height}`
  // biome-ignore lint/correctness/useExhaustiveDependencies: the extent stands for the whole
  const seeAll = useCallback(() => setView(whole), [extent])
  // The first layout, and one with other breadboards, is seen as a whole.
  useEffect(() => seeAll(), [seeAll])
  /** Looks closely at a place, with so much around it that its ends are seen. */
  const focus = useCallback((x: number, y: number, span: number): void => {
    setView((now) => {
      const height = Math.max(24, span * 1.5)
      const width = (now.width * height) / now.height
      return { x: x - width / 2, y: y - height / 2, width, height }
    })
  }, [])
  const zoom = useCallback(
    (factor: number, at?: { x: number; y: number }): void => {
      setView((now) => {
        const width = Math.min(picture.width * 1.5, Math.max(LEAST, now.width * factor))
        const height = (now.height * width) / now.width
        const centre = at ?? { x: now.x + now.width / 2, y: now.y + now.height / 2 }
        return {
          x: centre.x - ((centre.x - now.x) * width) / now.width,
          y: centre.y - ((centre.y - now.y) * height) / now.height,
          width,
          height,
        }
      })
    },
    [picture.width],
  )
  const pan = useCallback((dx: number, dy: number): void => {
    setView((now) => ({ ...now, x: now.x - dx, y: now.y - dy }))
  }, [])
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
  return { view, seeAll, focus, zoom, pan }
}

/** A place on the screen in the coordinates of the drawing. */
export function pointIn(svg: SVGSVGElement, clientX: number, clientY: number): { x: number; y: number } {
  const matrix = svg.getScreenCTM()
  if (!matrix) return { x: 0, y: 0 }
  const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix.inverse())
  return { x, y }
}
