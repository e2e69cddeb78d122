import type { BusKind } from '../../catalog/common.ts'
import { argOf, lastOf, type Mode, namesOf, once, pinValues, valueKey } from './callArguments.ts'
import type { At, SourceLanguage } from './ir.ts'
import { addressMethods, type Slot, takers } from './platformCalls.ts'
import type { AddressUse, BaudUse, BusBegin, Counting, PinUse, Uses } from './uses.ts'
import type { Call, GivenValue, Made, Value } from './values.ts'

/** What is gathered of a program, and the ways in which a call tells of a pin, a bus or an address. */
export abstract class Gathering {
  protected readonly language: SourceLanguage
  protected readonly pins: PinUse[] = []
  protected readonly begins: BusBegin[] = []
  protected readonly addresses: AddressUse[] = []
  protected readonly bauds: BaudUse[] = []
  protected readonly lost: { why: string; call: string; at: At }[] = []
  protected readonly given = new Set<string>()
  /** Pin objects that are given to something. */
  protected readonly passed = new Set<Made>()
  protected counting: Counting = 'gpio'

  constructor(language: SourceLanguage) {
    this.language = language
  }

  uses(): Uses {
    // A bus whose pins are set by their own calls is not begun without any.
    const begins = this.begins.filter(({ object }) => !this.given.has(object))
    // A pin object that is only made to be given away is what it is given to.
    const isPin = (made: Made): boolean => pinValues({ is: 'object', made, via: [] }).length > 0
    const pins = this.pins.filter(
      ({ made, doing }) => !made || doing !== 'given' || !this.passed.has(made) || !isPin(made),
    )
    return {
      pins: once(pins, (use) => `${use.at.file} ${use.at.from} ${use.doing} ${valueKey(use.pin)} ${use.bus?.signal}`),
      begins: once(begins, (one) => one.object),
      addresses: once(this.addresses, (one) => `${one.address} ${one.at.file} ${one.at.from}`),
      bauds: once(this.bauds, (one) => `${one.object} ${one.baud}`),
      counting: this.counting,
      lost: once(this.lost, (one) => `${one.at.file} ${one.at.from}`),
    }
  }

  protected pin(call: Call, one: Slot, mode: Mode | undefined, names: readonly string[] = []): void {
    const arg = argOf(call.args, one)
    if (!arg) return
    const doing = mode ? mode.doing : one.doing
    this.use(
      call,
      arg.value,
      { doing, pull: mode?.pull },
      [...names, ...namesOf(call, call.made)],
      one.counts ?? 'pin',
      true,
    )
  }

  protected bus(call: Call, object: string, kind: BusKind, one: Slot): void {
    const arg = argOf(call.args, one)
    if (!arg) return
    const values = pinValues(arg.value)
    for (const pin of values)
      this.pins.push({
        pin,
        doing: 'bus',
        pull: undefined,
        bus: { object, kind, signal: one.signal ?? '' },
        own: pin.via,
        names: pin.via,
        place: undefined,
        made: undefined,
        owner: call.made ?? call.of,
        call: call.path,
        sure: true,
        counts: 'pin',
        at: arg.at,
      })
  }

  /** Objects and methods of libraries: which of their numbers are pins is theirs to know. */
  protected library(call: Call, sure: boolean): void {
    call.args.forEach((arg, index) => {
      const values = pinValues(arg.value)
      const isObject = arg.value.is === 'object' && values.length > 0
      for (const pin of values) {
        if (pin.is === 'unknown' || pin.is === 'text') continue
        if (pin.is === 'number' && (pin.hex || pin.number < 0 || pin.number > 255 || !Number.isInteger(pin.number)))
          continue
        const isPin = pin.is === 'symbol' && /^(?:board|microcontroller\.pin)\./.test(pin.path)
        const told = isObject || isPin || (sure && index === 0)
        const keyword = arg.name === undefined ? [] : [arg.name]
        this.use(
          call,
          pin,
          { doing: 'given', pull: undefined },
          [...keyword, ...namesOf(call, call.made ?? call.of)],
          'pin',
          told,
          index,
        )
      }
    })
  }

  protected use(
    call: Call,
    value: Value,
    { doing, pull }: Mode,
    names: readonly string[],
    counts: PinUse['counts'],
    sure: boolean,
    place?: number,
  ): void {
    for (const pin of pinValues(value)) {
      if (pin.is === 'unknown') {
        if (sure) this.lost.push({ why: pin.why, call: call.path, at: call.at })
        continue
      }
      const all = [...new Set([...pin.via, ...names, ...call.within.flatMap((one) => one.name ?? [])])]
      this.pins.push({
        pin,
        doing,
        pull,
        bus: undefined,
        own: pin.via,
        names: all,
        place: doing === 'given' ? place : undefined,
        made: call.made,
        owner: call.made ?? call.of,
        call: call.path,
        sure,
        counts,
        at: call.at,
      })
    }
  }

  protected address(call: Call): void {
    const last = lastOf(call.path)
    const push = ({ value, at, name }: GivenValue, sure: boolean): void => {
      if (value.is !== 'number' || value.number < 0x08 || value.number > 0x77) return
      const names = [...value.via, ...(name === undefined ? [] : [name]), ...namesOf(call, call.made ?? call.of)]
      this.addresses.push({ address: value.number, sure, names, at })
    }
    if (addressMethods.has(last)) {
      const [first] = call.args
      if (first) push(first, true)
      return
    }
    const isTaker = call.made !== undefined || takers.has(last)
    if (!isTaker) return
    for (const arg of call.args) {
      const told = arg.value.is === 'number' && (arg.value.hex || arg.value.via.some((name) => /addr/i.test(name)))
      if (told || (arg.name !== undefined && /addr/i.test(arg.name))) push(arg, false)
    }
  }
}
