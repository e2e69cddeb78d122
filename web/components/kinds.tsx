import { busNeed } from '../../core/wiring/buses.ts'
import { drives, needWords } from '../../core/wiring/needs.ts'

/** Letter and shape of a kind of signal, so that nothing is told by colour alone. */
export function kindOf(need: string): { letter: string; shape: string; words: string } {
  const bus = busNeed(need)
  const words = needWords(need)
  if (bus)
    return {
      letter: { i2c: 'I', spi: 'S', uart: 'U', i2s: 'M', onewire: 'W', can: 'C' }[bus.kind],
      shape: 'bus',
      words,
    }
  const letter =
    {
      'digital-in': 'D',
      'digital-out': 'O',
      pwm: 'P',
      interrupt: 'E',
      'analog-in': 'A',
      'analog-out': 'N',
      touch: 'T',
      sink: 'X',
      source: 'X',
      bridge: 'X',
    }[need] ?? 'D'
  return { letter, shape: need === 'interrupt' ? 'edge' : '', words }
}

/** Which way a flag points: away from the board for an output, towards it for an input, both for a two-way line. */
export function directionOf(need: string): 'away' | 'toward' | 'both' {
  if (need === 'i2c.sda' || need === 'onewire.dq') return 'both'
  return drives(need) || need === 'sink' || need === 'bridge' ? 'away' : 'toward'
}

export function KindMark({ need }: { need: string }) {
  const { letter, shape, words } = kindOf(need)
  return (
    <span className={`kind ${shape}`} title={words}>
      <span aria-hidden="true">{letter}</span>
      <span className="visually-hidden">{words}</span>
    </span>
  )
}
