import { Button, Form } from 'react-bootstrap'
import type { ScriptStep } from '../../../core/rehearse/script.ts'
import type { RunData } from '../../workers/rehearsal.ts'

type HandleData = RunData['handles'][number]

/** Something outside that is moved at the moment where the cursor stands. */
export function HandleField(props: {
  readonly handle: HandleData
  readonly value: number
  readonly onSet: (written: string) => void
}) {
  const { handle, value, onSet } = props
  const { name, words, kind, least, most, unit } = handle
  if (kind === 'contact' || kind === 'level') {
    const next = value === 1 ? 0 : 1
    const label =
      kind === 'contact' ? (next === 1 ? `press ${name}` : `let go of ${name}`) : `${name} to ${words[next]}`
    return (
      <Button
        size="sm"
        variant={value === 1 ? 'dark' : 'outline-dark'}
        aria-pressed={value === 1}
        onClick={() => onSet(words[next]!)}
      >
        {label}
      </Button>
    )
  }
  if (words.length > 0)
    return (
      <Form.Select
        size="sm"
        aria-label={`${name} stands at`}
        value={words[Math.round(value)]}
        onChange={(event) => onSet(event.target.value)}
      >
        {words.map((word) => (
          <option key={word}>{word}</option>
        ))}
      </Form.Select>
    )
  if (kind === 'answer' || kind === 'turn')
    return (
      <Form.Control
        type="number"
        size="sm"
        aria-label={name}
        step={kind === 'turn' ? 1 : 'any'}
        defaultValue={value}
        key={value}
        onBlur={(event) => {
          if (event.target.value !== '' && Number(event.target.value) !== value) onSet(event.target.value)
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur()
        }}
      />
    )
  // What spans decades is turned by decades.
  const isWide = kind === 'resistance' || kind === 'distance'
  const toShare = (one: number): number =>
    isWide ? Math.log(one / least) / Math.log(most / least) : (one - least) / (most - least)
  const fromShare = (share: number): number =>
    isWide ? least * (most / least) ** share : least + share * (most - least)
  const written = (one: number): string =>
    kind === 'share' ? `${Math.round(one * 100)} %` : `${Number(one.toPrecision(3))} ${unit}`
  // Of a part that senses several things each says which.
  const [, sense] = name.split('.')
  return (
    <label className="handle-range">
      <input
        type="range"
        min="0"
        max="1"
        step="0.002"
        aria-label={name}
        aria-valuetext={written(value)}
        defaultValue={toShare(value)}
        key={value}
        onPointerUp={(event) => onSet(written(fromShare(Number(event.currentTarget.value))))}
        onKeyUp={(event) => onSet(written(fromShare(Number(event.currentTarget.value))))}
      />
      <span>
        {sense !== undefined && <span className="handle-sense">{sense} </span>}
        <span className="mono">{written(value)}</span>
      </span>
    </label>
  )
}

/** How a handle stands at a moment in seconds, by the steps before it. */
export function valueAt(handle: HandleData, steps: readonly ScriptStep[], seconds: number): number {
  const last = steps.filter((one) => one.at <= seconds && one.set?.[handle.name] !== undefined).at(-1)
  const written = last?.set?.[handle.name]
  if (written === undefined) return handle.value
  const index = handle.words.indexOf(String(written))
  if (index >= 0) return index
  const text = String(written)
  const number = Number.parseFloat(text)
  if (!Number.isFinite(number)) return handle.value
  return handle.kind === 'share' && text.includes('%') ? number / 100 : number
}
