import { useMemo, useState } from 'react'
import { Button, Form, ProgressBar, Spinner } from 'react-bootstrap'
import { keepPlaces } from '../../core/breadboard/moving.ts'
import type { Layout } from '../../core/breadboard/workbench.ts'
import type { Edit } from '../../core/plan/edit.ts'
import type { BenchPlace } from '../../core/plan/planSchema.ts'
import { benchPicture } from '../../core/sheets/benchPicture.ts'
import type { Pose } from '../../core/sheets/ink.ts'
import { makeSheet } from '../../core/sheets/sheet.ts'
import { BenchView } from '../components/bench/BenchView.tsx'
import { BreadboardList, PlacingTools } from '../components/bench/BreadboardList.tsx'
import { BuildPanel } from '../components/bench/BuildPanel.tsx'
import { type BuildItem, buildItems } from '../components/bench/buildItems.ts'
import { useBench } from '../store/bench.tsx'
import { benchTools } from '../store/choice.ts'
import { useDerived, usePlan } from '../store/derived.ts'
import { editPlan as edit, editLate } from '../store/desk.ts'
import { useAppDispatch, useAppSelector } from '../store/store.ts'
import { toasted } from '../store/toastSlice.ts'
import { answerOf, useSearch } from '../store/useSearch.ts'

/** Where does it go on the breadboard? */
export function Bench() {
  const plan = usePlan()
  const { layout, share, trouble } = useBench()
  if (Object.keys(plan.bench?.breadboards ?? {}).length === 0) return <EmptyBench />
  if (trouble !== undefined)
    return (
      <div className="bench-empty">
        <h1>The bench cannot be laid out</h1>
        <p>{trouble}</p>
      </div>
    )
  if (!layout)
    return (
      <div className="bench-empty">
        <Spinner animation="border" role="status" aria-label="Laying the bench out" />
        <ProgressBar now={(share ?? 0) * 100} aria-label="How far the layout is" />
      </div>
    )
  return <LaidBench />
}

function EmptyBench() {
  const plan = usePlan()
  const client = useSearch()
  const [share, setShare] = useState<number>()
  const empty = Object.keys(plan.boards).length + Object.keys(plan.parts).length === 0
  const suggest = async (): Promise<void> => {
    setShare(0)
    try {
      const edits = await answerOf(client.suggestBreadboards(plan, setShare))
      if (edits) editLate(plan, edits, 'Choose breadboards')
    } finally {
      setShare(undefined)
    }
  }
  return (
    <div className="bench-empty">
      <h1>Nothing on the bench yet</h1>
      <p>
        The bench puts the board and its parts on breadboards, finds a hole for every leg and wire, and then leads you
        through the build one wire at a time.
      </p>
      {empty ? (
        <p>Choose a board and parts in the kit first; then they find their places here.</p>
      ) : (
        <p>
          <Button variant="dark" disabled={share !== undefined} onClick={() => void suggest()}>
            {share === undefined ? 'Choose breadboards and lay it out' : 'Looking for breadboards that fit …'}
          </Button>
          {share !== undefined && <ProgressBar now={share * 100} aria-label="Breadboards tried" className="mt-2" />}
        </p>
      )}
      {!empty && (
        <p>
          Or say what you have:{' '}
          {(['full', 'half', 'mini'] as const).map((kind) => (
            <Button
              key={kind}
              size="sm"
              variant="outline-dark"
              className="me-2"
              onClick={() => edit([{ do: 'set-breadboard', ref: 'BB1', entry: { kind } }], `Take a ${kind} breadboard`)}
            >
              one {kind} breadboard
            </Button>
          ))}
        </p>
      )}
    </div>
  )
}

const HAND = 'markpost-hand'
const POSE = 'markpost-pose'

/** Pixels beside and above the drawing. */
const PANELS = 560
const BARS = 250

/** The pose in which the breadboards are seen larger, by the form of the screen. */
function poseFor(layout: Layout): Pose {
  const { boards } = layout.grid
  const broad = boards.at(-1)!.x + 16 + 40
  const long = Math.max(...boards.map(({ rows }) => rows)) + 6
  const [width, height] = [Math.max(300, window.innerWidth - PANELS), Math.max(200, window.innerHeight - BARS)]
  const standing = Math.min(width / broad, height / long)
  const lying = Math.min(width / long, height / broad)
  return lying > standing * 1.15 ? 'lies' : 'stands'
}

function LaidBench() {
  const plan = usePlan()
  const dispatch = useAppDispatch()
  const lit = useAppSelector((state) => state.plan.lit)
  const state = useBench()
  const layout = state.layout!
  const { wiring, share } = state
  const { findings } = useDerived()
  const hurt = useMemo(
    () =>
      new Set(
        [...findings, ...state.findings]
          .filter((one) => one.severity === 'fault' && one.accepted === undefined)
          .flatMap((one) => one.at.map((at) => at.split('.')[0]!)),
      ),
    [findings, state.findings],
  )
  const sheet = useMemo(() => makeSheet(wiring, layout), [wiring, layout])
  const [wantedPose, setWantedPose] = useState(() => localStorage.getItem(POSE) ?? '')
  const pose: Pose = wantedPose === 'stands' || wantedPose === 'lies' ? wantedPose : poseFor(layout)
  const picture = useMemo(() => benchPicture(wiring, layout, sheet, pose), [wiring, layout, sheet, pose])
  const items = useMemo(() => buildItems(layout, sheet), [layout, sheet])
  const done = useMemo(() => new Set(plan.bench?.done), [plan.bench?.done])
  const [mode, setMode] = useState<'arrange' | 'build'>('arrange')
  const [picked, setPicked] = useState<string>()
  const [hand, setHand] = useState(() => (localStorage.getItem(HAND) === 'left' ? 'left' : 'right'))
  const [at, setAt] = useState(0)
  const [follow, setFollow] = useState(true)
  const hasTools = benchTools.useIsOn()
  const building = mode === 'build'
  const item = building ? items[at] : undefined
  const shown = building ? wiresBefore(items, at) : undefined
  const say = (text: string): void => {
    dispatch(toasted({ text, kind: 'wrong' }))
  }
  const move = (ref: string, place: BenchPlace | null): void => {
    edit(
      [...keepPlaces(wiring, layout, ref), { do: 'place', ref, place }],
      place === null ? `Let the program place ${ref}` : place.beside ? `Lay ${ref} beside` : `Move ${ref}`,
    )
  }
  const tick = (one: BuildItem, isDone: boolean): void => {
    // What is plugged in must not wander off when the plan changes.
    const keep: Edit[] = isDone ? keepPlaces(wiring, layout) : []
    edit([...keep, { do: 'tick', wires: [one.tick], done: isDone }], isDone ? 'Tick off' : 'Take a tick away')
  }
  const chooseMode = (next: 'arrange' | 'build'): void => {
    setMode(next)
    if (next !== 'build') return
    const open = items.findIndex((one) => !done.has(one.tick))
    setAt(open < 0 ? items.length : open)
  }
  return (
    <div className={`bench hand-${hand} ${hasTools ? '' : 'folded'}`}>
      <h1 className="visually-hidden">Bench</h1>
      <aside aria-label="Bench tools" hidden={!hasTools}>
        <nav className="bench-modes" aria-label="What to do">
          {(['arrange', 'build'] as const).map((one) => (
            <button key={one} type="button" aria-pressed={mode === one} onClick={() => chooseMode(one)}>
              {one === 'arrange' ? 'Arrange' : 'Build'}
            </button>
          ))}
        </nav>
        {building ? (
          <>
            <BuildPanel items={items} done={done} at={at} onAt={setAt} onTick={tick} />
            <Form.Check
              id="bench-follow"
              type="checkbox"
              label="Look closely at what is next"
              checked={follow}
              onChange={(event) => setFollow(event.target.checked)}
            />
          </>
        ) : (
          <>
            <BreadboardList />
            <PlacingTools picked={picked} onMove={move} onRefused={say} />
            <dl className="bench-facts">
              <dt>Wires</dt>
              <dd>{layout.wires.length}</dd>
              <dt>Wires saved by shared rows</dt>
              <dd>{layout.stats.shared}</dd>
              <dt>Wires that cross</dt>
              <dd>{layout.stats.crossings}</dd>
            </dl>
          </>
        )}
        <Button
          size="sm"
          variant="link"
          className="p-0 align-self-start"
          onClick={() => {
            const next = hand === 'left' ? 'right' : 'left'
            setHand(next)
            localStorage.setItem(HAND, next)
          }}
        >
          tools on the {hand === 'left' ? 'right' : 'left'}
        </Button>
      </aside>
      <BenchView
        picture={picture}
        layout={layout}
        wiring={wiring}
        shown={shown}
        now={item?.kind === 'wire' ? item.row.number : item?.ref}
        picked={picked}
        lit={lit}
        hurt={hurt}
        movable={!building}
        follow={building && follow}
        onPick={setPicked}
        onMove={move}
        onRefused={say}
        onOrder={(refs, moved) => edit([{ do: 'order-breadboards', refs }], `Move ${moved}`)}
        onTurn={() => {
          const next = pose === 'stands' ? 'lies' : 'stands'
          setWantedPose(next)
          localStorage.setItem(POSE, next)
        }}
        tools={
          <Button size="sm" variant="outline-dark" onClick={() => benchTools.set(!hasTools)}>
            {hasTools ? 'Fold the tools' : 'Tools'}
          </Button>
        }
      >
        {share === undefined ? 'Point at a hole to read its name; press on one to light its net.' : 'Laying out …'}
      </BenchView>
    </div>
  )
}

/** Numbers of the wires that are in before an item. */
const wiresBefore = (items: readonly BuildItem[], at: number): ReadonlySet<number> =>
  new Set(items.slice(0, at).flatMap((one) => (one.kind === 'wire' ? [one.row.number] : [])))
