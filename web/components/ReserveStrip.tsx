import { counted } from '../../core/base/counted.ts'
import type { Budget } from '../../core/circuit/budget.ts'
import { reserveOf } from '../../core/circuit/reserve.ts'
import { formatVolts } from '../../core/electrical/quantity.ts'
import { useDerived } from '../store/derived.ts'
import { useAppSelector } from '../store/store.ts'
import { Term, words } from './words.tsx'

/** What is left: free pins of each kind, addresses taken, select lines, current on each supply. */
export function ReserveStrip() {
  const { wiring } = useDerived()
  const picked = useAppSelector((state) => state.plan.picked)
  const board = (picked === undefined ? undefined : wiring.signal(picked)?.part.home) ?? wiring.boards[0]
  const reserve = reserveOf(wiring, board)
  return (
    <section className="reserve" aria-label="Reserve" tabIndex={0}>
      {board ? (
        <dl>
          {reserve.kinds.map((kind) => (
            <div
              key={kind.id}
              title={`${kind.free} of ${counted(kind.have, 'pin')} with this function ${kind.free === 1 ? 'is' : 'are'} free on ${board.ref}; ${counted(kind.waiting, 'open signal')} ${kind.waiting === 1 ? 'needs' : 'need'} one`}
            >
              <dt>
                {kind.letter} <ReserveTerm title={`${kind.title} left`} />
              </dt>
              <dd className={kind.waiting > kind.free ? 'short' : ''}>
                {kind.free}
                <span className="soft"> / {kind.have}</span>
              </dd>
            </div>
          ))}
          <div>
            <dt>
              <Term word="selects" />
            </dt>
            <dd>{reserve.selects}</dd>
          </div>
          {reserve.addresses.map((bus) => (
            <div key={bus.bus}>
              <dt>
                {bus.bus} <Term word="addresses" />
              </dt>
              <dd>{bus.taken.join(' ')}</dd>
            </div>
          ))}
        </dl>
      ) : (
        <span className="soft">Pick a board, and what is left of it stands here.</span>
      )}
      <div className="supplies">
        {reserve.supplies.map((supply) => (
          <Gauge key={supply.source.end} supply={supply} />
        ))}
      </div>
    </section>
  )
}

/** A kind of pin, with what it means where that is known. */
function ReserveTerm({ title }: { readonly title: string }) {
  return title in words ? <Term word={title as keyof typeof words}>{title}</Term> : title
}

/** Typical load filled, peak as a line, the limit as the end of the scale. */
function Gauge({ supply }: { supply: Budget }) {
  const { source, typicalMilliamps, peakMilliamps } = supply
  const limit = source.limitMilliamps
  const end = Math.max(limit ?? 0, peakMilliamps, 1) * 1.02
  const at = (milliamps: number): number => (100 * milliamps) / end
  return (
    <div
      className="supply"
      title={`${source.why}; ${Math.round(typicalMilliamps)} mA typical, ${Math.round(peakMilliamps)} mA peak`}
    >
      <div>
        <span className="soft">
          {source.end} {formatVolts(source.volts)}
        </span>
        <span className="mono">
          {Math.round(typicalMilliamps)}–{Math.round(peakMilliamps)}
          {limit === undefined ? '' : ` of ${limit}`} mA
        </span>
      </div>
      <svg className="gauge" viewBox="0 0 100 12" preserveAspectRatio="none" aria-hidden="true">
        <rect
          x="0"
          y="4"
          width="100"
          height="5"
          fill="none"
          stroke="var(--mp-rule)"
          strokeWidth="1"
          vectorEffect="non-scaling-stroke"
        />
        <rect x="0" y="4" width={at(typicalMilliamps)} height="5" fill="var(--mp-line)" />
        <path
          d={`M${at(peakMilliamps)} 1V12`}
          stroke="var(--mp-ink)"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
        />
        {limit !== undefined && (
          <path d={`M${at(limit)} 0V12`} stroke="var(--mp-flag)" strokeWidth="2" vectorEffect="non-scaling-stroke" />
        )}
      </svg>
    </div>
  )
}
