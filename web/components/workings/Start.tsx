import { resetStates } from '../../../core/circuit/atReset.ts'
import { useDerived } from '../../store/derived.ts'

/** What everything that moves does while the boards start. */
export function Start() {
  const { wiring } = useDerived()
  const states = resetStates(wiring)
  if (states.length === 0)
    return (
      <p className="soft mt-3">
        Nothing that moves is wired to a pin yet. Motors, relays, servos and transistors stand here, with what they do
        until the program has set their pins.
      </p>
    )
  return (
    <section aria-label="While the board starts">
      <h2>While the board starts</h2>
      <table className="facts wide">
        <thead>
          <tr>
            <th>What</th>
            <th>Pin</th>
            <th>Pin at reset</th>
            <th>Held by a resistor</th>
            <th>Then</th>
          </tr>
        </thead>
        <tbody>
          {states.map((one) => (
            <tr key={`${one.use.end} ${one.host.end}`}>
              <th>
                <span className="mono">{one.use.end}</span> <span className="soft">{one.use.part.title}</span>
              </th>
              <td className="mono">{one.host.end}</td>
              <td>{one.does}</td>
              <td>{one.held ?? 'no'}</td>
              <td>{one.cause ? <b>may move (acts on {one.use.facts.activeLevel})</b> : 'rests'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
