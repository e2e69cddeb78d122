import { litInTurn } from '../../../core/assign/inTurn.ts'
import type { BoardInstance } from '../../../core/wiring/model.ts'
import { countPins } from '../../../core/wiring/pinCount.ts'
import { useDerived } from '../../store/derived.ts'

/** Need against have for every kind of pin, before anything is wired. */
export function CountStrip({ board }: { board: BoardInstance }) {
  const wiring = litInTurn(useDerived().wiring)
  const { lines, left } = countPins(wiring, wiring.boards.find(({ ref }) => ref === board.ref) ?? board)
  if (lines.length === 0) return null
  return (
    <section className="count-strip" aria-label={`Need against have on ${board.ref}`}>
      <dl>
        {lines.map((line) => (
          <div
            key={line.id}
            className={line.need > line.have ? 'short' : ''}
            title={`${line.parts.join(', ')} need ${line.need}; ${board.ref} has ${line.have}`}
          >
            <dt>{line.title}</dt>
            <dd>
              {line.need} <span className="soft">of {line.have}</span>
              {line.need > line.have ? ' ✕' : ''}
            </dd>
          </div>
        ))}
      </dl>
      <p className="mb-0">
        {left.length === 0 ? (
          <span className="soft">Every signal of the kit can find a pin on {board.ref}.</span>
        ) : (
          <strong className="text-danger">
            {left.length} {left.length === 1 ? 'signal finds' : 'signals find'} no pin on {board.ref}, however the rest
            is placed:{' '}
            {left
              .slice(0, 4)
              .map((use) => use.end)
              .join(', ')}
            {left.length > 4 ? ' …' : ''}. An expander or another board would carry them.
          </strong>
        )}
      </p>
    </section>
  )
}
