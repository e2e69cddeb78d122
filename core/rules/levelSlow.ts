import { volts } from '../catalog/common.ts'
import { DEVICE, LEAD } from '../circuit/i2cLines.ts'
import { networkOf } from '../circuit/still.ts'
import { formatQuantity } from '../electrical/quantity.ts'
import { levelsOf } from '../wiring/levels.ts'
import type { SignalUse, Wiring } from '../wiring/model.ts'
import type { Report } from './finding.ts'
import { setOhms } from './mend.ts'

/** Half a period in seconds of 1 MHz, the slowest clock of a four-wire bus in libraries: what is too slow for it works with none. */
export const CLOCK_SECONDS = 0.5e-6

/** How many times R · C pass until a line that rises to so many volts is read as high: ln(V / (V - VIH)). */
export const riseFactor = (volts: number, vih: number): number => Math.log(volts / (volts - vih))

/** Shortest pulse in seconds that an input must tell from none; undefined where nothing says. */
const pulseOf = ({ facts }: SignalUse): number | undefined =>
  facts.pulseSeconds ?? (['spi.sck', 'spi.mosi'].includes(facts.needs) ? CLOCK_SECONDS : undefined)

/**
 * A series resistor or a divider so large that the line has not risen when its shortest pulse is over. One input and one
 * lead of 20 cm are charged through it: t = R · C · ln(V / (V - VIH)).
 */
export function saySlow(wiring: Wiring, use: SignalUse, report: (one: Report) => void): void {
  const pulse = pulseOf(use)
  const link = use.hosts[0]
  if (pulse === undefined || !link || link.via.length === 0 || use.facts.direction !== 'in') return
  const { host } = link
  const high = host.logicVolts
  const vih = volts(levelsOf(use).vih, use.part.logicVolts)
  if (high === undefined || vih === undefined) return
  const at = networkOf(wiring).thevenin(wiring.netOf(use.end), { net: wiring.netOf(host.end), volts: high })
  // That the high level does not suffice at all is said as such.
  if (!at || at.volts <= vih) return
  const rise = at.ohms * (DEVICE + LEAD) * riseFactor(at.volts, vih)
  if (rise <= pulse) return
  const series = wiring.parts.find(({ ref, part }) => link.via.includes(ref) && part.helper === 'resistor')
  report({
    // A program may slow a bus down further; pulses of a length of their own it may not.
    severity: use.facts.pulseSeconds === undefined ? 'caution' : 'fault',
    at: [use.end, host.end, ...(series ? [series.ref] : [])],
    message: 'slow',
    data: {
      receiver: use.end,
      rise: formatQuantity(rise, 's'),
      ohms: formatQuantity(at.ohms, 'Ω'),
      pulse: formatQuantity(pulse, 's'),
    },
    why: `Through a resistor every edge is a slope: input and lead, some ${formatQuantity(DEVICE + LEAD, 'F')}, are charged through it (t = R · C · ln(V / (V − VIH))).${use.facts.pulseSeconds === undefined ? ' Libraries hardly ever run such a bus below 1 MHz.' : ''} A few hundred ohms are what such a line bears.`,
    numbers: { ohms: Math.round(at.ohms), rise, pulse },
    propose: () => (series ? setOhms(wiring, series, 330) : []),
  })
}
