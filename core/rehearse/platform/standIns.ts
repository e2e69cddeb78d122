import type { Driver, DriverCall } from '../../catalog/driverSchema.ts'
import type { Machine } from '../cpp/machine.ts'
import type { NativeClass, NativeFunction } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import { Ptr, type Value } from '../cpp/values.ts'
import type { OneWireLine } from '../stage/oneWire.ts'
import type { Hardware, PinSetting } from './hardware.ts'
import type { Printing } from './sketchBuses.ts'
import { SETTINGS } from './sketchCalls.ts'
import { plainOf, print, putPlain, type Said, type StandIn, said, shareOf, wordsOf } from './standInSays.ts'

/** What a stand-in asks of the stage: which part is meant, what it senses, and where it shows something. */
export interface StandInStage {
  /** The part that an object drives, by its address and pins; said where none fits. */
  readonly partFor: (driver: Driver, said: Said, at: number) => string | undefined
  readonly sensed: (ref: string, what: string) => number | undefined
  readonly shows: (ref: string, words: string, share?: number) => void
  /** A part was asked again before it had anything new. */
  readonly tooSoon: (ref: string, className: string, since: number, renews: number, at: number) => void
  /** Sends something through the air under a name, and takes what others have sent under one. */
  readonly send: (key: string, value: unknown) => void
  readonly take: (key: string) => unknown
  readonly waits: (key: string) => number
  /** Pins of a part that programs count, from 0: set, driven and read over its bus. */
  readonly channels: ChannelStage
  /** The 1-Wire line at a pin, by its number. */
  readonly line: (pin: number) => OneWireLine
}

/** The pins of an expander, a converter or a pulse maker, by its reference and their number. */
export interface ChannelStage {
  setting(ref: string, channel: number, how: PinSetting, at: number): void
  write(ref: string, channel: number, high: boolean, at: number): void
  read(ref: string, channel: number, at: number): boolean
  /** Volts; of a line that nothing holds whatever it drifts to. */
  volts(ref: string, channel: number, at: number): number
  /** The same as a share of the part's supply. */
  share(ref: string, channel: number, at: number): number
  pulse(ref: string, channel: number, duty: number, hertz: number, at: number): void
}

/** Classes of drivers as things that show and sense what their part would. */
export function standInClasses(
  drivers: readonly Driver[],
  hardware: Hardware,
  machine: Machine,
  stage: StandInStage,
  given: { readonly types: ReadonlyMap<string, Type>; readonly printing: Printing },
): [string, NativeClass][] {
  return drivers.flatMap((driver) =>
    driver.classes.map((name): [string, NativeClass] => [
      name,
      standInClass(driver, name, hardware, machine, stage, given),
    ]),
  )
}

/** A class of one driver. */
export function standInClass(
  driver: Driver,
  className: string,
  hardware: Hardware,
  machine: Machine,
  stage: StandInStage,
  { types, printing }: { readonly types: ReadonlyMap<string, Type>; readonly printing: Printing },
): NativeClass {
  const refOf = (self: StandIn, at: number): string | undefined => {
    if (self.ref === undefined) self.ref = stage.partFor(driver, self.said, at) ?? null
    return self.ref ?? undefined
  }
  const tell = (self: StandIn, at: number): void => {
    const ref = refOf(self, at)
    if (ref !== undefined) stage.shows(ref, wordsOf(self), shareOf(self))
  }
  const changed = (self: StandIn, at: number): void => {
    if (!driver.buffered) tell(self, at)
  }
  const methods: Record<string, NativeFunction<never>> = {}
  if (driver.prints)
    Object.assign(
      methods,
      printing((self: StandIn, text: string, at: number) => {
        print(self, text)
        changed(self, at)
      }),
    )
  for (const [name, call] of Object.entries(driver.calls))
    methods[name] = {
      returns: types.get(call.returns ?? 'void') ?? VOID,
      run: (self: StandIn, args, _types, at) => {
        said(self.said, call.pins, call.address, args)
        if (call.pins || call.address !== undefined) self.ref = undefined
        if (call.addressFrom && self.said.address !== undefined && self.said.address < 8)
          self.said.address += call.addressFrom
        if (call.takes) hardware.wait(call.takes, at)
        machine.at = at
        const value = act(self, call, args, at)
        return call.returns === undefined ? undefined : (value ?? 0)
      },
    }
  const act = (self: StandIn, call: DriverCall, args: readonly Value[], at: number): Value => {
    const ref = refOf(self, at)
    switch (call.does) {
      case 'clear':
        self.cells = []
        self.x = 0
        self.y = 0
        self.colours = self.colours.map(() => 0)
        changed(self, at)
        break
      case 'home':
        self.x = 0
        self.y = 0
        break
      case 'cursor':
        self.x = Number(args[0] ?? 0)
        self.y = Number(args[1] ?? 0)
        break
      case 'write':
        self.x = Number(args[1] ?? 0)
        self.y = Number(args[2] ?? 0)
        print(self, String(args[0] ?? ''))
        changed(self, at)
        break
      case 'show':
        tell(self, at)
        break
      case 'light-on':
      case 'light-off':
        self.light = call.does === 'light-on'
        changed(self, at)
        break
      case 'colour':
        return ((Number(args[0]) << 16) | (Number(args[1]) << 8) | Number(args[2])) >>> 0
      case 'one-colour': {
        const colour =
          args.length >= 4 ? (Number(args[1]) << 16) | (Number(args[2]) << 8) | Number(args[3]) : Number(args[1])
        if (Number(args[0]) < self.count) self.colours[Number(args[0])] = colour >>> 0
        break
      }
      case 'brightness':
        self.brightness = Math.min(Math.max(Number(args[0] ?? 255), 0), 255) / 255
        break
      case 'all-colours': {
        const [colour = 0, from = 0, count = 0] = args.map(Number)
        const end = count > 0 ? from + count : self.count
        for (let index = from; index < Math.min(end, self.count); index += 1) self.colours[index] = colour >>> 0
        break
      }
    }
    const air = call.does?.startsWith('air-') ? airCall(call, ref, args) : undefined
    if (air !== undefined) return air
    const channel = call.does?.startsWith('channel-') ? channelCall(call, ref, args, at) : undefined
    if (channel !== undefined) return channel
    if (call.does?.startsWith('line-')) return lineCall(self, call, args)
    if (call.answers) return ref === undefined ? 0 : 1
    if (call.senses !== undefined) {
      const sensed = ref === undefined ? undefined : sense(self, ref, call.senses, at)
      // Nobody answers: libraries give what is no number, or nought.
      if (sensed === undefined) return /float|double/.test(call.returns ?? '') ? Number.NaN : 0
      const value = sensed * (call.times ?? 1)
      return /float/.test(call.returns ?? '')
        ? Math.fround(value)
        : /double/.test(call.returns ?? '')
          ? value
          : Math.round(value)
    }
    return call.gives === 'count' ? self.count : call.gives
  }
  /** What a part senses, as new as the part has it: a second question within its time gets the old answer. */
  const sense = (self: StandIn, ref: string, what: string, at: number): number | undefined => {
    const { renews } = driver
    if (renews === undefined) return stage.sensed(ref, what)
    const since = machine.now - self.renewedAt
    const isNew = self.values.size === 0 || since >= renews
    if (!isNew && self.values.has(what)) stage.tooSoon(ref, self.said.className, since, renews, at)
    if (isNew) {
      self.values.clear()
      self.renewedAt = machine.now
    }
    if (!self.values.has(what)) self.values.set(what, stage.sensed(ref, what))
    return self.values.get(what)
  }
  const lineCall = (self: StandIn, call: DriverCall, args: readonly Value[]): Value => {
    self.line ??= stage.line(self.said.pins.DQ ?? -1)
    const [value = 0, more = 0] = args.map(Number)
    switch (call.does) {
      case 'line-reset':
        return self.line.reset() ? 1 : 0
      case 'line-write':
        self.line.write(value & 255)
        return undefined
      case 'line-read':
        return self.line.read()
      case 'line-count':
        return self.line.roms.length
      default:
        return self.line.roms[value]?.[more] ?? 0
    }
  }
  const airCall = (call: DriverCall, ref: string | undefined, args: readonly Value[]): Value => {
    if (ref === undefined) return 0
    const [where, length, key] = args
    const name = `${driver.id} ${key ?? where}`
    if (call.does === 'air-waits') return stage.waits(name)
    const place: Ptr | null = where instanceof Ptr ? where : Array.isArray(where) ? new Ptr(where, 0) : null
    if (!place) return 0
    if (call.does === 'air-send') {
      stage.send(name, plainOf(place, Number(length)))
      return 1
    }
    const taken = stage.take(name)
    if (taken === undefined) return 0
    putPlain(place, taken as readonly unknown[])
    return 1
  }
  const channelCall = (call: DriverCall, ref: string | undefined, args: readonly Value[], at: number): Value => {
    const [channel = 0, value = 0, more = 0] = args.map(Number)
    if (ref === undefined) return 0
    const { channels } = stage
    switch (call.does) {
      case 'channel-setting':
        channels.setting(ref, channel, SETTINGS[value] ?? 'in', at)
        return undefined
      case 'channel-write':
        channels.write(ref, channel, value !== 0, at)
        return undefined
      case 'channel-read':
        return channels.read(ref, channel, at) ? 1 : 0
      case 'channel-volts':
        return Math.fround(channels.volts(ref, channel, at))
      case 'channel-share':
        return Math.fround(channels.share(ref, channel, at))
      case 'channel-pulse':
        channels.pulse(ref, channel, Math.min(1, Math.max(0, value)), more, at)
        return undefined
      default:
        return undefined
    }
  }
  return {
    make: (args): StandIn => {
      const { make } = driver
      const at = (index: number | undefined, otherwise: number): number =>
        index === undefined || args[index] === undefined ? otherwise : Number(args[index])
      const made: StandIn = {
        driver,
        said: { className, address: driver.usualAddress, pins: {} },
        ref: undefined,
        columns: at(make.columns, 16),
        rows: at(make.rows, 2),
        cells: [],
        x: 0,
        y: 0,
        light: true,
        colours: [],
        brightness: 1,
        count: at(make.count, 0),
        line: undefined,
        renewedAt: 0,
        values: new Map(),
      }
      said(made.said, make.counted?.[String(args.length)] ?? make.pins, make.address, args)
      const through = make.through === undefined ? undefined : args[make.through]
      const other: StandIn | undefined = through instanceof Ptr ? through.base[through.at] : through
      if (other?.said) Object.assign(made.said.pins, other.said.pins)
      if (make.count !== undefined && driver.calls.show) made.colours = new Array(made.count).fill(0)
      return made
    },
    methods,
  }
}
