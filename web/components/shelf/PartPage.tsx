import { volts } from '../../../core/catalog/common.ts'
import type { Part } from '../../../core/catalog/partSchema.ts'
import type { Mode, Signal, When } from '../../../core/catalog/signalSchema.ts'
import { hexAddress } from '../../../core/electrical/hexAddress.ts'
import { formatOptionAmount, formatQuantity, formatVolts } from '../../../core/electrical/quantity.ts'
import { needWords } from '../../../core/wiring/needs.ts'
import { KindMark } from '../kinds.tsx'
import { Explained } from '../words.tsx'
import { EntryActions, Sources, UsedIn } from './EntryParts.tsx'
import { PartDrawing } from './PartDrawing.tsx'

/** One part: what it looks like, how it is wired in each mode, its limits, and where the facts come from. */
export function PartPage({ part }: { part: Part }) {
  return (
    <article className="entry">
      <header>
        <div>
          <h1>{part.title}</h1>
          <p>{part.summary}</p>
        </div>
        <EntryActions kind="parts" id={part.id} />
      </header>
      <div className="part-top">
        <Drawings part={part} />
        <table className="facts">
          <tbody>
            {partRows(part).map((row) => (
              <tr key={row.title + row.text}>
                <th scope="row">{row.title}</th>
                <td>{row.text}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {(part.modes.length > 0 ? part.modes : [undefined]).map((mode) => (
        <ModeTable key={mode?.id ?? 'all'} part={part} mode={mode} />
      ))}
      {part.companions.length > 0 && (
        <>
          <h2>Companions</h2>
          <ul>
            {part.companions.map((one) => (
              <li key={one.why}>
                <b>{one.part}</b> {Object.values(one.options).join(', ')}
                {one.required ? ', always' : ''}: <Explained text={one.why} />
              </li>
            ))}
          </ul>
        </>
      )}
      {part.notes.length > 0 && (
        <>
          <h2>Notes</h2>
          <ul>
            {part.notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
        </>
      )}
      <UsedIn kind="parts" id={part.id} />
      <Sources sources={part.sources} />
    </article>
  )
}

/** The part as it is built, once for every kind that differs. */
function Drawings({ part }: { part: Part }) {
  if (part.footprints.length === 0)
    return (
      <div>
        <PartDrawing part={part} />
        {part.footprint.check !== undefined && <p className="soft">{part.footprint.check}</p>}
      </div>
    )
  const titles = ({ option, is }: When): string =>
    (is ?? [])
      .map((value) => part.options.find(({ id }) => id === option)?.values.find((one) => one.value === value))
      .map((value) => value?.title ?? String(value?.value ?? ''))
      .join('; ')
  const taken = part.footprints.flatMap(({ when }) => when.is ?? [])
  const [first] = part.footprints
  const rest = part.options
    .find(({ id }) => id === first?.when.option)
    ?.values.filter(({ value }) => !taken.includes(value))
    .map(({ value }) => value)
  const all = [
    ...(first && rest && rest.length > 0
      ? [{ when: { option: first.when.option, is: rest }, footprint: part.footprint }]
      : []),
    ...part.footprints,
  ]
  return (
    <div className="part-kinds">
      {all.map(({ when, footprint }) => (
        <figure key={titles(when)}>
          <PartDrawing part={part} footprint={footprint} />
          <figcaption>
            {titles(when)}
            {footprint.check !== undefined && <span className="soft"> {footprint.check}</span>}
          </figcaption>
        </figure>
      ))}
    </div>
  )
}

function partRows(part: Part): { title: string; text: string }[] {
  const rows: { title: string; text: string }[] = []
  const put = (title: string, text: string | undefined): void => {
    if (text) rows.push({ title, text })
  }
  const current = (value: unknown): string | undefined =>
    typeof value === 'number' ? `${value} mA` : value === undefined ? undefined : 'as its options say'
  for (const supply of part.supplies) {
    put(
      'Supply',
      `${supply.pins.join(', ')}: ${supply.least} to ${supply.most} V${supply.text ? `, ${supply.text}` : ''}`,
    )
    const typical = current(supply.typicalMilliamps)
    const peak = current(supply.peakMilliamps)
    put('Takes', typical && `${typical} as a rule${peak ? `, ${peak} at most` : ''}`)
    if (supply.logicVolts !== undefined) put('Logic', `${formatVolts(supply.logicVolts)}, behind its own regulator`)
  }
  for (const [name, levels] of Object.entries(part.levels)) {
    const vdd = part.supplies[0]?.logicVolts ?? part.supplies[0]?.usual ?? part.supplies[0]?.most
    const most = volts(levels.most, vdd)
    put(
      `Levels ${name}`,
      [
        levels.vih && `high from ${show(volts(levels.vih, vdd))}`,
        levels.vil && `low up to ${show(volts(levels.vil, vdd))}`,
        most !== undefined && `bears ${show(most)}`,
      ]
        .filter(Boolean)
        .join(', '),
    )
  }
  for (const option of part.options)
    put(
      option.title,
      option.kind === 'amount'
        ? `${formatOptionAmount(Number(option.usual), option.unit)} usually`
        : option.values
            .map((one) =>
              option.kind === 'i2c-address'
                ? `${hexAddress(Number(one.value))}${one.title ? ` (${one.title})` : ''}`
                : (one.title ?? String(one.value)),
            )
            .join('; '),
    )
  for (const given of part.provides)
    put(
      'Gives',
      `${given.pins.join(', ')}: ${given.does.map(needWords).join(', ')}${given.note ? `; ${given.note}` : ''}`,
    )
  for (const rail of part.rails)
    put(
      'Supplies',
      `${rail.pin}${typeof rail.volts === 'number' ? `: ${formatVolts(rail.volts)}` : ''}${rail.milliamps === undefined ? '' : `, ${rail.milliamps} mA`}; ${rail.why}`,
    )
  for (const bus of part.controllers) put('Bus', `${bus.title}: ${Object.values(bus.pins).join(', ')}`)
  return rows
}

const show = (value: number | undefined): string => (value === undefined ? 'not known' : formatVolts(value))

function ModeTable({ part, mode }: { part: Part; mode: Mode | undefined }) {
  const signals: Signal[] = [...(mode?.signals ?? []), ...part.signals]
  const ties = [...(mode?.ties ?? []), ...part.ties]
  if (signals.length === 0 && ties.length === 0) return null
  return (
    <>
      <h2>{mode ? mode.title : 'Wiring'}</h2>
      {mode?.i2c && (
        <p className="soft">
          Up to {mode.i2c.most / 1000} kHz{mode.i2c.stretches ? ', holds the clock back while it works' : ''}
          {mode.i2c.pullUpOhms ? `, pull-ups of ${formatQuantity(mode.i2c.pullUpOhms, 'Ω')} on the module` : ''}
        </p>
      )}
      {mode?.spi && (
        <p className="soft">
          SPI mode {mode.spi.modes.join(' or ')}, up to {mode.spi.most / 1e6} MHz
          {mode.spi.releases ? '' : '; never lets go of its data output'}
        </p>
      )}
      {mode?.uart && (
        <p className="soft">
          {mode.uart.baud.join(', ')} baud, {mode.uart.levels} levels
        </p>
      )}
      <table className="facts wide">
        <thead>
          <tr>
            <th scope="col">Pin</th>
            <th scope="col">Goes to</th>
            <th scope="col">What for</th>
          </tr>
        </thead>
        <tbody>
          {signals.map((signal) => (
            <tr key={signal.pin}>
              <th scope="row" className="mono">
                {signal.pin}
              </th>
              <td>
                <KindMark need={signal.needs} /> {needWords(signal.needs)}
                {signal.orElse ? ` (or ${needWords(signal.orElse)})` : ''}
              </td>
              <td>
                {signal.text}
                {!signal.required && <span className="soft"> optional{signal.open ? `: ${signal.open}` : ''}</span>}
              </td>
            </tr>
          ))}
          {ties.map((tie) => (
            <tr key={tie.pin}>
              <th scope="row" className="mono">
                {tie.pin}
              </th>
              <td>{typeof tie.to === 'string' ? `tied to ${tie.to}` : `strap, by ${tie.to.option}`}</td>
              <td>
                {tie.text}
                {tie.held && <span className="soft"> held at {tie.held} by the module</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
