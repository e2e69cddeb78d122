import { useEffect, useState } from 'react'
import { Button, Modal, Spinner } from 'react-bootstrap'
import { Link, NavLink, Outlet, useNavigate, useParams } from 'react-router'
import { describeDifference } from '../../core/plan/difference.ts'
import { Brand } from '../components/Brand.tsx'
import { Findings } from '../components/Findings.tsx'
import { ReserveStrip } from '../components/ReserveStrip.tsx'
import { ThemeButton } from '../components/ThemeButton.tsx'
import { useCreateMutation } from '../store/api.ts'
import { BenchProvider } from '../store/bench.tsx'
import { useCatalog, useDerived, useEdit, usePlan } from '../store/derived.ts'
import { planActions } from '../store/planSlice.ts'
import { openPlan, useAutosave } from '../store/saving.ts'
import { useAppDispatch, useAppSelector } from '../store/store.ts'

const places = [
  { path: 'kit', title: 'Kit', key: 'k' },
  { path: 'pins', title: 'Pins', key: 'p' },
  { path: 'bench', title: 'Bench', key: 'b' },
  { path: 'workings', title: 'Workings', key: 'w' },
  { path: 'sheets', title: 'Sheets', key: 's' },
] as const

/** What stands around every place of a plan: title, places, undo, findings, reserve. */
export function PlanFrame() {
  const { id = '' } = useParams()
  const dispatch = useAppDispatch()
  const openId = useAppSelector((state) => state.plan.id)
  const [trouble, setTrouble] = useState<'missing' | 'failed'>()
  useEffect(() => {
    let here = true
    setTrouble(undefined)
    void openPlan(dispatch, id).then((result) => {
      if (here && result !== 'open') setTrouble(result)
    })
    return () => {
      here = false
      dispatch(planActions.closed())
    }
  }, [dispatch, id])
  if (trouble)
    return (
      <main className="home">
        <h1>{trouble === 'missing' ? 'This plan is not here' : 'The plan cannot be loaded'}</h1>
        <p>
          {trouble === 'missing'
            ? 'It may have been deleted, or it lives in another data folder.'
            : 'The server does not answer as it should. Your last changes are kept in this browser.'}
        </p>
        <Link to="/">Back to all plans</Link>
      </main>
    )
  if (openId !== id)
    return (
      <div className="p-5">
        <Spinner animation="border" role="status" aria-label="Loading the plan" />
      </div>
    )
  return (
    <BenchProvider>
      <OpenFrame />
    </BenchProvider>
  )
}

function OpenFrame() {
  useAutosave()
  const plan = usePlan()
  const { wiring } = useDerived()
  const edit = useEdit()
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const id = useAppSelector((state) => state.plan.id)
  const undoable = useAppSelector((state) => state.plan.history?.past.at(-1)?.label)
  const redoable = useAppSelector((state) => state.plan.history?.future[0]?.label)
  const [title, setTitle] = useState(plan.title)
  useEffect(() => setTitle(plan.title), [plan.title])
  useEffect(() => {
    document.title = `${plan.title} · Mark Post`
  }, [plan.title])

  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const typing =
        event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [role=dialog]') !== null
      const command = event.ctrlKey || event.metaKey
      if (command && event.key.toLowerCase() === 'z' && !typing) {
        event.preventDefault()
        dispatch(event.shiftKey ? planActions.redone() : planActions.undone())
      } else if (command && event.key.toLowerCase() === 'y' && !typing) {
        event.preventDefault()
        dispatch(planActions.redone())
      } else if (!command && !event.altKey && !typing && !event.defaultPrevented) {
        const place = places.find((one) => one.key === event.key)
        if (place) navigate(`/plan/${id}/${place.path}`)
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [dispatch, navigate, id])

  const boards = wiring.boards.map((board) => board.title)
  return (
    <div className="frame">
      <header className="top">
        <a className="skip btn btn-dark" href="#place">
          Skip to the plan
        </a>
        <Brand />
        <div className="title-block">
          <input
            value={title}
            aria-label="Title of the plan"
            maxLength={200}
            onChange={(event) => setTitle(event.target.value)}
            onBlur={() =>
              title.trim() === ''
                ? setTitle(plan.title)
                : title !== plan.title && edit([{ do: 'set-title', title: title.trim() }], 'Rename the plan')
            }
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
            onClick={() => dispatch(planActions.undone())}
          >
            Undo
          </Button>
          <Button
            size="sm"
            variant="outline-dark"
            disabled={redoable === undefined}
            title={redoable ? `Redo: ${redoable}` : 'Nothing to redo'}
            onClick={() => dispatch(planActions.redone())}
          >
            Redo
          </Button>
          <ThemeButton />
        </div>
      </header>
      <main className="place" id="place" tabIndex={-1}>
        <Outlet />
      </main>
      <Findings />
      <ReserveStrip />
      <ConflictDialog />
    </div>
  )
}

function SaveState() {
  const state = useAppSelector((root) => root.plan.saveState)
  const revision = useAppSelector((root) => root.plan.revision)
  const words = {
    saved: `saved, rev. ${revision}`,
    waiting: 'saving …',
    saving: 'saving …',
    failed: 'not saved, trying again',
    conflict: 'changed elsewhere',
  }[state]
  return (
    <span className="save-state" role="status" data-state={state}>
      {words}
    </span>
  )
}

/** Another tab saved first: both sides are offered, neither is lost. */
function ConflictDialog() {
  const theirs = useAppSelector((state) => state.plan.theirs)
  const plan = usePlan()
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const catalog = useCatalog()
  const [create] = useCreateMutation()
  if (!theirs) return null
  const difference = describeDifference(theirs.plan, plan, catalog)
  const keepBoth = async (): Promise<void> => {
    const made = await create({ plan: { ...plan, title: `${plan.title.slice(0, 180)} (my side)` } })
    if (!('data' in made) || !made.data) return
    dispatch(planActions.opened({ stored: theirs }))
    navigate(`/plan/${made.data.id}/pins`)
  }
  return (
    <Modal show centered backdrop="static" aria-labelledby="conflict">
      <Modal.Body>
        <h2 id="conflict">This plan was changed elsewhere</h2>
        <p>Another tab or window saved revision {theirs.revision}. Compared with it, yours says:</p>
        <ul style={{ maxHeight: 200, overflow: 'auto' }}>
          {difference.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-dark" onClick={() => dispatch(planActions.opened({ stored: theirs }))}>
          Take theirs
        </Button>
        <Button variant="outline-dark" onClick={() => void keepBoth()}>
          Keep both
        </Button>
        <Button variant="dark" onClick={() => dispatch(planActions.keptOurs())}>
          Keep mine
        </Button>
      </Modal.Footer>
    </Modal>
  )
}
