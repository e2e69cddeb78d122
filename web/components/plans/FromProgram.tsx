import { useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { assignChoosing } from '../../../core/assign/choosing.ts'
import type { Language } from '../../../core/catalog/boardSchema.ts'
import type { Part } from '../../../core/catalog/partSchema.ts'
import { wantsOf } from '../../../core/firmware/guess/fitPins.ts'
import { type Gathered, gather } from '../../../core/firmware/guess/gather.ts'
import { type GivenPin, reasonWords } from '../../../core/firmware/guess/given.ts'
import { boardReasonWords, guessBoards } from '../../../core/firmware/guess/guessBoards.ts'
import { fitOf, guessParts } from '../../../core/firmware/guess/guessParts.ts'
import { type Answer, likeliest, planFrom } from '../../../core/firmware/guess/planFrom.ts'
import type { PartGuess } from '../../../core/firmware/guess/scoring.ts'
import { languageTitles } from '../../../core/firmware/pinNames.ts'
import type { SourceFile } from '../../../core/firmware/source/ir.ts'
import { applyEdits } from '../../../core/plan/edit.ts'
import type { Plan } from '../../../core/plan/planSchema.ts'
import { resolve } from '../../../core/wiring/resolve.ts'
import { useCatalog } from '../../store/derived.ts'

/** What the maker says of a group of pins: a part with its pins, or nothing of it. */
interface Said {
  readonly part: Part | undefined
  readonly mode: string | undefined
  readonly pins: ReadonlyMap<string, GivenPin>
}

interface FromProgramProps {
  readonly files: readonly SourceFile[]
  readonly language: Language
  readonly onPlan: (plan: Plan) => void
  readonly onClose: () => void
}

/** A plan from a program: board and parts as far as its names and calls tell, the rest asked. */
export function FromProgram({ files, language, onPlan, onClose }: FromProgramProps) {
  const catalog = useCatalog()
  const boards = useMemo(() => guessBoards(catalog, files, language), [catalog, files, language])
  const [id, setId] = useState(boards[0]?.board.id)
  const guessed = boards.find(({ board }) => board.id === id) ?? boards[0]
  const gathered = useMemo(
    () => guessed && gather(catalog, guessed.board, files, language),
    [catalog, guessed, files, language],
  )
  const name = files[0]?.name ?? ''
  if (!guessed || !gathered) return <p role="alert">No board of the catalogue is programmed in {language}.</p>
  return (
    <section className="from-program" aria-labelledby="from-program">
      <div className="d-flex flex-wrap align-items-center gap-3">
        <h1 id="from-program">A plan from {name}</h1>
        <span className="soft">
          {languageTitles[language]}
          {files.length > 1 ? `, ${files.length} files` : ''}; read here, not run
        </span>
      </div>
      <Form.Group className="from-board" controlId="from-board">
        <Form.Label>Board</Form.Label>
        <Form.Select value={guessed.board.id} onChange={(event) => setId(event.target.value)}>
          {boards.map(({ board }) => (
            <option key={board.id} value={board.id}>
              {board.title}
            </option>
          ))}
        </Form.Select>
        <span className={guessed.reasons.some(({ kind }) => kind === 'none' || kind === 'cannot') ? 'hurt' : 'soft'}>
          {guessed.reasons.map(boardReasonWords).join('; ') ||
            'Nothing in the program says which; this is the most common one that fits.'}
        </span>
      </Form.Group>
      <Asked
        key={guessed.board.id}
        gathered={gathered}
        files={files}
        onPlan={(answers, all) => {
          const plan = planFrom(catalog, titleOf(name), guessed.board, gathered, answers)
          onPlan(all ? applyEdits(plan, assignChoosing(resolve(plan, catalog)).edits) : plan)
        }}
        onClose={onClose}
      />
    </section>
  )
}

/** `crossing_gate.ino` is a “crossing gate”. */
const titleOf = (name: string): string => {
  const bare = name
    .replace(/\.[^.]*$/, '')
    .replace(/[_-]+/g, ' ')
    .trim()
  return bare === '' ? 'A plan' : bare[0]?.toUpperCase() + bare.slice(1)
}

function Asked({
  gathered,
  files,
  onPlan,
  onClose,
}: {
  readonly gathered: Gathered
  readonly files: readonly SourceFile[]
  readonly onPlan: (answers: readonly Answer[], all: boolean) => void
  readonly onClose: () => void
}) {
  const guesses = useMemo(() => guessParts(gathered, files), [gathered, files])
  const [said, setSaid] = useState<ReadonlyMap<string, Said>>(
    () => new Map(likeliestOf(guesses.filter(({ sure }) => sure))),
  )
  const [all, setAll] = useState(true)
  const say = (guess: PartGuess, one: Said): void => setSaid(new Map([...said, [guess.id, one]]))
  const open = guesses.filter(({ id }) => !said.has(id))
  const answers = guesses.flatMap((guess): Answer[] => {
    const one = said.get(guess.id)
    return one?.part ? [{ guess, part: one.part, mode: one.mode, pins: one.pins }] : []
  })
  return (
    <>
      {gathered.none.length > 0 && (
        <p role="alert" className="hurt">
          {gathered.none.join(', ')} {gathered.none.length === 1 ? 'is no pin' : 'are no pins'} of this board.
        </p>
      )}
      {guesses.length === 0 ? (
        <p>The program sets no pin and begins no bus that could be followed: the plan will hold the board alone.</p>
      ) : (
        <table className="from-parts">
          <caption>What it drives and reads; what the program does not tell is asked.</caption>
          <thead>
            <tr>
              <th>In the program</th>
              <th>What it is</th>
              <th>Pins</th>
            </tr>
          </thead>
          <tbody>
            {guesses.map((guess) => (
              <Row
                key={guess.id}
                guess={guess}
                gathered={gathered}
                line={lineOf(files, guess)}
                said={said.get(guess.id)}
                onSaid={(one) => say(guess, one)}
              />
            ))}
          </tbody>
        </table>
      )}
      <Form.Check
        id="from-all"
        className="mt-3"
        checked={all}
        onChange={(event) => setAll(event.target.checked)}
        label="Wire what stands in no program as well: supplies, grounds, resistors, and lines that are still open"
      />
      <div className="from-end">
        <Button variant="dark" onClick={() => onPlan(answers, all)}>
          Make the plan
        </Button>
        <span role="status">
          {answers.length} {answers.length === 1 ? 'part' : 'parts'}
          {open.length > 0 ? `, ${open.length} not said and left out` : ''}
        </span>
        {open.some(({ candidates }) => candidates.length > 0) && (
          <Button variant="outline-dark" onClick={() => setSaid(new Map([...said, ...likeliestOf(open)]))}>
            Take the likeliest for these
          </Button>
        )}
        <Button variant="link" onClick={onClose}>
          Leave it
        </Button>
      </div>
    </>
  )
}

/** What is likeliest of some groups, by their ids. */
const likeliestOf = (guesses: readonly PartGuess[]): [string, Said][] =>
  guesses.flatMap((guess): [string, Said][] => {
    const one = likeliest(guess)
    return one ? [[guess.id, one]] : []
  })

function lineOf(files: readonly SourceFile[], { at }: PartGuess): string {
  const text = files[at.file]?.text ?? ''
  const from = text.lastIndexOf('\n', at.from - 1) + 1
  const to = text.indexOf('\n', at.from)
  return at.to === 0 ? '' : text.slice(from, to < 0 ? undefined : to).trim()
}

const NOTHING = '-'

function Row({
  guess,
  gathered,
  line,
  said,
  onSaid,
}: {
  readonly guess: PartGuess
  readonly gathered: Gathered
  readonly line: string
  readonly said: Said | undefined
  readonly onSaid: (one: Said) => void
}) {
  const catalog = useCatalog()
  const likely = guess.candidates.map(({ part }) => part)
  const rest = useMemo(
    () =>
      [...catalog.parts.values()]
        .filter((part) => part.signals.length > 0 || part.modes.length > 0)
        .sort((a, b) => a.title.localeCompare(b.title, 'en')),
    [catalog],
  )
  const choose = (id: string): void => {
    const part = catalog.parts.get(id)
    if (!part) onSaid({ part: undefined, mode: undefined, pins: new Map() })
    else {
      const { mode, fit } = fitOf(gathered, guess, part)
      onSaid({ part, mode, pins: fit.pins })
    }
  }
  return (
    <tr className={said ? '' : 'open'}>
      <td>
        <b>{guess.title}</b>
        {line !== '' && <code title={line}>{line}</code>}
      </td>
      <td>
        <Form.Select
          size="sm"
          aria-label={`What ${guess.title} is`}
          value={said ? (said.part?.id ?? NOTHING) : ''}
          onChange={(event) => choose(event.target.value)}
        >
          {!said && <option value="">What is it?</option>}
          {likely.length > 0 && (
            <optgroup label="Likely">
              {likely.map((part) => (
                <option key={part.id} value={part.id}>
                  {part.title}
                </option>
              ))}
            </optgroup>
          )}
          <option value={NOTHING}>Nothing for this plan</option>
          <optgroup label="Other parts">
            {rest
              .filter((part) => !likely.includes(part))
              .map((part) => (
                <option key={part.id} value={part.id}>
                  {part.title}
                </option>
              ))}
          </optgroup>
        </Form.Select>
        <span className="soft">{guess.reasons.slice(0, 3).map(reasonWords).join('; ')}</span>
      </td>
      <td>
        <Pins guess={guess} gathered={gathered} said={said} onSaid={onSaid} />
      </td>
    </tr>
  )
}

/** Which pin of the program is which of the part's. */
function Pins({
  guess,
  gathered,
  said,
  onSaid,
}: {
  readonly guess: PartGuess
  readonly gathered: Gathered
  readonly said: Said | undefined
  readonly onSaid: (one: Said) => void
}) {
  const bus = guess.bus && (
    <span className="from-pin">
      {guess.bus.object}
      <i> {[...guess.bus.pins].map(([signal, pin]) => `${signal.toUpperCase()} ${pin}`).join(', ')}</i>
    </span>
  )
  if (!said?.part)
    return (
      <>
        {guess.pins.map((pin) => (
          <span key={pin.pin.id} className="from-pin">
            {pin.written}
          </span>
        ))}
        {bus}
      </>
    )
  const wants = wantsOf(gathered, said.part, said.mode)
  const signals = wants.plain.map(({ facts }) => facts.pin)
  const move = (given: GivenPin, signal: string): void => {
    const before = [...said.pins].find(([, one]) => one === given)?.[0]
    const pins = new Map(said.pins)
    const other = pins.get(signal)
    if (before !== undefined) pins.delete(before)
    // Who had it takes the place that is free now.
    if (other && before !== undefined) pins.set(before, other)
    if (signal !== '') pins.set(signal, given)
    onSaid({ ...said, pins })
  }
  return (
    <>
      {guess.pins.map((given) => (
        <span key={given.pin.id} className="from-pin">
          {given.written}
          <Form.Select
            size="sm"
            aria-label={`Pin of ${said.part?.title} on ${given.written}`}
            value={[...said.pins].find(([, one]) => one.pin.id === given.pin.id)?.[0] ?? ''}
            onChange={(event) => move(given, event.target.value)}
          >
            {signals.map((signal) => (
              <option key={signal}>{signal}</option>
            ))}
            <option value="">none</option>
          </Form.Select>
        </span>
      ))}
      {wants.bus && bus}
    </>
  )
}
