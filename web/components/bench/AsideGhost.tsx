import type { BenchPicture } from '../../../core/sheets/benchPicture.ts'
import { turnPlace } from '../../../core/sheets/ink.ts'
import type { Drag } from './BenchView.tsx'

/** The body that is dragged to the side, where it would lie. */
export function AsideGhost({ picture, drag }: { readonly picture: BenchPicture; readonly drag: Drag }) {
  const body = picture.bodies.find(({ ref }) => ref === drag.ref)
  if (!body || !drag.aside) return null
  const at = turnPlace(picture.pose, drag.beside.middle(drag.aside))
  return (
    <g className={`ghost ${drag.refusal ? 'refused' : ''}`} data-testid="ghost">
      <rect
        className="shell"
        x={at.x - body.width / 2}
        y={at.y - body.height / 2}
        width={body.width}
        height={body.height}
      />
      <text className="goes" x={at.x} y={at.y} fontSize="0.85" textAnchor="middle">
        {drag.ref}
      </text>
    </g>
  )
}
