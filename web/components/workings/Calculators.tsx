import { AdcSpan } from './AdcSpan.tsx'
import { Battery } from './Battery.tsx'
import { Divider, LedSeries, PullUpRange } from './resistors.tsx'
import { Echo, KeyMatrix, ServoPulse, Shunt } from './small.tsx'

/** Arithmetic where it is needed: filled from the plan, and written back to it. */
export function Calculators() {
  return (
    <div className="calculators">
      <LedSeries />
      <Divider />
      <PullUpRange />
      <AdcSpan />
      <ServoPulse />
      <Echo />
      <Shunt />
      <Battery />
      <KeyMatrix />
    </div>
  )
}
