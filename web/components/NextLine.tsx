import { useMemo } from 'react'
import { Button } from 'react-bootstrap'
import { Link, useLocation, useParams } from 'react-router'
import { nextStep } from '../../core/advice/nextStep.ts'
import { led } from '../store/choice.ts'
import { useDerived } from '../store/derived.ts'
import { useHints } from '../store/hints.ts'

const places = { kit: 'Kit', pins: 'Pins', bench: 'Bench', sheets: 'Sheets', 'bring-up': 'Bring-up' } as const

/** What to do next, in one line above every place; who knows the way switches it off for good. */
export function NextLine() {
  const { wiring, findings } = useDerived()
  const { id } = useParams()
  const { pathname } = useLocation()
  const isLed = led.useIsOn()
  const hints = useHints()
  const next = useMemo(() => nextStep(wiring, findings), [wiring, findings])
  if (!isLed || !hints || next.is === 'done') return null
  const isHere = pathname.split('/')[3] === next.place
  return (
    <section className="next-line" aria-label="What to do next">
      <span>
        <b>Next:</b> {next.text}
      </span>
      {!isHere && (
        <Link to={`/plan/${id}/${next.place}`} title={`to ${places[next.place]}`}>
          Go there
        </Link>
      )}
      <Button
        size="sm"
        variant="link"
        title="Do not say what to do next, in any plan; “?” brings it back"
        onClick={() => led.set(false)}
      >
        I know the way
      </Button>
    </section>
  )
}
