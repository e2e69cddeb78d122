import { useEffect, useState } from 'react'
import { NavLink, useParams } from 'react-router'
import { CompareSource } from '../components/bringup/CompareSource.tsx'
import { HandOver } from '../components/bringup/HandOver.tsx'
import { type Practice, PracticeBar } from '../components/bringup/Practice.tsx'
import { Prove } from '../components/bringup/Prove.tsx'
import { Scan } from '../components/bringup/Scan.tsx'
import { Wrong } from '../components/bringup/Wrong.tsx'
import { useDerived } from '../store/derived.ts'

const pages = [
  ['prove', 'Prove the build'],
  ['wrong', 'What is wrong'],
  ['scan', 'Bus scan'],
  ['program', 'For the program'],
  ['compare', 'Program against plan'],
] as const

/** Does what I built, and what I programmed, do what I planned? */
export function BringUp() {
  // One route for all pages, so that what is practised stays from page to page.
  const { id, '*': rest } = useParams()
  const page = rest || 'prove'
  const { wiring } = useDerived()
  const [practice, setPractice] = useState<Practice>()
  // biome-ignore lint/correctness/useExhaustiveDependencies: a stand-in of other wires is no longer one of this plan
  useEffect(() => setPractice(undefined), [wiring])
  return (
    <div className={`workings bringup page-${page}`}>
      <h1 className="visually-hidden">Bring-up</h1>
      <nav className="working-pages" aria-label="Bring-up">
        {pages.map(([path, title]) => (
          <NavLink key={path} to={`/plan/${id}/bring-up/${path}`} className={page === path ? 'active' : ''}>
            {title}
          </NavLink>
        ))}
      </nav>
      {practice && <PracticeBar practice={practice} onEnd={() => setPractice(undefined)} />}
      {page === 'program' ? (
        <HandOver />
      ) : page === 'compare' ? (
        <CompareSource />
      ) : page === 'wrong' ? (
        <Wrong practice={practice} />
      ) : page === 'scan' ? (
        <Scan />
      ) : (
        <Prove practice={practice} onPractice={setPractice} />
      )}
    </div>
  )
}
