import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { counted } from '../../../core/base/counted.ts'
import { boardFacts, countingHint, type PinFacts } from '../../../core/catalog/boardFacts.ts'
import type { Board } from '../../../core/catalog/boardSchema.ts'
import { layoutPosts, type PostLine } from '../../../core/sheets/postLayout.ts'

const numberings = [
  { id: 'label', title: 'printed on the board', of: (pin: PinFacts) => pin.label ?? pin.id },
  { id: 'firmware', title: 'firmware name', of: (pin: PinFacts) => pin.firmware ?? '' },
  { id: 'port', title: 'chip’s port', of: (pin: PinFacts) => pin.port ?? '' },
  { id: 'position', title: 'header position', of: (pin: PinFacts) => `${pin.header.id}#${pin.position}` },
  { id: 'analog', title: 'analog channel', of: (pin: PinFacts) => pin.analog ?? '' },
  { id: 'id', title: 'name in plans', of: (pin: PinFacts) => pin.id },
] as const

const abilities = [
  ['digital-out', 'O', 'output'],
  ['pwm', 'P', 'PWM'],
  ['interrupt', 'E', 'edge interrupt'],
  ['analog-in', 'A', 'analog in'],
  ['analog-out', 'N', 'analog out'],
  ['touch', 'T', 'touch'],
  ['pull-up', 'H', 'pull-up inside'],
  ['i2c', 'I', 'I2C'],
  ['spi', 'S', 'SPI'],
  ['uart', 'U', 'UART'],
] as const

/** True when a pin has a plain function, or reaches a controller of a kind. */
function can(pin: PinFacts, ability: string): boolean {
  if (pin.functions.has(ability)) return true
  if (!['i2c', 'spi', 'uart'].includes(ability)) return false
  for (const name of pin.functions) if (name.startsWith(ability) && name.includes('.')) return true
  return false
}

/** A board's pins where they stand, in any numbering, with those marked that can do what is asked. */
export function PinChart({ board }: { board: Board }) {
  const [numbering, setNumbering] = useState<string>('label')
  const [wanted, setWanted] = useState<readonly string[]>([])
  const [shown, setShown] = useState<string>()
  const facts = boardFacts(board)
  const { left, right } = layoutPosts(facts)
  const name = numberings.find((one) => one.id === numbering)?.of ?? numberings[0].of
  const kinds = abilities.filter(([id]) => facts.pins.some((pin) => can(pin, id)))
  const fits = (pin: PinFacts): boolean => pin.kind === 'io' && wanted.every((ability) => can(pin, ability))
  const pin = facts.pin(shown ?? '') ?? facts.pins[0]
  const count = facts.pins.filter((one) => one.id === one.net && fits(one)).length
  const column = (lines: readonly PostLine[], side: 'left' | 'right') => (
    <div className={`chart-column ${side}`}>
      {lines.map((line) =>
        line.kind === 'title' ? (
          <div key={line.text} className="chart-head">
            {line.text}
          </div>
        ) : (
          <button
            key={line.pin.id}
            type="button"
            className={`chart-pin ${line.pin.kind} ${wanted.length > 0 && fits(line.pin) ? 'fits' : ''} ${wanted.length > 0 && !fits(line.pin) ? 'not' : ''} ${line.pin === pin ? 'picked' : ''}`}
            aria-pressed={line.pin === pin}
            onClick={() => setShown(line.pin.id)}
            onFocus={() => setShown(line.pin.id)}
            onMouseEnter={() => setShown(line.pin.id)}
          >
            <span className="name">{name(line.pin) || '–'}</span>
            <span className="cells" aria-hidden="true">
              {kinds.map(([id, letter]) => (
                <i key={id} className={can(line.pin, id) ? '' : 'no'}>
                  {can(line.pin, id) ? letter : ''}
                </i>
              ))}
            </span>
            {line.pin.cautions.length > 0 && (
              <span className="warn" title={line.pin.cautions.map((one) => one.text).join(' ')}>
                !<span className="visually-hidden">has a caution</span>
              </span>
            )}
            {line.pin.solder && <span className="soft">solder</span>}
          </button>
        ),
      )}
    </div>
  )
  return (
    <section aria-label="Pin chart" className="chart">
      <div className="chart-tools">
        <Form.Select
          size="sm"
          value={numbering}
          onChange={(event) => setNumbering(event.target.value)}
          aria-label="Numbering"
        >
          {numberings
            .filter((one) => facts.pins.some((each) => one.of(each) !== ''))
            .map((one) => (
              <option key={one.id} value={one.id}>
                {one.title}
              </option>
            ))}
        </Form.Select>
        <fieldset>
          <legend className="visually-hidden">Only pins that can</legend>
          {kinds.map(([id, letter, title]) => (
            <label key={id} className={`chip ${wanted.includes(id) ? 'on' : ''}`}>
              <input
                type="checkbox"
                checked={wanted.includes(id)}
                onChange={() => setWanted(wanted.includes(id) ? wanted.filter((one) => one !== id) : [...wanted, id])}
              />
              <b>{letter}</b> {title}
            </label>
          ))}
        </fieldset>
        <span role="status" className="soft">
          {wanted.length > 0 ? `${counted(count, 'pin')} ${count === 1 ? 'fits' : 'fit'}` : ''}
        </span>
      </div>
      <div className="chart-body">
        {column(left, 'left')}
        <div className="chart-board" aria-hidden="true">
          <span>{board.mcu}</span>
        </div>
        {column(right, 'right')}
        {pin && <PinNote pin={pin} />}
      </div>
    </section>
  )
}

function PinNote({ pin }: { pin: PinFacts }) {
  const buses = [...pin.functions].filter((name) => name.includes('.'))
  const plain = [...pin.functions].filter((name) => !name.includes('.'))
  return (
    <div className="pin-note" aria-live="polite">
      <h2 className="mono">{pin.id}</h2>
      <p>{countingHint(pin)}</p>
      <dl>
        <dt>Names</dt>
        <dd className="mono">{pin.allNames.join(', ')}</dd>
        {plain.length > 0 && (
          <>
            <dt>Can</dt>
            <dd>{plain.join(', ')}</dd>
          </>
        )}
        {buses.length > 0 && (
          <>
            <dt>Reaches</dt>
            <dd className="mono">
              {buses.slice(0, 14).join(' ')}
              {buses.length > 14 ? ` and ${buses.length - 14} more` : ''}
            </dd>
          </>
        )}
        {pin.cautions.map((caution) => (
          <div key={caution.id + caution.text} className="caution-line">
            <dt>Caution</dt>
            <dd>{caution.text}</dd>
          </div>
        ))}
        {pin.note && (
          <>
            <dt>Note</dt>
            <dd>{pin.note}</dd>
          </>
        )}
      </dl>
    </div>
  )
}
