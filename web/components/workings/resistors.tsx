import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { entryOf } from '../../../core/base/entryOf.ts'
import { dividersOf } from '../../../core/circuit/dividers.ts'
import { i2cLines } from '../../../core/circuit/i2cLines.ts'
import { litDiodes } from '../../../core/circuit/lit.ts'
import { dividerFor } from '../../../core/electrical/divider.ts'
import { leastPullUp, mostPullUp } from '../../../core/electrical/i2c.ts'
import { ledResistor } from '../../../core/electrical/led.ts'
import { preferredValue } from '../../../core/electrical/preferred.ts'
import { formatQuantity, formatVolts } from '../../../core/electrical/quantity.ts'
import type { Edit } from '../../../core/plan/edit.ts'
import { useDerived, usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { Amount, Calculator, Choice } from './fields.tsx'

/** Edits that give resistors of the plan new values in ohms. */
function useSetOhms(): (values: Readonly<Record<string, number>>) => void {
  const plan = usePlan()
  return (values) => {
    const edits = Object.entries(values).map(
      ([ref, ohms]): Edit => ({
        do: 'change-part',
        ref,
        entry: { options: { ...entryOf(plan.parts, ref)?.options, ohms } },
      }),
    )
    edit(edits, `Set ${Object.keys(values).join(' and ')}`)
  }
}

export function LedSeries() {
  const { wiring } = useDerived()
  const setOhms = useSetOhms()
  const lights = litDiodes(wiring).filter((one) => one.resistor)
  const [picked, setPicked] = useState('')
  const light = lights.find((one) => one.anode === picked) ?? lights[0]
  const [typed, setTyped] = useState<{ volts?: number; forward?: number; milliamps?: number; tolerance?: number }>({})
  const [series, setSeries] = useState<'E12' | 'E24'>('E12')
  const tolerance = typed.tolerance ?? Number(light?.resistor?.options.tolerance ?? 5)
  const volts = typed.volts ?? light?.volts ?? 5
  const forward = typed.forward ?? light?.forward ?? 2
  const milliamps = typed.milliamps ?? 8
  const rating = Number(light?.resistor?.options.watts ?? 0.25)
  const point = ledResistor({ volts, forward, forwardLeast: forward * 0.9, milliamps, tolerance, series })
  return (
    <Calculator
      title="Resistor of an LED"
      inputs={
        <>
          {lights.length > 0 && (
            <Choice
              label="LED"
              value={light?.anode ?? ''}
              options={lights.map((one) => [
                one.anode,
                one.part.title === one.part.part.title ? one.anode : `${one.part.ref} ${one.part.title}`,
              ])}
              onValue={(value) => {
                setPicked(value)
                setTyped({})
              }}
            />
          )}
          <Amount label="Supply" unit="V" value={volts} onValue={(value) => setTyped({ ...typed, volts: value })} />
          <Amount
            label="Forward voltage"
            unit="V"
            value={forward}
            onValue={(value) => setTyped({ ...typed, forward: value })}
          />
          <Amount
            label="Current"
            unit="A"
            value={milliamps / 1000}
            onValue={(value) => setTyped({ ...typed, milliamps: value * 1000 })}
          />
          <Amount
            label="Tolerance in percent"
            unit=""
            value={tolerance}
            onValue={(value) => setTyped({ ...typed, tolerance: Math.min(50, value) })}
          />
          <Choice
            label="Series"
            value={series}
            options={[
              ['E12', 'E12'],
              ['E24', 'E24'],
            ]}
            onValue={(value) => setSeries(value === 'E24' ? 'E24' : 'E12')}
          />
        </>
      }
    >
      {point === undefined ? (
        <p>
          {formatVolts(volts)} does not reach the {formatVolts(forward)} at which it lights.
        </p>
      ) : (
        <>
          <p>
            R = (V − Vf) / I = {formatQuantity(point.exact, 'Ω')}; next value up:{' '}
            <b>{formatQuantity(point.taken, 'Ω')}</b>
          </p>
          <p>
            With it {point.milliamps.toFixed(1)} mA; at worst {point.mostMilliamps.toFixed(1)} mA (Vf a tenth lower,
            resistor {tolerance} % low).
          </p>
          <p>
            The resistor turns {formatQuantity(point.watts, 'W')} into heat
            {point.watts > rating ? (
              <b>, more than its {formatQuantity(rating, 'W')}</b>
            ) : (
              `; it is rated ${formatQuantity(rating, 'W')}`
            )}
            .
          </p>
          {light?.resistor && light.resistor.options.ohms !== point.taken && (
            <Button size="sm" variant="dark" onClick={() => setOhms({ [light.resistor?.ref ?? '']: point.taken })}>
              Put {formatQuantity(point.taken, 'Ω')} into {light.resistor.ref}
            </Button>
          )}
        </>
      )}
      {light && (
        <p className="soft">
          Now {formatQuantity(light.ohms, 'Ω')} and {light.milliamps.toFixed(1)} mA, typical Vf {light.forward} V.
        </p>
      )}
    </Calculator>
  )
}

export function Divider() {
  const { wiring } = useDerived()
  const setOhms = useSetOhms()
  const found = dividersOf(wiring)
  const [picked, setPicked] = useState('')
  const divider = found.find((one) => one.top.ref === picked) ?? found[0]
  const [typed, setTyped] = useState<{ from?: number; to?: number }>({})
  const from = typed.from ?? divider?.volts ?? 5
  const to = typed.to ?? divider?.host?.logicVolts ?? 3.3
  const values = dividerFor(from, to, to * 1.02)
  return (
    <Calculator
      title="Divider"
      inputs={
        <>
          {found.length > 0 && (
            <Choice
              label="Resistors"
              value={divider?.top.ref ?? ''}
              options={found.map((one) => [one.top.ref, `${one.top.ref} over ${one.bottom.ref}`])}
              onValue={(value) => {
                setPicked(value)
                setTyped({})
              }}
            />
          )}
          <Amount label="In" unit="V" value={from} onValue={(value) => setTyped({ ...typed, from: value })} />
          <Amount label="Out" unit="V" value={to} onValue={(value) => setTyped({ ...typed, to: value })} />
        </>
      }
    >
      {values === undefined ? (
        <p>Nothing to divide: the input is not above the output.</p>
      ) : (
        <>
          <p>
            <b>{formatQuantity(values.top, 'Ω')}</b> above and <b>{formatQuantity(values.bottom, 'Ω')}</b> below make{' '}
            {formatVolts(values.volts)}: V · R2 / (R1 + R2).
          </p>
          <p>
            Seen from the pin {formatQuantity((values.top * values.bottom) / (values.top + values.bottom), 'Ω')}; it
            draws {((from / (values.top + values.bottom)) * 1000).toFixed(2)} mA.
          </p>
          {divider && (
            <Button
              size="sm"
              variant="dark"
              onClick={() => setOhms({ [divider.top.ref]: values.top, [divider.bottom.ref]: values.bottom })}
            >
              Put them into {divider.top.ref} and {divider.bottom.ref}
            </Button>
          )}
        </>
      )}
      {divider?.out !== undefined && (
        <p className="soft">
          Now {formatQuantity(Number(divider.top.options.ohms), 'Ω')} over{' '}
          {formatQuantity(Number(divider.bottom.options.ohms), 'Ω')}: {formatVolts(divider.out)}.
        </p>
      )}
    </Calculator>
  )
}

export function PullUpRange() {
  const { wiring } = useDerived()
  const setOhms = useSetOhms()
  const lines = i2cLines(wiring)
  const line = lines[0]
  const [typed, setTyped] = useState<{ volts?: number; farads?: number; hertz?: number }>({})
  const volts = typed.volts ?? line?.volts ?? 3.3
  const farads = typed.farads ?? line?.farads ?? 1e-10
  const hertz = typed.hertz ?? line?.hertz ?? 100_000
  const [least, most] = [leastPullUp(volts), mostPullUp(hertz, farads)]
  const middle = preferredValue(Math.sqrt(least * most), 'up')
  const own = wiring.parts.filter(
    (part) =>
      part.part.helper === 'resistor' &&
      lines.some(
        (one) =>
          one.parts === line?.parts &&
          ['1', '2'].some((leg) => wiring.netOf(`${part.ref}.${leg}`) === wiring.netOf(one.use.end)),
      ),
  )
  return (
    <Calculator
      title="Pull-ups of an I2C bus"
      inputs={
        <>
          <Amount label="Supply" unit="V" value={volts} onValue={(value) => setTyped({ ...typed, volts: value })} />
          <Amount label="Load" unit="F" value={farads} onValue={(value) => setTyped({ ...typed, farads: value })} />
          <Amount label="Clock" unit="Hz" value={hertz} onValue={(value) => setTyped({ ...typed, hertz: value })} />
        </>
      }
    >
      <p>
        From <b>{formatQuantity(least, 'Ω')}</b>, which a device can still pull low with 3 mA, to{' '}
        <b>{formatQuantity(most, 'Ω')}</b>, which still rises in time.
      </p>
      {most < least ? (
        <p>No resistor does both: a shorter bus or a slower clock is needed.</p>
      ) : (
        <p>{formatQuantity(middle, 'Ω')} lies in the middle.</p>
      )}
      {own.length > 0 && most >= least && (
        <Button
          size="sm"
          variant="dark"
          onClick={() => setOhms(Object.fromEntries(own.map((part) => [part.ref, middle])))}
        >
          Put {formatQuantity(middle, 'Ω')} into {own.map((part) => part.ref).join(' and ')}
        </Button>
      )}
    </Calculator>
  )
}
