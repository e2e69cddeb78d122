import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { counted } from '../../../core/base/counted.ts'
import { helpersFor } from '../../../core/catalog/catalog.ts'
import { budgets } from '../../../core/circuit/budget.ts'
import { matrixSize } from '../../../core/electrical/matrix.ts'
import { shunt } from '../../../core/electrical/power.ts'
import { echoMicroseconds, SERVO_FRAME, servoPulse, soundSpeed } from '../../../core/electrical/pulses.ts'
import { formatQuantity } from '../../../core/electrical/quantity.ts'
import { addParts } from '../../../core/plan/kit.ts'
import { useCatalog, useDerived, usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { Amount, Calculator } from './fields.tsx'

export function ServoPulse() {
  const [degrees, setDegrees] = useState(90)
  const [span, setSpan] = useState(180)
  const [least, setLeast] = useState(1000)
  const [most, setMost] = useState(2000)
  const pulse = servoPulse(degrees, Math.max(1, span), least, most)
  return (
    <Calculator
      title="Pulse of a servo"
      inputs={
        <>
          <Amount label="Angle in degrees" unit="" value={degrees} onValue={setDegrees} />
          <Amount label="Travel in degrees" unit="" value={span} onValue={setSpan} />
          <Amount label="Shortest pulse" unit="s" value={least / 1e6} onValue={(value) => setLeast(value * 1e6)} />
          <Amount label="Longest pulse" unit="s" value={most / 1e6} onValue={(value) => setMost(value * 1e6)} />
        </>
      }
    >
      <p>
        <b>{Math.round(pulse)} µs</b> in a frame of 20 ms: {((100 * pulse) / SERVO_FRAME).toFixed(2)} %, or{' '}
        {Math.round((pulse / SERVO_FRAME) * 4096)} of 4096 steps.
      </p>
    </Calculator>
  )
}

export function Echo() {
  const [metres, setMetres] = useState(1)
  const [celsius, setCelsius] = useState(20)
  return (
    <Calculator
      title="Time of an echo"
      inputs={
        <>
          <Amount label="Distance" unit="m" value={metres} onValue={setMetres} />
          <Amount label="Temperature in °C" unit="" least={-273.15} value={celsius} onValue={setCelsius} />
        </>
      }
    >
      <p>
        <b>{Math.round(echoMicroseconds(metres, celsius))} µs</b> there and back at {soundSpeed(celsius).toFixed(1)}{' '}
        m/s; wait at least that long for an answer.
      </p>
    </Calculator>
  )
}

export function Shunt() {
  const { wiring } = useDerived()
  const peak = Math.max(0, ...budgets(wiring).map((one) => one.peakMilliamps)) / 1000
  const [amperes, setAmperes] = useState<number>()
  const [ohms, setOhms] = useState(0.1)
  const now = amperes ?? (peak > 0 ? peak : 1)
  const { volts, watts } = shunt(now, ohms)
  return (
    <Calculator
      title="Shunt"
      inputs={
        <>
          <Amount label="Current" unit="A" value={now} onValue={setAmperes} />
          <Amount label="Shunt" unit="Ω" value={ohms} onValue={setOhms} />
        </>
      }
    >
      <p>
        <b>{formatQuantity(volts, 'V')}</b> over it, and {formatQuantity(watts, 'W')} of heat in it.
      </p>
    </Calculator>
  )
}

export function KeyMatrix() {
  const plan = usePlan()
  const catalog = useCatalog()
  const buttons = Object.values(plan.parts).filter((entry) => catalog.parts.get(entry.part)?.helper === 'button').length
  const [keys, setKeys] = useState<number>()
  const count = Math.max(1, Math.min(400, Math.round(keys ?? Math.max(buttons, 4))))
  const size = matrixSize(count)
  const [part] = helpersFor(catalog, 'key-matrix')
  return (
    <Calculator title="Key matrix" inputs={<Amount label="Keys" unit="" value={count} onValue={setKeys} />}>
      <p>
        <b>
          {size.rows} × {size.columns}
        </b>{' '}
        takes {counted(size.pins, 'pin')} for {counted(count, 'key')}, with a diode for each key.
      </p>
      {part && count > 3 && size.rows <= 8 && size.columns <= 8 && (
        <Button
          size="sm"
          variant="dark"
          onClick={() =>
            edit(
              addParts(plan, catalog, part, 1, { options: { rows: size.rows, columns: size.columns } }),
              'Add a key matrix',
            )
          }
        >
          Add it to the kit
        </Button>
      )}
    </Calculator>
  )
}
