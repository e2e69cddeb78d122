import { NavLink, useParams } from 'react-router'
import { Buses } from '../components/workings/Buses.tsx'
import { Calculators } from '../components/workings/Calculators.tsx'
import { PinStates } from '../components/workings/PinStates.tsx'
import { Start } from '../components/workings/Start.tsx'
import { Supplies } from '../components/workings/Supplies.tsx'

const pages = [
  ['buses', 'Buses'],
  ['supplies', 'Supplies'],
  ['pins', 'Pins'],
  ['start', 'Start'],
  ['calculators', 'Calculators'],
] as const

/** Do the numbers work? Buses, supplies and the arithmetic behind the findings. */
export function Workings() {
  const { id, page = 'buses' } = useParams()
  return (
    <div className="workings">
      <h1 className="visually-hidden">Workings</h1>
      <nav className="working-pages" aria-label="Workings">
        {pages.map(([path, title]) => (
          <NavLink key={path} to={`/plan/${id}/workings/${path}`} className={page === path ? 'active' : ''}>
            {title}
          </NavLink>
        ))}
      </nav>
      {page === 'supplies' ? (
        <Supplies />
      ) : page === 'pins' ? (
        <PinStates />
      ) : page === 'start' ? (
        <Start />
      ) : page === 'calculators' ? (
        <Calculators />
      ) : (
        <Buses />
      )}
    </div>
  )
}
