import '@fontsource/sofia-sans-semi-condensed/400.css'
import '@fontsource/sofia-sans-semi-condensed/500.css'
import '@fontsource/sofia-sans-semi-condensed/600.css'
import '@fontsource/sofia-sans-semi-condensed/700.css'
import '@fontsource/spline-sans-mono/400.css'
import '@fontsource/spline-sans-mono/500.css'
import '@fontsource/spline-sans-mono/600.css'
import '@fontsource/spline-sans-mono/700.css'
import './theme/theme.scss'
import { lazy, StrictMode, Suspense } from 'react'
import { Spinner } from 'react-bootstrap'
import { createRoot } from 'react-dom/client'
import { Provider } from 'react-redux'
import { BrowserRouter, Navigate, Route, Routes } from 'react-router'
import { CatalogGate } from './components/CatalogGate.tsx'
import { Boundary } from './components/pen/Boundary.tsx'
import { Toasts } from './components/Toasts.tsx'
import { Bench } from './places/Bench.tsx'
import { Kit } from './places/Kit.tsx'
import { Pins } from './places/Pins.tsx'
import { PlanFrame } from './places/PlanFrame.tsx'
import { Plans } from './places/Plans.tsx'
import { Sheets } from './places/Sheets.tsx'
import { Shelf } from './places/Shelf.tsx'
import { startDesk } from './store/desk.ts'
import { store } from './store/store.ts'
import { applyTheme, chosenTheme } from './theme/theme.ts'

// The charts are large and only needed there.
const Workings = lazy(() => import('./places/Workings.tsx').then((module) => ({ default: module.Workings })))

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
                <Route
                  path="workings/:page?"
                  element={
                    <Suspense fallback={<Spinner animation="border" role="status" aria-label="Loading the workings" />}>
                      <Workings />
                    </Suspense>
                  }
                />
                <Route path="bench" element={<Bench />} />
                <Route path="sheets" element={<Sheets />} />
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
