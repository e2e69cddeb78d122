import '@fontsource/sofia-sans-semi-condensed/greek-400.css'
import '@fontsource/sofia-sans-semi-condensed/latin-400.css'
import '@fontsource/sofia-sans-semi-condensed/latin-ext-400.css'
import '@fontsource/sofia-sans-semi-condensed/greek-500.css'
import '@fontsource/sofia-sans-semi-condensed/latin-500.css'
import '@fontsource/sofia-sans-semi-condensed/latin-ext-500.css'
import '@fontsource/sofia-sans-semi-condensed/greek-600.css'
import '@fontsource/sofia-sans-semi-condensed/latin-600.css'
import '@fontsource/sofia-sans-semi-condensed/latin-ext-600.css'
import '@fontsource/sofia-sans-semi-condensed/greek-700.css'
import '@fontsource/sofia-sans-semi-condensed/latin-700.css'
import '@fontsource/sofia-sans-semi-condensed/latin-ext-700.css'
import '@fontsource/spline-sans-mono/latin-400.css'
import '@fontsource/spline-sans-mono/latin-ext-400.css'
import '@fontsource/spline-sans-mono/latin-500.css'
import '@fontsource/spline-sans-mono/latin-ext-500.css'
import '@fontsource/spline-sans-mono/latin-600.css'
import '@fontsource/spline-sans-mono/latin-ext-600.css'
import '@fontsource/spline-sans-mono/latin-700.css'
import '@fontsource/spline-sans-mono/latin-ext-700.css'
import './theme/theme.scss'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { Provider } from 'react-redux'
import { BrowserRouter, Navigate, Route, Routes } from 'react-router'
import { freezeKept } from '../core/base/memo.ts'
import { CatalogGate } from './components/CatalogGate.tsx'
import { late } from './components/late.tsx'
import { Boundary } from './components/pen/Boundary.tsx'
import { Toasts } from './components/Toasts.tsx'
import { Plans } from './places/Plans.tsx'
import { startDesk } from './store/desk.ts'
import { store } from './store/store.ts'
import { applyTheme, chosenTheme } from './theme/theme.ts'

// The list of plans needs none of these.
const PlanFrame = late(() => import('./places/PlanFrame.tsx'), 'PlanFrame', 'plan')
const Pins = late(() => import('./places/Pins.tsx'), 'Pins', 'pins')
const Kit = late(() => import('./places/Kit.tsx'), 'Kit', 'kit')
const Bench = late(() => import('./places/Bench.tsx'), 'Bench', 'bench')
const Workings = late(() => import('./places/Workings.tsx'), 'Workings', 'workings')
const BringUp = late(() => import('./places/BringUp.tsx'), 'BringUp', 'bring-up')
const Rehearse = late(() => import('./places/Rehearse.tsx'), 'Rehearse', 'rehearse')
const History = late(() => import('./places/History.tsx'), 'History', 'history')
const Sheets = late(() => import('./places/Sheets.tsx'), 'Sheets', 'sheets')
const ClassPlace = late(() => import('./places/ClassPlace.tsx'), 'ClassPlace', 'class')
const Shelf = late(() => import('./places/Shelf.tsx'), 'Shelf', 'shelf')

/** Begins to load what the address asks for while the catalogue is still on its way; a failure is said when it is drawn. */
const early = (...wanted: readonly { readonly load: () => Promise<void> }[]): void =>
  void Promise.allSettled(wanted.map(({ load }) => load()))
const [, first, , place] = location.pathname.split('/')
if (first === 'shelf') early(Shelf)
if (first === 'plan')
  early(
    PlanFrame,
    {
      kit: Kit,
      bench: Bench,
      workings: Workings,
      rehearse: Rehearse,
      sheets: Sheets,
      history: History,
      'bring-up': BringUp,
    }[place ?? ''] ?? Pins,
  )

// What is kept of computations belongs to everybody: in development whoever changes it is stopped.
if (import.meta.env.DEV) freezeKept()
applyTheme(chosenTheme())
startDesk()
const root = document.getElementById('root')
if (!root) throw new Error('the page has no root element')
createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <BrowserRouter>
        <Boundary what="This page">
          <CatalogGate>
            <Routes>
              <Route path="/" element={<Plans />} />
              <Route path="/class" element={<ClassPlace />} />
              <Route path="/shelf" element={<Shelf view="entry" />} />
              <Route path="/shelf/compare/:a/:b" element={<Shelf view="compare" />} />
              <Route path="/shelf/new/:kind" element={<Shelf view="new" />} />
              <Route path="/shelf/new/:kind/:id" element={<Shelf view="new" />} />
              <Route path="/shelf/:kind/:id" element={<Shelf view="entry" />} />
              <Route path="/shelf/:kind/:id/edit" element={<Shelf view="edit" />} />
              <Route path="/plan/:id" element={<PlanFrame />}>
                <Route index element={<Navigate to="pins" replace />} />
                <Route path="kit" element={<Kit />} />
                <Route path="pins" element={<Pins />} />
                <Route path="workings/:page?" element={<Workings />} />
                <Route path="bench" element={<Bench />} />
                <Route path="rehearse" element={<Rehearse />} />
                <Route path="sheets" element={<Sheets />} />
                <Route path="history" element={<History />} />
                <Route path="bring-up/*" element={<BringUp />} />
              </Route>
              <Route path="*" element={<Navigate to="/" replace />} />
            </Routes>
          </CatalogGate>
        </Boundary>
        <Toasts />
      </BrowserRouter>
    </Provider>
  </StrictMode>,
)

// The built application opens and works while its server is away; in development files change under it.
if (import.meta.env.PROD && 'serviceWorker' in navigator)
  navigator.serviceWorker.register('/service-worker.js').catch((error: unknown) => {
    console.warn('Mark Post will not open while its server is away:', error)
  })

// What opening a plan takes is fetched while the list is read.
const atLeisure = (): void => early(PlanFrame, Pins, Kit)
if ('requestIdleCallback' in window) window.requestIdleCallback(atLeisure)
else setTimeout(atLeisure, 500)
