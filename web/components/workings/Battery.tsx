import type { ChartConfiguration } from 'chart.js'
import { useCallback, useState } from 'react'
import { type Budget, budgets } from '../../../core/circuit/budget.ts'
import { batteryLife } from '../../../core/electrical/power.ts'
import { formatVolts } from '../../../core/electrical/quantity.ts'
import { useDerived } from '../../store/derived.ts'
import { Chart, type Inks } from '../Chart.tsx'
import { Amount, Calculator, Choice } from './fields.tsx'

/** How long a battery lasts, and what is left of it over a day. */
export function Battery() {
  const { wiring } = useDerived()
  const loaded = budgets(wiring).filter((one) => one.typicalMilliamps > 0)
  const [picked, setPicked] = useState('')
  const budget = loaded.find((one) => one.source.end === picked) ?? loaded[0]
  const [typed, setTyped] = useState<{
    capacity?: number
    share?: number
    awake?: number
    asleep?: number
    duty?: number
  }>({})
  const capacity = typed.capacity ?? 2000
  const share = typed.share ?? 80
  const awake = typed.awake ?? budget?.typicalMilliamps ?? 80
  const asleep = typed.asleep ?? 0.05
  const duty = typed.duty ?? 100
  const { milliamps, hours } = batteryLife({
    capacity,
    derating: Math.min(100, share) / 100,
    awake,
    asleep,
    duty: Math.min(100, duty) / 100,
  })
  const config = useCallback(
    (inks: Inks): ChartConfiguration<'line'> => {
      const left = Array.from({ length: 25 }, (_, hour) => Math.max(0, 100 * (1 - hour / hours)))
      return {
        type: 'line',
        data: {
          labels: left.map((_, hour) => String(hour)),
          datasets: [{ label: 'left', data: left, borderColor: inks.line, borderWidth: 2, pointRadius: 0 }],
        },
        options: {
          animation: false,
          maintainAspectRatio: false,
          scales: {
            x: { title: { display: true, text: 'hours' }, ticks: { maxTicksLimit: 9 } },
            y: { min: 0, max: 100, title: { display: true, text: '% left' } },
          },
          plugins: { legend: { display: false } },
        },
      }
    },
    [hours],
  )
  return (
    <Calculator
      title="Life of a battery"
      inputs={
        <>
          {loaded.length > 0 && (
            <Choice
              label="Load"
              value={budget?.source.end ?? ''}
              options={loaded.map((one) => [one.source.end, `${one.source.end}, ${formatVolts(one.source.volts)}`])}
              onValue={(value) => {
                setPicked(value)
                setTyped({ ...typed, awake: undefined })
              }}
            />
          )}
          <Amount
            label="Capacity"
            unit="Ah"
            value={capacity / 1000}
            onValue={(value) => setTyped({ ...typed, capacity: value * 1000 })}
          />
          <Amount
            label="Usable, percent"
            unit=""
            value={share}
            onValue={(value) => setTyped({ ...typed, share: value })}
          />
          <Amount
            label="Awake"
            unit="A"
            value={awake / 1000}
            onValue={(value) => setTyped({ ...typed, awake: value * 1000 })}
          />
          <Amount
            label="Asleep"
            unit="A"
            value={asleep / 1000}
            onValue={(value) => setTyped({ ...typed, asleep: value * 1000 })}
          />
          <Amount
            label="Awake, percent"
            unit=""
            value={duty}
            onValue={(value) => setTyped({ ...typed, duty: value })}
          />
        </>
      }
    >
      <p>
        {milliamps < 1 ? milliamps.toFixed(3) : milliamps.toFixed(1)} mA on average: <b>{lifeWords(hours)}</b>.
      </p>
      <p className="soft">Capacity · usable share / mean current. {boardWords(budget)}</p>
      <Chart height={150} config={config} label={`Charge left over a day; empty after ${lifeWords(hours)}`} />
    </Calculator>
  )
}

/** Whether the load holds what a board takes itself. */
function boardWords(budget: Budget | undefined): string {
  const own = budget?.items.find(({ board }) => board)
  return own
    ? `What ${own.board?.ref} takes itself, about ${own.typicalMilliamps} mA awake, is in it; asleep its regulator and its lights go on.`
    : 'What the board itself takes is not in it: add it.'
}

const lifeWords = (hours: number): string =>
  !Number.isFinite(hours)
    ? 'no end'
    : hours < 48
      ? `${hours.toFixed(1)} hours`
      : hours < 24 * 90
        ? `${(hours / 24).toFixed(1)} days`
        : `${(hours / 24 / 30.4).toFixed(0)} months`
