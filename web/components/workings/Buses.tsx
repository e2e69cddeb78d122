import type { ChartConfiguration } from 'chart.js'
import { useCallback } from 'react'
import { Form } from 'react-bootstrap'
import { entryOf } from '../../../core/base/entryOf.ts'
import { type I2cView, i2cViews, oneWireViews, spiViews, uartViews } from '../../../core/circuit/busView.ts'
import { hexAddress } from '../../../core/electrical/hexAddress.ts'
import { leastPullUp, mostPullUp, riseLimit, riseNanoseconds } from '../../../core/electrical/i2c.ts'
import { formatQuantity, formatVolts } from '../../../core/electrical/quantity.ts'
import { strapEdits } from '../../../core/wiring/i2c.ts'
import type { PartInstance } from '../../../core/wiring/model.ts'
import { useDerived, usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { Chart, type Inks } from '../Chart.tsx'

/** Every bus of the plan with what hangs on it and how fast it can run. */
export function Buses() {
  const { wiring } = useDerived()
  const i2c = i2cViews(wiring)
  const spi = spiViews(wiring)
  const uart = uartViews(wiring)
  const oneWire = oneWireViews(wiring)
  if (i2c.length + spi.length + uart.length + oneWire.length === 0)
    return (
      <p className="soft">No bus is wired yet. Place a part that talks over I2C, SPI or UART, and it stands here.</p>
    )
  return (
    <>
      {i2c.map((view) => (
        <I2cSection key={view.devices.map((one) => one.part.ref).join()} view={view} />
      ))}
      {spi.map((view) => (
        <section key={view.devices.map((one) => one.part.ref).join()} aria-label={view.title}>
          <h2>{view.title}</h2>
          <p className="soft">
            {[...view.pins].map(([signal, end]) => `${signal.toUpperCase()} ${end}`).join(', ')}. Together up to{' '}
            {view.fastest === undefined ? 'a clock that no figure gives' : formatQuantity(view.fastest, 'Hz')}
            {view.modes.length > 0
              ? `, SPI mode ${view.modes.join(' or ')} suits all.`
              : ', each in its own SPI mode: set it before every transfer.'}
          </p>
          <table className="facts wide">
            <thead>
              <tr>
                <th>Part</th>
                <th>Select</th>
                <th>Modes</th>
                <th>Up to</th>
                <th>MISO</th>
              </tr>
            </thead>
            <tbody>
              {view.devices.map((one) => (
                <tr key={one.part.ref}>
                  <PartHead part={one.part} />
                  <td className="mono">{one.select ?? 'none'}</td>
                  <td>{one.modes.join(', ') || 'not known'}</td>
                  <td>{one.most === undefined ? 'not known' : formatQuantity(one.most, 'Hz')}</td>
                  <td>
                    {one.releases === undefined ? 'not driven' : one.releases ? 'let go of' : <b>never let go of</b>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
      {uart.length > 0 && (
        <section aria-label="UARTs">
          <h2>UARTs</h2>
          <table className="facts wide">
            <thead>
              <tr>
                <th>Part</th>
                <th>On</th>
                <th>Pins of the board</th>
                <th>Rates</th>
                <th>Levels</th>
              </tr>
            </thead>
            <tbody>
              {uart.map((one) => (
                <tr key={one.part.ref}>
                  <PartHead part={one.part} />
                  <td>{one.title}</td>
                  <td className="mono">
                    {[...one.pins].map(([signal, end]) => `${signal.toUpperCase()} ${end}`).join(', ')}
                  </td>
                  <td>{one.baud.join(', ') || 'not known'}</td>
                  <td>{one.levels}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      {oneWire.length > 0 && (
        <section aria-label="Single-wire lines">
          <h2>Single-wire lines</h2>
          <table className="facts wide">
            <thead>
              <tr>
                <th>Pin</th>
                <th>Devices</th>
                <th>Pull-up</th>
              </tr>
            </thead>
            <tbody>
              {oneWire.map((one) => (
                <tr key={one.host.end}>
                  <th className="mono">{one.host.end}</th>
                  <td>{one.parts.map((part) => part.ref).join(', ')}</td>
                  <td>
                    {one.ohms === undefined ? 'none' : formatQuantity(one.ohms, 'Ω')} (at most{' '}
                    {formatQuantity(one.mostOhms, 'Ω')})
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </>
  )
}

const PartHead = ({ part }: { part: PartInstance }) => (
  <th>
    <span className="mono">{part.ref}</span> <span className="soft">{part.title}</span>
  </th>
)

function I2cSection({ view }: { view: I2cView }) {
  const { wiring } = useDerived()
  const plan = usePlan()
  const line = view.lines[0]
  const { bus } = view
  const board = bus?.board
  const controller = bus?.controller
  const asked =
    board && controller !== undefined ? entryOf(entryOf(plan.boards, board.ref)?.clocks, controller) : undefined
  return (
    <section aria-label={view.title}>
      <h2>{view.title}</h2>
      {line && (
        <div className="working-row">
          <div>
            <dl className="working-facts">
              <dt>Pull-ups together</dt>
              <dd>
                {view.lines.map((one) => (
                  <span key={one.signal}>
                    {one.signal} {one.ohms === undefined ? 'none' : formatQuantity(one.ohms, 'Ω')}{' '}
                  </span>
                ))}
                to {formatVolts(line.volts)}
              </dd>
              <dt>Allowed at {formatQuantity(line.hertz, 'Hz')}</dt>
              <dd>
                {formatQuantity(leastPullUp(line.volts), 'Ω')} to{' '}
                {formatQuantity(mostPullUp(line.hertz, line.farads), 'Ω')}
              </dd>
              <dt>Rise time, estimated</dt>
              <dd>
                {view.rise === undefined ? 'no pull-up' : `${Math.round(view.rise)} ns of ${riseLimit(line.hertz)} ns`}{' '}
                ({formatQuantity(line.farads, 'F')}: 10 pF a device, 20 pF a lead)
              </dd>
              <dt>Fastest common clock</dt>
              <dd>{view.fastest === undefined ? 'not known' : formatQuantity(view.fastest, 'Hz')}</dd>
              {board && controller !== undefined && (
                <>
                  <dt>Clock in the program</dt>
                  <dd>
                    <Form.Select
                      size="sm"
                      className="d-inline-block w-auto"
                      aria-label={`Clock of ${view.title}`}
                      value={asked ?? 100_000}
                      onChange={(event) =>
                        edit(
                          [
                            {
                              do: 'change-board',
                              ref: board.ref,
                              entry: {
                                clocks: {
                                  ...entryOf(plan.boards, board.ref)?.clocks,
                                  [controller]: Number(event.target.value),
                                },
                              },
                            },
                          ],
                          `Set the clock of ${view.title}`,
                        )
                      }
                    >
                      {[...new Set([10_000, 50_000, 100_000, 400_000, 1_000_000, asked ?? 100_000])]
                        .sort((a, b) => a - b)
                        .map((hertz) => (
                          <option key={hertz} value={hertz}>
                            {formatQuantity(hertz, 'Hz')}
                          </option>
                        ))}
                    </Form.Select>
                  </dd>
                </>
              )}
            </dl>
          </div>
          <RiseChart farads={line.farads} ohms={line.ohms} volts={line.volts} />
        </div>
      )}
      <table className="facts wide">
        <thead>
          <tr>
            <th>Part</th>
            <th>Address</th>
            <th>Free straps</th>
            <th>Up to</th>
            <th>Pull-up on it</th>
          </tr>
        </thead>
        <tbody>
          {view.devices.map((one) => (
            <tr key={one.part.ref}>
              <PartHead part={one.part} />
              <td className="mono">{one.addresses.map(hexAddress).join(', ')}</td>
              <td>
                {one.option === undefined || one.free.length === 0 ? (
                  <span className="soft">{one.option === undefined ? 'fixed' : 'none'}</span>
                ) : (
                  <Form.Select
                    size="sm"
                    className="w-auto"
                    aria-label={`Another address for ${one.part.ref}`}
                    value=""
                    onChange={(event) => {
                      const option = one.option as string
                      const entry = entryOf(plan.parts, one.part.ref)
                      edit(
                        [
                          {
                            do: 'change-part',
                            ref: one.part.ref,
                            entry: { options: { ...entry?.options, [option]: Number(event.target.value) } },
                          },
                          ...(strapEdits(wiring, one.part, option, event.target.value) ?? []),
                        ],
                        `Move ${one.part.ref} to ${hexAddress(Number(event.target.value))}`,
                      )
                    }}
                  >
                    <option value="">{one.free.map(({ value }) => hexAddress(value)).join(' ')}</option>
                    {one.free.map(({ value, title }) => (
                      <option key={value} value={value}>
                        {hexAddress(value)} {title}
                      </option>
                    ))}
                  </Form.Select>
                )}
              </td>
              <td>{one.most === undefined ? 'not known' : formatQuantity(one.most, 'Hz')}</td>
              <td>{one.pullUpOhms === undefined ? 'none' : formatQuantity(one.pullUpOhms, 'Ω')}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** Rise time against pull-up, with the limits of three clocks and where this bus stands. */
function RiseChart({ farads, ohms, volts }: { farads: number; ohms: number | undefined; volts: number }) {
  const config = useCallback(
    (inks: Inks): ChartConfiguration<'line'> => {
      const span = [500, 1000, 2000, 3300, 4700, 6800, 10_000, 15_000, 22_000, 33_000, 47_000]
      const flat = (title: string, value: number, dash: number[]) => ({
        label: title,
        data: span.map((x) => ({ x, y: value })),
        borderColor: inks.soft,
        borderDash: dash,
        borderWidth: 1.5,
        pointRadius: 0,
      })
      return {
        type: 'line',
        data: {
          datasets: [
            {
              label: 'rise time',
              data: span.map((x) => ({ x, y: riseNanoseconds(x, farads) })),
              borderColor: inks.line,
              borderWidth: 2,
              pointRadius: 0,
            },
            flat('limit at 100 kHz', 1000, [8, 4]),
            flat('limit at 400 kHz', 300, [3, 3]),
            ...(ohms === undefined
              ? []
              : [
                  {
                    label: 'this bus',
                    data: [{ x: ohms, y: riseNanoseconds(ohms, farads) }],
                    borderColor: inks.flag,
                    backgroundColor: inks.flag,
                    pointRadius: 6,
                    pointStyle: 'rectRot' as const,
                  },
                ]),
          ],
        },
        options: {
          animation: false,
          maintainAspectRatio: false,
          scales: {
            x: {
              type: 'logarithmic',
              min: 500,
              max: 50_000,
              title: { display: true, text: 'pull-up in ohms' },
              ticks: {
                callback: (value) => ([1000, 10_000].includes(Number(value)) ? `${Number(value) / 1000} k` : ''),
              },
            },
            y: { type: 'logarithmic', min: 10, max: 3000, title: { display: true, text: 'ns' } },
          },
          plugins: { legend: { position: 'top', labels: { boxWidth: 20, boxHeight: 0 } } },
        },
      }
    },
    [farads, ohms],
  )
  return (
    <Chart
      height={220}
      config={config}
      label={
        ohms === undefined
          ? `Rise time against pull-up at ${formatVolts(volts)}; this bus has none`
          : `Rise time against pull-up; this bus stands at ${formatQuantity(ohms, 'Ω')} and ${Math.round(riseNanoseconds(ohms, farads))} ns`
      }
    />
  )
}
