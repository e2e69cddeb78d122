import type { GivenRail } from '../catalog/partSchema.ts'
import { formatVolts } from '../electrical/quantity.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'

export const converterMessages = {
  converter: '{part} is set to {volts} and gets {gets}: it only makes {makes} of what it takes in.',
}

/** A converter that is set to what it cannot make of its input. */
export function sayConverter(
  wiring: Wiring,
  part: PartInstance,
  { pin, from, makes, margin = 0 }: GivenRail,
  report: (one: Report) => void,
): void {
  if (from === undefined || makes === undefined) return
  const [input, output] = [`${part.ref}.${from}`, `${part.ref}.${pin}`]
  const source = wiring.netOf(input).sources[0]
  const given = wiring.netOf(output).sources.find((one) => one.end === output)
  if (!source || !given || !wiring.netOf(output).wired) return
  const fits = makes === 'less' ? given.volts <= source.volts - margin : given.volts >= source.volts
  if (fits) return
  report({
    severity: 'fault',
    at: [input, output],
    message: 'converter',
    data: { part: part.ref, volts: formatVolts(given.volts), gets: formatVolts(source.volts), makes },
    why:
      makes === 'less'
        ? `A step-down converter needs at least ${formatVolts(given.volts + margin)} for that. With less its output follows its input, ${formatVolts(margin)} below it.`
        : `A step-up converter leads its input through a coil and a diode to its output: that never lies below the input, so what hangs there gets nearly ${formatVolts(source.volts)}.`,
    numbers: { in: source.volts, out: given.volts },
  })
}
