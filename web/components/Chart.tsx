import {
  BarController,
  BarElement,
  Chart as Canvas,
  CategoryScale,
  type ChartConfiguration,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  LogarithmicScale,
  PointElement,
  Tooltip,
} from 'chart.js'
import { useEffect, useRef, useSyncExternalStore } from 'react'

Canvas.register(
  BarController,
  BarElement,
  CategoryScale,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  LogarithmicScale,
  PointElement,
  Tooltip,
)

/** Colours of the theme in use, read from its variables. */
export interface Inks {
  readonly ink: string
  readonly soft: string
  readonly rule: string
  readonly line: string
  readonly flag: string
  readonly shade: string
}

const read = (): Inks => {
  const style = getComputedStyle(document.documentElement)
  const of = (name: string): string => style.getPropertyValue(`--mp-${name}`).trim()
  return { ink: of('ink'), soft: of('soft'), rule: of('rule'), line: of('line'), flag: of('flag'), shade: of('shade') }
}

const themeName = (): string => document.documentElement.dataset.bsTheme ?? 'light'
const onTheme = (tell: () => void): (() => void) => {
  const observer = new MutationObserver(tell)
  observer.observe(document.documentElement, { attributes: true, attributeFilter: ['data-bs-theme'] })
  return () => observer.disconnect()
}

interface ChartProps {
  /** What the chart says, in a sentence, for those who do not see it. */
  readonly label: string
  readonly height: number
  /** Made anew whenever it changes; callers keep it stable. */
  readonly config: (inks: Inks) => ChartConfiguration<'bar'> | ChartConfiguration<'line'>
}

/** A chart in the colours of the theme, still, without gridline noise. */
export function Chart({ label, height, config }: ChartProps) {
  const place = useRef<HTMLCanvasElement>(null)
  const theme = useSyncExternalStore(onTheme, themeName)
  useEffect(() => {
    if (!place.current || theme === '') return
    const inks = read()
    Canvas.defaults.font.family = getComputedStyle(document.body).fontFamily
    Canvas.defaults.font.size = 13
    Canvas.defaults.color = inks.ink
    Canvas.defaults.borderColor = inks.rule
    const made = new Canvas(place.current, config(inks) as ChartConfiguration)
    return () => made.destroy()
  }, [config, theme])
  return (
    <div className="chart-box" style={{ height }}>
      <canvas ref={place} role="img" aria-label={label} />
    </div>
  )
}
