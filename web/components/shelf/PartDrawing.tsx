import type { Footprint, Part } from '../../../core/catalog/partSchema.ts'
import { partFigure } from '../../../core/sheets/partFigure.ts'

const PITCH = 22
const GLYPH = 7.9

/** A part as it lies in front of the maker: its legs in order with their names, numbers and lead colours. */
export function PartDrawing({ part, footprint = part.footprint }: { part: Part; footprint?: Footprint }) {
  const figure = partFigure(footprint)
  const label = (leg: (typeof figure.legs)[number]): string => {
    const lead = part.pins.find((pin) => pin.id === leg.pin)?.lead
    return `${leg.pin ?? '·'}${lead ? ` ${lead.colour}` : ''}`
  }
  const room = (right: boolean): number =>
    14 +
    GLYPH *
      Math.max(0, ...figure.legs.filter((leg) => (leg.side === 'right') === right).map((leg) => label(leg).length))
  const margin = room(false)
  const width = margin + figure.width * PITCH + room(true)
  const height = figure.height * PITCH + 28
  return (
    <svg
      className="part-drawing"
      viewBox={`0 0 ${width} ${height}`}
      style={{ width, maxWidth: '100%' }}
      role="img"
      aria-label={`${part.title}: ${figure.legs.map((leg) => leg.pin ?? 'no pin').join(', ')}`}
    >
      <rect
        x={margin}
        y={12}
        width={figure.width * PITCH}
        height={figure.height * PITCH}
        fill="var(--mp-shade)"
        stroke="var(--mp-ink)"
        strokeWidth="2"
        rx={figure.kind === 'leads' || figure.kind === 'legs' ? 9 : 1}
      />
      {figure.notch && (
        <path
          d={`M${margin + (figure.width * PITCH) / 2 - 7} 12a7 7 0 0 0 14 0`}
          fill="var(--mp-sheet)"
          stroke="var(--mp-ink)"
          strokeWidth="2"
        />
      )}
      {figure.legs.map((leg, index) => {
        const pin = part.pins.find((one) => one.id === leg.pin)
        const x = margin + leg.x * PITCH
        const y = 12 + leg.y * PITCH
        const left = leg.side !== 'right'
        const edge = left ? margin - 6 : margin + figure.width * PITCH + 6
        const lead = pin?.lead ? ` ${pin.lead.colour}` : ''
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a leg has no identity but its place
          <g key={index}>
            <path d={`M${x} ${y}H${left ? margin - 4 : edge - 2}`} stroke="var(--mp-ink)" strokeWidth="1.4" />
            <rect x={x - 4} y={y - 4} width="8" height="8" fill="var(--mp-ink)" />
            <text
              x={edge}
              y={y + 4.5}
              textAnchor={left ? 'end' : 'start'}
              fontFamily="var(--bs-font-monospace)"
              fontSize="13"
              fontWeight="600"
              fill="var(--mp-ink)"
            >
              {leg.pin ?? '·'}
              {lead && (
                <tspan fontWeight="400" fill="var(--mp-soft)">
                  {lead}
                </tspan>
              )}
            </text>
            {pin?.number !== undefined && (
              <text
                x={left ? x + 9 : x - 9}
                y={y + 4}
                textAnchor={left ? 'start' : 'end'}
                fontSize="12"
                fill="var(--mp-soft)"
              >
                {pin.number}
              </text>
            )}
          </g>
        )
      })}
    </svg>
  )
}
