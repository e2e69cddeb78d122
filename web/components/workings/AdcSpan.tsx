import type { ChartConfiguration } from 'chart.js'
import { useCallback, useState } from 'react'
import { analogSpan } from '../../../core/circuit/analog.ts'
import { adcReading, usableBits } from '../../../core/electrical/adc.ts'
import { formatQuantity, formatVolts } from '../../../core/electrical/quantity.ts'
import { useDerived } from '../../store/derived.ts'
import { Chart, type Inks } from '../Chart.tsx'
import { Amount, Calculator, Choice } from './fields.tsx'

/** What a converter makes of a sensor's span. */
export function AdcSpan() {
  const { wiring } = useDerived()
  const spans = wiring.signals.flatMap((use) => {
    const span = analogSpan(wiring, use)
    return span ? [{ use, span }] : []
  })
  const [picked, setPicked] = useState('')
  const one = spans.find(({ use }) => use.end === picked) ?? spans[0]
  const [typed, setTyped] = useState<{ least?: number; most?: number; reference?: number; bits?: number }>({})
  const bits = Math.max(1, Math.min(24, Math.round(typed.bits ?? one?.span.unit.bits ?? 10)))
  const reference = typed.reference ?? one?.span.unit.most ?? 5
  const most = typed.most ?? one?.span.most ?? reference
  const least = typed.least ?? 0
  const at = (volts: number): number => adcReading(volts, reference, bits).counts
  const config = useCallback(
    (inks: Inks): ChartConfiguration<'line'> => {
      const points = Array.from({ length: 25 }, (_, index) => least + ((most - least) * index) / 24)
      return {
        type: 'line',
        data: {
          datasets: [
            {
              label: 'counts',
              data: points.map((x) => ({ x, y: adcReading(x, reference, bits).counts })),
              borderColor: inks.line,
              borderWidth: 2,
              pointRadius: 0,
            },
          ],
        },
        options: {
          animation: false,
          maintainAspectRatio: false,
          scales: {
            x: { type: 'linear', title: { display: true, text: 'V' } },
            y: { min: 0, max: 2 ** bits, title: { display: true, text: 'counts' } },
          },
          plugins: { legend: { display: false } },
        },
      }
    },
    [least, most, reference, bits],
  )
  return (
    <Calculator
      title="Reading of an analog sensor"
      inputs={
        <>
          {spans.length > 0 && (
            <Choice
              label="Signal"
              value={one?.use.end ?? ''}
              options={spans.map(({ use, span }) => [use.end, `${use.end} on ${span.host.end}`])}
              onValue={(value) => {
                setPicked(value)
                setTyped({})
              }}
            />
          )}
          <Amount label="From" unit="V" value={least} onValue={(value) => setTyped({ ...typed, least: value })} />
          <Amount label="To" unit="V" value={most} onValue={(value) => setTyped({ ...typed, most: value })} />
          <Amount
            label="Range of the converter"
            unit="V"
            value={reference}
            onValue={(value) => setTyped({ ...typed, reference: Math.max(0.01, value) })}
          />
          <Amount label="Bits" unit="" value={bits} onValue={(value) => setTyped({ ...typed, bits: value })} />
        </>
      }
    >
      <p>
        Reads <b>{at(least)}</b> to <b>{at(most)}</b> of {2 ** bits - 1}; one step is{' '}
        {formatQuantity(reference / 2 ** bits, 'V')}.
      </p>
      <p>
        {usableBits(Math.min(most, reference) - least, reference, bits).toFixed(1)} of {bits} bits are used
        {most > reference * 1.001 ? `; above ${formatVolts(reference)} everything reads full scale` : ''}.
      </p>
      <Chart
        height={150}
        config={config}
        label={`Counts rise from ${at(least)} at ${formatVolts(least)} to ${at(most)} at ${formatVolts(most)}`}
      />
    </Calculator>
  )
}
