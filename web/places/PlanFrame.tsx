import { type ComponentType, useEffect, useState } from 'react'
import { Button } from 'react-bootstrap'
import { flushSync } from 'react-dom'
import { NavLink, Outlet, useLocation, useNavigate, useParams } from 'react-router'
import type { Plan } from '../../core/plan/planSchema.ts'
import { Brand } from '../components/Brand.tsx'
import { Findings } from '../components/findings/Findings.tsx'
import { KeyHelp } from '../components/KeyHelp.tsx'
import { Loading } from '../components/Loading.tsx'
import { NextLine } from '../components/NextLine.tsx'
import { Boundary } from '../components/pen/Boundary.tsx'
import { Conflict } from '../components/pen/Conflict.tsx'
import { type Lost, LostPlan, useKeepAsNew } from '../components/pen/LostPlan.tsx'
import { Offers } from '../components/pen/Offers.tsx'
import { SaveNotice, SaveState } from '../components/pen/SaveState.tsx'
import { ReserveStrip } from '../components/ReserveStrip.tsx'
import { ThemeButton } from '../components/ThemeButton.tsx'
import { useMayChange } from '../store/access.ts'
import { BenchProvider } from '../store/bench.tsx'
import { useBaseCatalog } from '../store/catalog.ts'
import { useDerived, usePlan } from '../store/derived.ts'
import { editPlan, forgetDraft, leavePlan, openPlan, redoStep, takeTheirs, undoStep } from '../store/desk.ts'
import { judgeWith } from '../store/faults.ts'
import { isTyping, keysAreOn } from '../store/keys.ts'
import { useAppSelector } from '../store/store.ts'

const places = [
  { path: 'kit', title: 'Kit', key: 'k' },
  { path: 'pins', title: 'Pins', key: 'p' },
  { path: 'bench', title: 'Bench', key: 'b' },
  { path: 'workings', title: 'Workings', key: 'w' },
  { path: 'rehearse', title: 'Rehearse', key: 'r' },
  { path: 'sheets', title: 'Sheets', key: 's' },
  { path: 'bring-up', title: 'Bring-up', key: 'u' },
] as const

/** Reached by what tells that the plan is saved. */
const history = { path: 'history', key: 'h' } as const

/** What stands around every place of a plan: title, places, undo, findings, reserve. */
export function PlanFrame() {
  const { id = '' } = useParams()
  const openId = useAppSelector((state) => state.plan.pen?.id)
  const [lost, setLost] = useState<Lost>()
  const [tries, setTries] = useState(0)
  const catalog = useBaseCatalog()
  useEffect(() => judgeWith(catalog), [catalog])
  // biome-ignore lint/correctness/useExhaustiveDependencies: another try opens the plan again
  useEffect(() => {
    let here = true
    setLost(undefined)
    void openPlan(id).then((opened) => {
      if (here && opened.is !== 'open' && opened.is !== 'superseded') setLost(opened)
    })
    return () => {
      here = false
      leavePlan(id)
    }
  }, [id, tries])
  if (lost) return <LostPlan id={id} lost={lost} onAgain={() => setTries(tries + 1)} />
  if (openId !== id) return <Loading what="plan" />
  return (
    <Boundary what="This plan">
      <BenchProvider>
        <OpenFrame />
      </BenchProvider>
    </Boundary>
  )
}

function OpenFrame() {
  const plan = usePlan()
  const { wiring } = useDerived()
  const navigate = useNavigate()
  const { pathname } = useLocation()
  const id = useAppSelector((state) => state.plan.pen?.id)
  const undoable = useAppSelector((state) => state.plan.pen?.history.past.at(-1)?.label)
  const redoable = useAppSelector((state) => state.plan.pen?.history.future[0]?.label)
  // What is typed counts letter by letter; only a title of nothing is not taken, and comes back on leaving.
  const [typed, setTyped] = useState<string>()
  const keepAsNew = useKeepAsNew()
  const mayChange = useMayChange(id ?? '')
  const keepBoth = async (mine: Plan): Promise<void> => {
    if ((await keepAsNew(mine, `${[...mine.title].slice(0, 180).join('')} (my side)`)) !== undefined) takeTheirs()
  }
  useEffect(() => {
    document.title = `${plan.title} · Mark Post`
  }, [plan.title])

  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const typing = isTyping(event)
      const command = event.ctrlKey || event.metaKey
      if (command && event.key.toLowerCase() === 'z' && !typing) {
        event.preventDefault()
        if (event.shiftKey) redoStep()
        else undoStep()
      } else if (command && event.key.toLowerCase() === 'y' && !typing) {
        event.preventDefault()
        redoStep()
      } else if (!command && !event.altKey && !typing && !event.defaultPrevented && keysAreOn()) {
        const place = [...places, history].find((one) => one.key === event.key)
        if (place) navigate(`/plan/${id}/${place.path}`)
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [navigate, id])

  const boards = wiring.boards.map((board) => board.title)
  const Printed = usePrinted(placeOf(pathname) === 'sheets')
  return (
    <div className="frame">
      {Printed && (
        <Boundary what="The printed sheet">
          <Printed />
        </Boundary>
      )}
      <header className="top">
        <a className="skip btn btn-dark" href="#place">
          Skip to the plan
        </a>
        <Brand />
        <div className="title-block">
          <input
            value={typed ?? plan.title}
            aria-label="Title of the plan"
            maxLength={200}
            onChange={(event) => {
              const title = event.target.value
              setTyped(title)
              if (title.trim() !== '') editPlan([{ do: 'set-title', title: title.trim() }], 'Rename the plan', true)
            }}
            onBlur={() => setTyped(undefined)}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          />
          <small>{boards.length === 0 ? 'no board yet' : boards.join(', ')}</small>
        </div>
        <nav className="places" aria-label="Places">
          {places.map((place) => (
            <NavLink key={place.path} to={`/plan/${id}/${place.path}`}>
              {place.title} <kbd>{place.key}</kbd>
            </NavLink>
          ))}
        </nav>
        <div className="tools">
          <SaveState />
          <Button
            size="sm"
            variant="outline-dark"
            disabled={undoable === undefined}
            title={undoable ? `Undo: ${undoable}` : 'Nothing to undo'}
            onClick={undoStep}
          >
            Undo
          </Button>
          <Button
            size="sm"
            variant="outline-dark"
            disabled={redoable === undefined}
            title={redoable ? `Redo: ${redoable}` : 'Nothing to redo'}
            onClick={redoStep}
          >
            Redo
          </Button>
          <KeyHelp />
          <ThemeButton />
        </div>
      </header>
      <div className="notices">
        {mayChange ? (
          <NextLine />
        ) : (
          <div className="notice" role="status">
            <p>
              <b>To look only:</b> this page follows what others do to the plan, and changes nothing itself.
            </p>
          </div>
        )}
        <SaveNotice onKeepAsNew={() => void keepAsNew(plan, plan.title)} />
        <Conflict onKeepBoth={(mine) => void keepBoth(mine)} />
        <Offers
          onKeepBoth={(draft, slot) =>
            void keepAsNew(draft, `${[...draft.title].slice(0, 170).join('')} (unsaved changes)`).then(
              (made) => made !== undefined && forgetDraft(slot),
            )
          }
        />
      </div>
      <main className="place" id="place" tabIndex={-1}>
        <Boundary key={placeOf(pathname)} what="This place">
          <Outlet />
        </Boundary>
      </main>
      <Boundary what="The findings">
        <Findings />
      </Boundary>
      <Boundary what="The reserve">
        <ReserveStrip />
      </Boundary>
    </div>
  )
}

/** The sheet, while it is printed from a place that does not show it; its code is fetched when there is time for it. */
function usePrinted(isShown: boolean): ComponentType | undefined {
  const [sheet, setSheet] = useState<{ readonly Printed: ComponentType }>()
  const [printing, setPrinting] = useState(false)
  useEffect(() => {
    // Without it the place prints as it stands.
    import('../components/PrintedSheet.tsx').then(
      ({ PrintedSheet }) => setSheet({ Printed: PrintedSheet }),
      () => undefined,
    )
  }, [])
  useEffect(() => {
    // The browser takes the page as it stands when this returns.
    const before = (): void => flushSync(() => setPrinting(true))
    const after = (): void => setPrinting(false)
    window.addEventListener('beforeprint', before)
    window.addEventListener('afterprint', after)
    return () => {
      window.removeEventListener('beforeprint', before)
      window.removeEventListener('afterprint', after)
    }
  }, [])
  return printing && !isShown ? sheet?.Printed : undefined
}

/** The place of an address, without the page in it: what is begun there stays from page to page. */
const placeOf = (pathname: string): string => pathname.split('/')[3] ?? ''
