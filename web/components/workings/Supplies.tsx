import type { ChartConfiguration, Plugin } from 'chart.js'
import { useCallback } from 'react'
import { type Budget, budgets } from '../../../core/circuit/budget.ts'
import { formatVolts } from '../../../core/electrical/quantity.ts'
import { useDerived } from '../../store/derived.ts'
import { Chart, type Inks } from '../Chart.tsx'

/** What each source has to give, part by part. */
export function Supplies() {
  const { wiring } = useDerived()
  const loaded = budgets(wiring).filter((one) => one.items.length > 0)
  if (loaded.length === 0) return <p className="soft">Nothing is fed yet.</p>
  return (
    <>
      {loaded.map((budget) => (
        <SupplySection key={budget.source.end} budget={budget} />
      ))}
    </>
  )
}

/** A line where the source ends, when it lies within the picture. */
const limitLine = (limit: number | undefined, inks: Inks): Plugin<'bar'> => ({
  id: 'limit',
  afterDatasetsDraw: ({ ctx, chartArea, scales }) => {
    const at = limit === undefined ? undefined : scales.x?.getPixelForValue(limit)
    if (at === undefined || at > chartArea.right) return
    ctx.save()
    ctx.strokeStyle = inks.flag
    ctx.lineWidth = 2
    ctx.beginPath()
    ctx.moveTo(at, chartArea.top)
    ctx.lineTo(at, chartArea.bottom)
    ctx.stroke()
    ctx.restore()
  },
})

function SupplySection({ budget }: { budget: Budget }) {
  const { source, typicalMilliamps, peakMilliamps } = budget
  const limit = source.limitMilliamps
  const items = [...budget.items].sort((a, b) => b.peakMilliamps - a.peakMilliamps)
  const config = useCallback(
    (inks: Inks): ChartConfiguration<'bar'> => {
      const rows = [...budget.items].sort((a, b) => b.peakMilliamps - a.peakMilliamps)
      return {
        type: 'bar',
        data: {
          labels: rows.map((one) => one.title),
          datasets: [
            {
              label: 'as a rule',
              data: rows.map((one) => one.typicalMilliamps),
              backgroundColor: inks.line,
            },
            {
              label: 'more at peaks',
              data: rows.map((one) => one.peakMilliamps - one.typicalMilliamps),
              backgroundColor: inks.shade,
              borderColor: inks.ink,
              borderWidth: 1,
            },
          ],
        },
        plugins: [limitLine(budget.source.limitMilliamps, inks)],
        options: {
          indexAxis: 'y',
          animation: false,
          maintainAspectRatio: false,
          scales: {
            x: {
              stacked: true,
              title: { display: true, text: 'mA' },
              suggestedMax:
                budget.source.limitMilliamps !== undefined && budget.peakMilliamps > budget.source.limitMilliamps / 4
                  ? budget.source.limitMilliamps
                  : undefined,
            },
            y: { stacked: true, grid: { display: false }, ticks: { autoSkip: false } },
          },
          plugins: { legend: { position: 'right', labels: { boxWidth: 18 } } },
        },
      }
    },
    [budget],
  )
  return (
    <section aria-label={source.end}>
      <h2>
        <span className="mono">{source.end}</span> {formatVolts(source.volts)}
      </h2>
      <p className="soft">
        {Math.round(typicalMilliamps)} mA as a rule and {Math.round(peakMilliamps)} mA when everything peaks at once
        {limit === undefined ? '; no limit is known' : `, of ${limit} mA (${source.why})`}.
        {budget.unknown.length > 0 && ` No figure is known for ${budget.unknown.join(', ')}.`}
      </p>
      <Chart
        height={44 + items.length * 24}
        config={config}
        label={`Current on ${source.end}: ${items.map((one) => `${one.title} ${Math.round(one.peakMilliamps)} mA`).join(', ')}`}
      />
    </section>
  )
}
