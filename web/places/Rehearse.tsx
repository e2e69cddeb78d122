import { useEffect, useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useParams } from 'react-router'
import { formatProblem } from '../../core/base/problem.ts'
import { languageTitles } from '../../core/firmware/pinNames.ts'
import type { SourceFile } from '../../core/rehearse/cpp/preprocess.ts'
import { dialectOf } from '../../core/rehearse/program.ts'
import { readScript } from '../../core/rehearse/script.ts'
import type { BoardInstance } from '../../core/wiring/model.ts'
import { BoardChoice } from '../components/bringup/BoardChoice.tsx'
import { HandleField, valueAt } from '../components/rehearse/HandleField.tsx'
import { ProgramText } from '../components/rehearse/ProgramText.tsx'
import { RunFoot, RunTools } from '../components/rehearse/RunTools.tsx'
import { arranged, isLively, lastAt, type RowOrder, rowsOf } from '../components/rehearse/rows.ts'
import { Ruler, Score } from '../components/rehearse/Score.tsx'
import { ScriptPane } from '../components/rehearse/ScriptPane.tsx'
import { SerialPane } from '../components/rehearse/SerialPane.tsx'
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

function Run({ run, rehearsal }: { readonly run: RunData; readonly rehearsal: Rehearsal }) {
  const { wiring } = useDerived()
  const plan = usePlan()
  const { files, steps } = rehearsal
  const [cursor, setCursor] = useState(0)
  const [plays, setPlays] = useState(false)
  const [speed, setSpeed] = useState<number>(1)
  const [zoom, setZoom] = useState(1)
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
      <RunTools
        run={run}
        moments={moments}
        cursor={cursor}
        plays={plays}
        speed={speed}
        zoom={zoom}
        onPlay={setPlays}
        onSpeed={setSpeed}
        onZoom={setZoom}
        onCursor={setCursor}
        onNext={goOn}
        onStatement={() => void nextStatement()}
      />
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
        <SerialPane printed={printed} onType={(text) => rehearsal.put({ at, type: text })} />
        <ScriptPane title={plan.title} run={run} rehearsal={rehearsal} onGo={setCursor} />
      </div>
      <RunFoot run={run} />
    </>
  )
}

/** A lamp that is on is expected on, whatever its current. */
const expectable = (words: string): string => (/^(on|off)\b/.test(words) ? words.split(/\W/)[0]! : words.split(',')[0]!)

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
