import { useEffect, useMemo, useState } from 'react'
import { Button } from 'react-bootstrap'
import { useDerived } from '../../store/derived.ts'
import { useAppSelector } from '../../store/store.ts'
import { abilityLegend, BoardView, Post, type YardState } from '../BoardView.tsx'
import { litHost, viewFor, viewsOf } from '../yardViews.ts'
import type { Picked } from './usePicked.ts'

/** Boards and expanders with their posts, one at a time. */
export function Yard({ yard, picked: { use, best } }: { readonly yard: YardState; readonly picked: Picked }) {
  const { wiring } = useDerived()
  const picked = useAppSelector((state) => state.plan.picked)
  const litEnds = useAppSelector((state) => state.plan.lit)
  const [view, setView] = useState<string>()
  const views = useMemo(() => viewsOf(wiring), [wiring])
  const wanted = use
    ? viewFor(views, best[0]?.host ?? use.hosts[0]?.host, use)
    : viewFor(views, litHost(wiring, litEnds), undefined)
  // A view that was chosen by hand stays until another signal or finding is picked.
  useEffect(() => {
    if (picked !== undefined || litEnds.length > 0) setView(undefined)
  }, [picked, litEnds])
  const shown = views.find((one) => one.id === (view ?? wanted)) ?? views[0]
  return (
    <>
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
    </>
  )
}
