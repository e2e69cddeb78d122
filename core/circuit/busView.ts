import { fastestClock, riseNanoseconds } from '../electrical/i2c.ts'
import { busNeed } from '../wiring/buses.ts'
import { addressesOf, segmentsOf } from '../wiring/i2c.ts'
import type { Bus, Host, PartInstance, Wiring } from '../wiring/model.ts'
import { type I2cLine, i2cLines } from './i2cLines.ts'
import { networkOf } from './still.ts'

/** Everything that a maker wants to see of one I2C segment. */
export interface I2cView {
  readonly title: string
  readonly bus: Bus | undefined
  readonly devices: readonly {
    readonly part: PartInstance
    readonly addresses: readonly number[]
    /** Option that moves the address, and its values that nobody on the segment has. */
    readonly option: string | undefined
    readonly free: readonly { readonly value: number; readonly title: string | undefined }[]
    readonly most: number | undefined
    readonly pullUpOhms: number | undefined
  }[]
  readonly lines: readonly I2cLine[]
  /** Rise time of the slower line in nanoseconds, where pull-ups are known. */
  readonly rise: number | undefined
  /** Fastest clock in hertz that devices, controller and rise time all allow. */
  readonly fastest: number | undefined
}

export function i2cViews(wiring: Wiring): I2cView[] {
  return segmentsOf(wiring).map((segment, index): I2cView => {
    const lines = i2cLines(wiring).filter(
      (line) => line.parts[0] === segment.parts[0] && sameParts(line, segment.parts),
    )
    const bus = wiring.buses.find((one) => one.kind === 'i2c' && one.parts.includes(segment.parts[0] as PartInstance))
    const controller = bus?.board?.board.controllers.find((one) => one.id === bus.controller)
    const taken = new Set(
      [...segment.parts, ...segment.upstream].flatMap((part) => addressesOf(part).map(({ address }) => address)),
    )
    const devices = segment.parts.map((part) => {
      const own = addressesOf(part)
      const option = own.find((one) => one.option !== undefined)?.option
      const facts = part.part.options.find((one) => one.id === option)
      return {
        part,
        addresses: own.map(({ address }) => address),
        option,
        free: (facts?.values ?? []).flatMap(({ value, title }) =>
          typeof value === 'number' && !taken.has(value) ? [{ value, title }] : [],
        ),
        most: part.mode?.i2c?.most,
        pullUpOhms: part.mode?.i2c?.pullUpOhms,
      }
    })
    const rises = lines.flatMap((line) => (line.ohms === undefined ? [] : [riseNanoseconds(line.ohms, line.farads)]))
    const slow = lines.flatMap((line) => (line.ohms === undefined ? [] : [fastestClock(line.ohms, line.farads) ?? 0]))
    const limits = [controller?.most, ...devices.map((one) => one.most), ...slow].filter((one) => one !== undefined)
    return {
      title: bus?.board
        ? `${controller?.title ?? 'I2C'} of ${bus.board.ref}`
        : bus?.provider
          ? `${bus.controller ?? 'branch'} of ${bus.provider.ref}`
          : `I2C ${index + 1}`,
      bus,
      devices,
      lines,
      rise: rises.length === 0 ? undefined : Math.max(...rises),
      fastest: limits.length === 0 ? undefined : Math.min(...limits),
    }
  })
}

const sameParts = (line: I2cLine, parts: readonly PartInstance[]): boolean =>
  line.parts.length === parts.length && line.parts.every((part) => parts.includes(part))

export interface SpiView {
  readonly title: string
  readonly bus: Bus
  /** Pins by line: `sck` to board pins. */
  readonly pins: ReadonlyMap<string, string>
  readonly devices: readonly {
    readonly part: PartInstance
    readonly select: string | undefined
    readonly modes: readonly number[]
    readonly most: number | undefined
    readonly releases: boolean | undefined
  }[]
  /** Fastest clock in hertz that all bear, and the SPI modes that all know. */
  readonly fastest: number | undefined
  readonly modes: readonly number[]
}

export function spiViews(wiring: Wiring): SpiView[] {
  return wiring.buses
    .filter((bus) => bus.kind === 'spi' && bus.uses.some((use) => use.hosts.length > 0))
    .map((bus): SpiView => {
      const controller = bus.board?.board.controllers.find((one) => one.id === bus.controller)
      const devices = bus.parts.map((part) => {
        const cs = bus.uses.find((use) => use.part === part && use.facts.needs === 'spi.cs')
        return {
          part,
          select: cs?.hosts[0]?.host.end,
          modes: part.mode?.spi?.modes ?? [],
          most: part.mode?.spi?.most,
          releases: bus.uses.some((use) => use.part === part && use.facts.needs === 'spi.miso')
            ? part.mode?.spi?.releases
            : undefined,
        }
      })
      const limits = [controller?.most, ...devices.map((one) => one.most)].filter((one) => one !== undefined)
      const known = devices.filter((one) => one.modes.length > 0)
      return {
        title: bus.board ? `${controller?.title ?? 'SPI by software'} of ${bus.board.ref}` : 'SPI',
        bus,
        pins: pinsOf(bus),
        devices,
        fastest: limits.length === 0 ? undefined : Math.min(...limits),
        modes: ([0, 1, 2, 3] as const).filter(
          (mode) => known.length > 0 && known.every((one) => one.modes.includes(mode)),
        ),
      }
    })
}

export interface UartView {
  readonly title: string
  readonly part: PartInstance
  readonly pins: ReadonlyMap<string, string>
  readonly baud: readonly number[]
  readonly levels: string
}

export function uartViews(wiring: Wiring): UartView[] {
  return wiring.buses
    .filter((bus) => bus.kind === 'uart' && bus.uses.some((use) => use.hosts.length > 0))
    .flatMap((bus) =>
      bus.parts.map((part): UartView => {
        const controller = bus.board?.board.controllers.find((one) => one.id === bus.controller)
        return {
          title: bus.board
            ? `${controller?.title ?? 'by software'} of ${bus.board.ref}`
            : bus.provider
              ? `${bus.controller ?? 'line'} of ${bus.provider.ref}`
              : 'UART',
          part,
          pins: pinsOf(bus),
          baud: part.mode?.uart?.baud ?? [],
          levels: part.mode?.uart?.levels ?? 'logic',
        }
      }),
    )
}

export interface OneWireView {
  readonly host: Host
  readonly parts: readonly PartInstance[]
  /** All pull-ups together in ohms; undefined without any. */
  readonly ohms: number | undefined
  readonly mostOhms: number
}

/** Lines on which devices only pull low and a resistor brings them back. */
export function oneWireViews(wiring: Wiring): OneWireView[] {
  const lines = new Map<Host, OneWireView>()
  for (const use of wiring.signals) {
    const host = use.hosts[0]?.host
    const most = use.facts.pullMostOhms
    if (!host || most === undefined) continue
    const known = lines.get(host)
    lines.set(host, {
      host,
      parts: [...(known?.parts ?? []), use.part],
      ohms: networkOf(wiring).thevenin(wiring.netOf(host.end))?.ohms,
      mostOhms: Math.min(most, known?.mostOhms ?? most),
    })
  }
  return [...lines.values()]
}

function pinsOf(bus: Bus): Map<string, string> {
  const pins = new Map<string, string>()
  for (const use of bus.uses) {
    const signal = busNeed(use.facts.needs)?.signal
    const host = use.hosts[0]?.host
    if (signal !== undefined && signal !== 'cs' && host && !pins.has(signal)) pins.set(signal, host.end)
  }
  return pins
}
