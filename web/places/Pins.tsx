import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { pinAnswers } from '../../core/advice/whyPin.ts'
import type { AssignResult } from '../../core/assign/assign.ts'
import { type Candidate, candidates } from '../../core/assign/candidates.ts'
import { detach, place, swapSignals, wiresOf } from '../../core/assign/rewire.ts'
import { counted } from '../../core/base/counted.ts'
import type { Edit } from '../../core/plan/edit.ts'
import type { Plan } from '../../core/plan/planSchema.ts'
import type { Host, SignalUse } from '../../core/wiring/model.ts'
import { abilityLegend, BoardView, Post, type YardState } from '../components/BoardView.tsx'
import { Ledger, ledgerOrder } from '../components/Ledger.tsx'
import { PickedTask } from '../components/PickedTask.tsx'
import { usePinKeys } from '../components/pins/usePinKeys.ts'
import { Questions } from '../components/Questions.tsx'
import { WayOutDialog } from '../components/WayOutDialog.tsx'
import { litHost, viewFor, viewsOf, yardUses } from '../components/yardViews.ts'
import { useDerived } from '../store/derived.ts'
import { editPlan as edit, editLate } from '../store/desk.ts'
import { planActions } from '../store/planSlice.ts'
import { useAppDispatch, useAppSelector } from '../store/store.ts'
import { toasted } from '../store/toastSlice.ts'
import { answerOf, useSearch } from '../store/useSearch.ts'
import type { Impasse } from '../workers/search.worker.ts'

/** Candidates that get a digit. */
const DIGITS = 6

/** Which pin for which signal? */
export function Pins() {
  const { wiring, findings } = useDerived()
  const dispatch = useAppDispatch()
  const picked = useAppSelector((state) => state.plan.picked)
  const litEnds = useAppSelector((state) => state.plan.lit)
  const [view, setView] = useState<string>()
  const [searching, setSearching] = useState<number>()
  /** The rest was placed here: from then on what only the maker knows is asked. */
  const [placed, setPlaced] = useState(false)
  const [stuck, setStuck] = useState<{ from: Plan; result: AssignResult; way: Impasse | undefined }>()
  const client = useSearch()

  const clashes = findings.some(
    (one) => one.accepted === undefined && (one.severity === 'fault' || one.rule === 'pin-shared'),
  )
  const use = picked === undefined ? undefined : wiring.signal(picked)
  const ranked = useMemo(() => (use ? candidates(wiring, use) : undefined), [wiring, use])
  const best = useMemo(
    () =>
      ranked
        ?.filter((one) => one.blocked === undefined && !use?.hosts.some(({ host }) => host === one.host))
        .slice(0, DIGITS) ?? [],
    [ranked, use],
  )
  const views = useMemo(() => viewsOf(wiring), [wiring])
  const wanted = use
    ? viewFor(views, best[0]?.host ?? use.hosts[0]?.host, use)
    : viewFor(views, litHost(wiring, litEnds), undefined)
  // A view that was chosen by hand stays until another signal or finding is picked.
  useEffect(() => {
    if (picked !== undefined || litEnds.length > 0) setView(undefined)
  }, [picked, litEnds])
  const shown = views.find((one) => one.id === (view ?? wanted)) ?? views[0]

  const next = useCallback(
    (after: string | undefined, step: 1 | -1, openOnly: boolean): void => {
      const all = ledgerOrder(wiring.parts, wiring.signals).flatMap((row) => row.uses)
      const list = openOnly ? all.filter((one) => one.state === 'open' && one.facts.required && one.end !== after) : all
      if (list.length === 0) {
        dispatch(planActions.picked(undefined))
        return
      }
      const at = openOnly ? -1 : list.findIndex((one) => one.end === after)
      dispatch(planActions.picked(list[(at + step + list.length) % list.length]!.end))
    },
    [dispatch, wiring],
  )

  const placedAt = useRef(0)
  const put = useCallback(
    (signal: SignalUse, host: Host): void => {
      const edits = place(wiring, signal, host)
      if (!edits) {
        dispatch(toasted({ text: `${signal.end} is locked; unlock it first.`, kind: 'wrong' }))
        return
      }
      const wasOpen = signal.state === 'open'
      if (!edit(edits, `Place ${signal.end} at ${host.end}`) || !wasOpen) return
      placedAt.current = Date.now()
      next(signal.end, 1, true)
    },
    [wiring, dispatch, next],
  )

  const placeRest = useCallback(
    async (refs?: readonly string[]): Promise<void> => {
      setSearching(0)
      const from = wiring.plan
      const result = await answerOf(client.assign(from, refs, setSearching))
      setSearching(undefined)
      if (!result) {
        dispatch(toasted({ text: 'The search was stopped; nothing was changed.' }))
        return
      }
      if (result.unplaced.length > 0) {
        setStuck({ from, result, way: undefined })
        const way = await answerOf(client.wayOut(from, refs ? undefined : result))
        setStuck((now) => (now?.result === result ? { from, result, way } : now))
        return
      }
      const label = refs ? `Wire ${refs.join(', ')}` : 'Place the rest'
      if (result.edits.length > 0 && !editLate(from, result.edits, label)) return
      setPlaced(true)
      dispatch(
        toasted({
          text:
            result.placed.length === 0
              ? 'Nothing was open.'
              : `${counted(result.placed.length, 'wire')} placed${result.choices.map(({ ref, title }) => `, ${ref} as ${title}`).join('')}${result.added.map(({ ref, what }) => `, added ${ref} (${what})`).join('')}${
                  result.optimal
                    ? result.neatness.paid > 0
                      ? `; ${result.neatness.paid} points above the cheapest, so that what belongs together stands side by side`
                      : '; no arrangement costs less'
                    : `. Not proven best: it costs ${result.cost} points, and none can cost less than ${result.bound}`
                }.`,
        }),
      )
      dispatch(planActions.picked(undefined))
    },
    [client, wiring, dispatch],
  )

  const moveClashing = useCallback(async (): Promise<void> => {
    const from = wiring.plan
    const found = await answerOf(client.rearrange(from))
    if (!found)
      return void dispatch(toasted({ text: 'Moving signals to other pins does not help here; see the findings.' }))
    if (!editLate(from, found.edits, 'Move what clashes')) return
    const moves = found.moved.map(({ end, to }) => `${end} to ${to}`).join(', ')
    dispatch(
      toasted({
        text: `Moved ${moves}.${found.left.length > 0 ? ` ${counted(found.left.length, 'fault')} ${found.left.length === 1 ? 'is' : 'are'} not about pins.` : ''}`,
      }),
    )
  }, [client, wiring, dispatch])

  /** Says why the picked signal lies on a pin, could, or does not. */
  const tellWhy = useCallback(
    (host: Host): void => {
      const said = use && pinAnswers(wiring, use).find(({ pin }) => pin === host.end)
      if (said)
        dispatch(
          toasted({
            text: `${said.text}${said.state === 'blocked' ? " Type the pin's name to put it there all the same." : ''}`,
            kind: 'answer',
          }),
        )
      else if (use) dispatch(toasted({ text: `${host.end} is not on the board of ${use.part.ref}.`, kind: 'answer' }))
    },
    [wiring, use, dispatch],
  )

  const clear = useCallback((): void => {
    if (!use) return
    const edits = detach(wiring, use)
    if (edits && edits.length > 0) edit(edits, `Take ${use.end} off`)
    else if (!edits) dispatch(toasted({ text: `${use.end} is locked; unlock it first.`, kind: 'wrong' }))
  }, [use, wiring, dispatch])
  const lock = useCallback((): void => {
    if (!use) return
    const wires = wiresOf(wiring, use)
    if (wires.length > 0)
      edit(
        wires.map((wire): Edit => ({ do: 'change-wire', from: wire[0], to: wire[1], facts: { locked: !use.locked } })),
        `${use.locked ? 'Unlock' : 'Lock'} ${use.end}`,
      )
  }, [use, wiring])
  const leaveOpen = useCallback((): void => {
    if (use)
      edit(
        [use.state === 'unused' ? { do: 'use-again', end: use.end } : { do: 'leave-open', end: use.end }],
        use.state === 'unused' ? `Use ${use.end} again` : `Leave ${use.end} open`,
      )
  }, [use])

  const field = useRef<HTMLInputElement>(null)
  usePinKeys(field, placedAt, {
    use,
    best,
    put,
    step: (by) => next(picked, by, false),
    letGo: () => dispatch(planActions.picked(undefined)),
    placeRest: () => void placeRest(),
    lock,
    clear,
    leaveOpen,
  })

  useEffect(() => {
    if (picked !== undefined)
      document.querySelector(`[data-signal="${CSS.escape(picked)}"]`)?.scrollIntoView({ block: 'nearest' })
  }, [picked])

  const yard = useMemo((): YardState => {
    const uses = yardUses(wiring)
    const digits = new Map(best.map((one, index) => [one.host, index + 1]))
    return {
      wiring,
      uses,
      picked: use,
      candidates:
        ranked &&
        new Map(
          ranked.map((candidate: Candidate) => [candidate.host.end, { candidate, digit: digits.get(candidate.host) }]),
        ),
      lit: new Set(litEnds),
      hurt: new Set(
        findings
          .filter((finding) => finding.severity === 'fault' && finding.accepted === undefined)
          .flatMap((finding) => finding.at),
      ),
      onPost: (host) => {
        const here = uses.get(host.end)
        const candidate = ranked?.find((one) => one.host === host)
        if (use && candidate && candidate.blocked === undefined) put(use, host)
        else if (here?.[0]) dispatch(planActions.picked(here[0].end))
        else if (use && candidate) tellWhy(host)
      },
      onDropped: (signal, host) => {
        const dropped = wiring.signal(signal)
        if (dropped) put(dropped, host)
      },
    }
  }, [wiring, ranked, best, use, litEnds, findings, put, tellWhy, dispatch])

  if (wiring.parts.length === 0 || wiring.boards.length === 0)
    return (
      <div className="empty">
        <h1>No {wiring.boards.length === 0 ? 'board' : 'parts'} yet</h1>
        <p>Signals come from parts, and posts from a board. Gather both in the kit first.</p>
        <Link to="../kit" className="btn btn-dark">
          Go to the kit
        </Link>
      </div>
    )

  return (
    <div className="pins">
      <h1 className="visually-hidden">Pins</h1>
      {stuck && (
        <WayOutDialog
          result={stuck.result}
          way={stuck.way}
          onApply={(edits, label) => {
            setStuck(undefined)
            editLate(stuck.from, edits, label)
          }}
          onClose={() => setStuck(undefined)}
        />
      )}
      <Ledger
        searching={searching}
        onPlaceRest={() => void placeRest()}
        onStop={() => client.halt()}
        onMoveClashing={clashes ? () => void moveClashing() : undefined}
        onWireRest={(ref) => void placeRest([ref])}
        questions={placed && searching === undefined ? <Questions client={client} /> : undefined}
      />
      <div className="yard">
        <div className="task">
          {use ? (
            <PickedTask
              key={use.end}
              use={use}
              best={best}
              field={field}
              onPut={put}
              onWhy={tellWhy}
              onLock={lock}
              onClear={clear}
              onSwap={(other) => {
                const edits = swapSignals(wiring, use, other)
                if (edits) edit(edits, `Swap ${use.end} and ${other.end}`)
                else dispatch(toasted({ text: `${use.end} is locked; unlock it first.`, kind: 'wrong' }))
              }}
              onMoveBus={(way) => edit(way.edits, `Move the bus to ${way.title}`)}
              onLeaveOpen={leaveOpen}
            />
          ) : (
            <div className="need soft">Pick a signal, or press ↓ for the first.</div>
          )}
        </div>
        {views.length > 1 && (
          <nav className="boards-row" aria-label="Boards and expanders">
            {views.map((one) => (
              <Button
                key={one.id}
                size="sm"
                variant={one === shown ? 'dark' : 'outline-dark'}
                aria-pressed={one === shown}
                onClick={() => setView(one.id)}
              >
                {one.title}
              </Button>
            ))}
          </nav>
        )}
        {shown?.board && <BoardView board={shown.board} yard={yard} />}
        {shown && !shown.board && (
          <section className="spots" aria-label={shown.title}>
            {shown.hosts.map((host) => (
              <div key={host.end} className="posts right">
                <Post
                  end={host.end}
                  host={host}
                  yard={yard}
                  finger={host.pin}
                  code={shown.providers.length > 1 ? host.ref : ''}
                  title={`${host.end}${host.note ? `. ${host.note}` : ''}`}
                />
              </div>
            ))}
          </section>
        )}
        <div className="legend" aria-hidden="true">
          {abilityLegend.map((text) => (
            <span key={text}>{text}</span>
          ))}
        </div>
      </div>
    </div>
  )
}
