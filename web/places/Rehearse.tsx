import { useEffect, useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useParams } from 'react-router'
import { formatProblem } from '../../core/base/problem.ts'
import { languageTitles } from '../../core/firmware/pinNames.ts'
import { doneWords, expectWords } from '../../core/plan/stepWords.ts'
import type { SourceFile } from '../../core/rehearse/cpp/preprocess.ts'
import { dialectOf } from '../../core/rehearse/program.ts'
import { readScript } from '../../core/rehearse/script.ts'
import { Trace, writeVcd } from '../../core/rehearse/stage/trace.ts'
import type { BoardInstance } from '../../core/wiring/model.ts'
import { BoardChoice } from '../components/bringup/BoardChoice.tsx'
import { fileName, saveAs } from '../components/bringup/takeAway.ts'
import { HandleField, valueAt } from '../components/rehearse/HandleField.tsx'
import { ProgramText } from '../components/rehearse/ProgramText.tsx'
import { arranged, clockWords, isLively, lastAt, type RowOrder, rowsOf } from '../components/rehearse/rows.ts'
import { Ruler, Score } from '../components/rehearse/Score.tsx'
import { nextStep, type Rehearsal, type Stepped, useKept, useRehearsal } from '../components/rehearse/useRehearsal.ts'
import { readSources, sourceEndings } from '../components/sources.ts'
import { useFileDrop } from '../components/useFileDrop.ts'
import { useDerived, usePlan } from '../store/derived.ts'
import { useAppDispatch, useAppSelector } from '../store/store.ts'
import { toasted } from '../store/toastSlice.ts'
import type { RunData } from '../workers/rehearsal.ts'

/** Would my program work on this wiring? */
export function Rehearse() {
  const { id = '' } = useParams()
  const { wiring } = useDerived()
  const dispatch = useAppDispatch()
  const [picked, setPicked] = useState<string>()
  const kept = useKept(id)
  const { programs } = kept
  const taking = (program: readonly SourceFile[]): readonly BoardInstance[] =>
    wiring.boards.filter(({ board }) => program.length === 0 || dialectOf(board, program))
  const { boards } = wiring
  const board = boards.find(({ ref }) => ref === picked) ?? boards.find(({ ref }) => programs[ref]) ?? boards[0]
  const files = (board && programs[board.ref]) ?? []
  const rehearsal = useRehearsal(kept, board)
  const { run, trouble, busy } = rehearsal
  const say = (text: string): void => void dispatch(toasted({ text, kind: 'wrong' }))
  const take = async (given: readonly File[]): Promise<void> => {
    const scripts = given.filter(({ name }) => /\.ya?ml$/i.test(name))
    const sources = given.filter((file) => !scripts.includes(file))
    for (const file of scripts) {
      const read = readScript(await file.text(), file.name)
      if (read.ok) {
        const { steps, seconds = rehearsal.seconds, from } = read.value
        kept.change({ steps, seconds, from }, `Take in ${file.name}`)
      } else say(read.problems.map(formatProblem).join('; '))
    }
    if (sources.length === 0) return
    const read = await readSources(sources)
    if ('trouble' in read) {
      say(read.trouble)
      return
    }
    const able = taking(read.files)
    const to = able.find((one) => one === board) ?? able[0]
    if (!to) {
      say(`No board of this plan is programmed in ${languageTitles[read.language]}.`)
      return
    }
    if (kept.give(to.ref, read.files)) setPicked(to.ref)
  }
  const { over, drop } = useFileDrop(take)
  return (
    <div className={`rehearse ${over ? 'over' : ''}`} {...drop}>
      <header className="rehearse-head">
        <h1>{files.length === 0 ? 'Rehearse' : files.map(({ name }) => name).join(', ')}</h1>
        <Form.Control
          type="file"
          size="sm"
          multiple
          accept={`${sourceEndings},.yaml,.yml`}
          aria-label="Files of the program, or a script"
          onChange={(event) => {
            const input = event.target as HTMLInputElement
            const given = [...(input.files ?? [])]
            input.value = ''
            if (given.length > 0) void take(given)
          }}
        />
        {files.length > 0 && (
          <Button size="sm" variant="outline-dark" onClick={() => board && kept.give(board.ref, [])}>
            Put it away
          </Button>
        )}
        {board && <BoardChoice boards={boards} chosen={board} onChosen={setPicked} />}
        <span className="runs-for soft">
          runs{' '}
          <Form.Control
            type="number"
            size="sm"
            min={1}
            max={600}
            defaultValue={rehearsal.seconds}
            key={rehearsal.seconds}
            aria-label="Seconds to run"
            onBlur={(event) => {
              const next = Number(event.target.value)
              if (next >= 0.1 && next <= 600) kept.change({ seconds: next }, `Run for ${next} s`)
              else say(`${event.target.value}: expected 0.1 to 600 seconds`)
            }}
          />{' '}
          s
        </span>
        <span className="soft" role="status">
          {busy ? 'running …' : ''}
        </span>
      </header>
      {trouble && (
        <p className="text-danger" role="alert">
          {trouble.line > 0 ? `${trouble.file}, line ${trouble.line}: ` : `${trouble.file}: `}
          {trouble.message}
        </p>
      )}
      {!board ? (
        <p>This plan has no board yet.</p>
      ) : files.length === 0 ? (
        <div className="rehearse-empty">
          <p>
            Choose the files of your program, in C++ or Python, or drop them here: it runs on the wiring of this plan,
            in a time of its own. Lines show their levels, lamps light, echoes come back; you press, turn and set what
            the parts sense, and what does not work is said with its line. The program is kept in the plan.
          </p>
          {boards.length > 1 && (
            <p>
              Each board has its own program: choose the board, then its files. All that have one run together, over the
              wires, serial lines and radios between them.
            </p>
          )}
        </div>
      ) : (
        run && <Run key={`${id} ${board.ref}`} run={run} rehearsal={rehearsal} />
      )}
    </div>
  )
}

const SPEEDS = [0.1, 0.25, 1, 4] as const

function Run({ run, rehearsal }: { readonly run: RunData; readonly rehearsal: Rehearsal }) {
  const { wiring } = useDerived()
  const plan = usePlan()
  const { files, steps } = rehearsal
  const [cursor, setCursor] = useState(0)
  const [plays, setPlays] = useState(false)
  const [speed, setSpeed] = useState<number>(1)
  const [zoom, setZoom] = useState(1)
  const [typed, setTyped] = useState('')
  const [showsAll, setShowsAll] = useState(true)
  /** The statement at which the cursor was put. */
  const [picked, setPicked] = useState<Stepped>()
  const [order, setOrder] = useState<RowOrder>({ first: [], folded: new Set() })
  const rows = useMemo(
    () =>
      arranged(
        rowsOf(wiring, run).filter((row) => showsAll || isLively(row)),
        order,
      ),
    [wiring, run, showsAll, order],
  )
  const all = run.seconds * 1e6
  const span = all / zoom
  const from = Math.min(Math.max(0, cursor - span / 2), all - span)
  const window = useMemo(
    () => ({ from: zoom === 1 ? 0 : from, to: zoom === 1 ? all : from + span }),
    [zoom, from, span, all],
  )
  usePlaying(plays, speed, all, setCursor, () => setPlays(false))
  const moments = useMemo(
    () => [...new Set(run.lines.flatMap(([, changes]) => changes.map(({ at }) => at)))].sort((a, b) => a - b),
    [run],
  )
  const at = Number((cursor / 1e6).toFixed(3))
  const hurt = useMemo(
    () => new Set(run.findings.filter(({ severity }) => severity === 'fault').flatMap((one) => one.at)),
    [run],
  )
  const line = picked && picked.at === cursor ? picked : lastAt(run.path, cursor)
  const printed = run.printed.filter((one) => one.at <= cursor)
  const wanted = useAppSelector((state) => state.rehearsal.wanted)
  useEffect(() => {
    if (!wanted) return
    setPlays(false)
    setCursor(Math.min(all, wanted.at))
  }, [wanted, all])
  /** The next of some moments, or the end. */
  const goOn = (next: number | undefined): void => {
    setPlays(false)
    setCursor(next ?? all)
  }
  const nextStatement = async (): Promise<void> => {
    const known = nextStep(rehearsal.stepped, cursor)
    const found = known ?? nextStep((await rehearsal.stepFrom(cursor)) ?? [], cursor)
    setPicked(found)
    goOn(found?.at)
  }
  return (
    <>
      <div className="rehearse-tools">
        <Button
          size="sm"
          variant="dark"
          onClick={() => {
            if (cursor >= all) setCursor(0)
            setPlays(!plays)
          }}
        >
          {plays ? 'Hold' : 'Play'}
        </Button>
        <Button
          size="sm"
          variant="outline-dark"
          onClick={() => setCursor(moments.filter((one) => one < cursor - 0.5).at(-1) ?? 0)}
        >
          Back a change
        </Button>
        <Button
          size="sm"
          variant="outline-dark"
          onClick={() => setCursor(moments.find((one) => one > cursor + 0.5) ?? all)}
        >
          Until a line changes
        </Button>
        <Button size="sm" variant="outline-dark" onClick={() => void nextStatement()}>
          Next statement
        </Button>
        {run.rounds.length > 0 && (
          <Button size="sm" variant="outline-dark" onClick={() => goOn(run.rounds.find((one) => one > cursor + 0.5))}>
            Next loop
          </Button>
        )}
        <Form.Select
          size="sm"
          aria-label="Speed"
          value={speed}
          onChange={(event) => setSpeed(Number(event.target.value))}
        >
          {SPEEDS.map((one) => (
            <option key={one} value={one}>
              × {one}
            </option>
          ))}
        </Form.Select>
        <input
          type="range"
          className="cursor-range"
          aria-label="Moment"
          aria-valuetext={clockWords(cursor)}
          min={0}
          max={all}
          step={Math.max(1, all / 1000)}
          value={cursor}
          onChange={(event) => setCursor(Number(event.target.value))}
        />
        <output className="mono">{clockWords(cursor)}</output>
        <Button size="sm" variant="outline-dark" aria-label="Closer" onClick={() => setZoom(zoom * 2)}>
          +
        </Button>
        <Button
          size="sm"
          variant="outline-dark"
          aria-label="Further"
          disabled={zoom === 1}
          onClick={() => setZoom(Math.max(1, zoom / 2))}
        >
          −
        </Button>
      </div>
      <div className="rehearse-ruler">
        <Form.Check
          type="checkbox"
          id="rehearse-lively"
          className="lively"
          label="only what moves"
          checked={!showsAll}
          onChange={({ target }) => setShowsAll(!target.checked)}
        />
        <Ruler window={window} />
      </div>
      <Score
        rows={rows}
        window={window}
        cursor={cursor}
        hurt={hurt}
        onFold={(block) => {
          const folded = new Set(order.folded)
          if (!folded.delete(block)) folded.add(block)
          setOrder({ ...order, folded })
        }}
        onTop={(block) => setOrder({ ...order, first: [block, ...order.first.filter((one) => one !== block)] })}
        onCursor={(to) => {
          setPlays(false)
          setCursor(to)
        }}
        onExpect={(ref, words) => rehearsal.put({ at, expect: { [ref]: expectable(words) } })}
        handleOf={(name) => {
          const handle = run.handles.find((one) => one.name === name)
          return (
            handle && (
              <HandleField
                key={name}
                handle={handle}
                value={valueAt(handle, steps, at)}
                onSet={(written) => rehearsal.put({ at, set: { [name]: written } })}
              />
            )
          )
        }}
      />
      <div className="rehearse-below">
        <ProgramText files={files} at={line} findings={run.findings} />
        <section className="serial" aria-label="Serial line">
          <h2>Serial</h2>
          <ol className="mono" tabIndex={0}>
            {printed.slice(-200).map((one, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a line of text is its place
              <li key={index}>{one.text === '' ? '\u00a0' : one.text}</li>
            ))}
          </ol>
          <Form
            onSubmit={(event) => {
              event.preventDefault()
              if (typed !== '') rehearsal.put({ at, type: typed })
              setTyped('')
            }}
          >
            <Form.Control
              size="sm"
              aria-label="Type into the serial line"
              placeholder="type at this moment"
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
            />
          </Form>
        </section>
        <section className="steps" aria-label="What is done meanwhile">
          <h2>Script</h2>
          {steps.length === 0 && (
            <p className="soft">
              Press, turn or set something at any moment: it is written here, and can be taken along.
            </p>
          )}
          <ol>
            {steps.map((step) => (
              <li key={JSON.stringify(step)}>
                <button type="button" className="mono" onClick={() => setCursor(step.at * 1e6)}>
                  {step.at.toFixed(3)}
                </button>{' '}
                {stepWords(step)}
                <Outcome run={run} step={step} />
                <button
                  type="button"
                  className="drop"
                  aria-label={`Take out: ${stepWords(step)}`}
                  onClick={() => rehearsal.drop(step)}
                >
                  ×
                </button>
              </li>
            ))}
          </ol>
          <div className="take-along">
            <Button
              size="sm"
              variant="outline-dark"
              onClick={() => saveAs(fileName(plan.title, '.rehearsal.yaml'), rehearsal.text())}
            >
              Keep the script
            </Button>
            <Button size="sm" variant="outline-dark" onClick={() => saveAs(fileName(plan.title, '.vcd'), vcdOf(run))}>
              Traces as VCD
            </Button>
          </div>
        </section>
      </div>
      <p className="rehearse-foot mono">
        longest deaf{' '}
        <b>
          {run.longest.seconds < 0.1
            ? `${(run.longest.seconds * 1000).toFixed(1)} ms`
            : `${run.longest.seconds.toFixed(2)} s`}
        </b>
        {run.longest.line > 0 && `, line ${run.longest.line}`}
        {run.loops > 0 && (
          <>
            {' '}
            · loop <b>{(run.loops / run.seconds).toFixed(1)}</b> a second
          </>
        )}{' '}
        · {run.statements.toLocaleString('en')} statements
      </p>
    </>
  )
}

/** A lamp that is on is expected on, whatever its current. */
const expectable = (words: string): string => (/^(on|off)\b/.test(words) ? words.split(/\W/)[0]! : words.split(',')[0]!)

const stepWords = (step: Rehearsal['steps'][number]): string =>
  [doneWords(step), expectWords(step)].filter(Boolean).join(', ')

function Outcome({ run, step }: { readonly run: RunData; readonly step: Rehearsal['steps'][number] }) {
  if (!step.expect) return null
  const own = run.expectations.filter(
    (one) =>
      one.seconds === step.at &&
      Object.entries(step.expect ?? {}).some(([end, value]) => one.what === `${end} ${value}`),
  )
  const missed = own.find(({ came }) => !came)
  return own.length === 0 ? null : (
    <b className={missed ? 'text-danger' : 'came'}>{missed ? ` missed: ${missed.found}` : ' came'}</b>
  )
}

function vcdOf(run: RunData): string {
  const trace = new Trace()
  for (const [end, changes] of run.lines) trace.lines.set(end, [...changes])
  return writeVcd(trace, run.seconds * 1e6)
}

/** Lets the cursor run, so many seconds of the run a second. */
function usePlaying(
  plays: boolean,
  speed: number,
  all: number,
  setCursor: (by: (now: number) => number) => void,
  onEnd: () => void,
): void {
  useEffect(() => {
    if (!plays) return
    let frame = 0
    let before = performance.now()
    const tick = (now: number): void => {
      const by = (now - before) * 1000 * speed
      before = now
      setCursor((cursor) => {
        const next = cursor + by
        if (next >= all) onEnd()
        return Math.min(all, next)
      })
      frame = requestAnimationFrame(tick)
    }
    frame = requestAnimationFrame(tick)
    return () => cancelAnimationFrame(frame)
  })
}
