import { entryOf } from '../base/entryOf.ts'
import { analogUnitOf } from '../circuit/analog.ts'
import { hexAddress } from '../electrical/hexAddress.ts'
import { drivesOf, readingsOf } from '../firmware/drives.ts'
import { linesOf } from '../firmware/lines.ts'
import type { Wiring } from '../wiring/model.ts'
import { buildWith, type Fault, soundBuild } from './fault.ts'
import type { PlacedTouch } from './laid.ts'
import type { Condition } from './notices.ts'
import { outcomesOf } from './predict.ts'
import { boardSteps, echoOf } from './signalSteps.ts'
import type { Step } from './step.ts'

/** What eyes and ears tell of a part while a program runs. */
const conditionWords: Readonly<Record<Condition, string>> = {
  right: 'it does what it should',
  dead: 'it does nothing: dark, still, silent',
  deaf: 'it has power, and nothing comes of it',
  always: 'it is on whatever the program does',
  odd: 'it does something, and not what it should',
}

/**
 * A board to practise on: it answers over the serial line of the test program as a build of the plan would, with the
 * faults that are planted in it. What eyes would see stands in lines that begin with `#`.
 */
export class StandIn {
  readonly #wiring: Wiring
  readonly #built: Wiring
  readonly #steps: readonly Step[]
  readonly #outcomes: ReadonlyMap<string, string>
  readonly #planned: ReadonlyMap<string, string>

  /** `placed`: touches of the build as it is laid out, that it can be asked for as well. */
  constructor(wiring: Wiring, faults: readonly Fault[] = [], placed: readonly PlacedTouch[] = []) {
    const build = buildWith(wiring, faults)
    if (!build) throw new RangeError('these faults cannot be in one build')
    this.#wiring = wiring
    this.#built = build.live
    this.#steps = boardSteps(wiring)
    this.#planned = outcomesOf(wiring, soundBuild(wiring), placed)
    this.#outcomes = outcomesOf(wiring, build, placed)
  }

  /** What a meter or an eye would tell at a step or a measurement that no board does; undefined where it knows nothing. */
  shows(step: string): string | undefined {
    const outcome = this.#outcomes.get(step)
    if (outcome === undefined) return undefined
    const kind = step.slice(0, step.indexOf(':'))
    if (kind === 'volts') return outcome === 'nothing' ? 'nothing' : `${outcome} V`
    if (kind === 'press' || kind === 'wiggle')
      return outcome === 'comes alive' ? 'something comes alive by it' : 'nothing changes'
    if (kind === 'works') return entryOf(conditionWords, outcome) ?? outcome
    if (kind === 'pin') return outcome === 'dead' ? 'the pin does not follow' : 'the pin follows'
    if (kind === 'ohms') return `${outcome} Ω`
    if (kind === 'look') return outcome === 'turned' ? 'it lies the other way round' : 'it lies as drawn'
    if (kind === 'out') return outcome === '' ? 'nothing happens' : outcome.trim().replace(/ (high|low)/g, ' at $1')
    if (kind === 'adc') return outcome === this.#planned.get(step) ? 'a value that follows' : 'a value that cannot be'
    if (kind === 'in') return outcome === 'stuck' ? 'nothing changes' : 'it changes with the contact'
    if (kind === 'i2c')
      return outcome === ''
        ? 'nobody answers'
        : outcome
            .split(' ')
            .map((one) => (one === 'hangs' ? 'the bus hangs' : hexAddress(Number(one))))
            .join(', ')
    return outcome === 'sounds' ? 'it sounds' : 'it stays silent'
  }

  /** True where what it shows is what the plan says. */
  isRight(step: string): boolean {
    return this.#outcomes.get(step) === this.#planned.get(step)
  }

  /** What it says when it starts. */
  hello(): string {
    return JSON.stringify({ hello: 'markpost', plan: 'practice', steps: this.#steps.length })
  }

  /** Its answers to one line. */
  answer(line: string): string[] {
    let asked: { do?: unknown; level?: unknown }
    try {
      asked = JSON.parse(line) as typeof asked
    } catch {
      return [JSON.stringify({ error: 'no such step' })]
    }
    const what = typeof asked.do === 'string' ? asked.do : ''
    if (what === 'hello') return [this.hello()]
    const [verb = '', rest = ''] = [what.slice(0, what.indexOf(':')), what.slice(what.indexOf(':') + 1)]
    const found = this.#steps.filter(({ id }) => {
      const [kind, own] = [id.slice(0, id.indexOf(':')), id.slice(id.indexOf(':') + 1)]
      if (what === 'all') return kind === 'in' || kind === 'adc' || kind === 'i2c'
      return (
        id === what ||
        (verb === 'read' && own === rest && (kind === 'in' || kind === 'adc')) ||
        (verb === 'scan' && own === rest && kind === 'i2c')
      )
    })
    if (found.length === 0) return [JSON.stringify({ error: 'no such step' })]
    return found.flatMap((step) => this.#run(step, typeof asked.level === 'string' ? asked.level : ''))
  }

  #run({ id }: Step, level: string): string[] {
    const [kind, own] = [id.slice(0, id.indexOf(':')), id.slice(id.indexOf(':') + 1)]
    if (kind === 'out') return this.#drive(id, own, level)
    const line = linesOf(this.#wiring).find(({ use }) => use.end === own)
    const host = line?.host.end
    if (kind === 'in') {
      const reading = readingsOf(this.#built).find((one) => one.host.end === host && one.contact)
      // An open line is held by the pin's own pull, where the program switches one on.
      return [JSON.stringify({ step: id, value: reading?.contact ? (reading.contact.high === 'open' ? 1 : 0) : 1 })]
    }
    if (kind === 'adc') {
      const unit = line && analogUnitOf(this.#wiring, line.host)
      const full = 2 ** (unit?.bits ?? 10) - 1
      const seen = this.#outcomes.get(id) ?? 'floats'
      const counts =
        seen === 'low' ? 0 : seen === 'high' ? full : seen === 'floats' ? Math.round(full * 0.31) : Math.round(full / 2)
      return [JSON.stringify({ step: id, counts })]
    }
    if (kind === 'echo') {
      const part = this.#built.parts.find(({ ref }) => ref === own)
      const planned = this.#wiring.parts.find(({ ref }) => ref === own)
      const pins = (planned && echoOf(planned)) ?? []
      const right = pins.every((pin) => {
        const end = `${own}.${pin}`
        return this.#built.signal(end)?.hosts[0]?.host.end === this.#wiring.signal(end)?.hosts[0]?.host.end
      })
      const fed = part?.supplies.every(({ source, ground }) => source !== undefined && ground !== undefined)
      return [JSON.stringify({ step: id, microseconds: right && fed ? 1166 : 0 })]
    }
    const seen = this.#outcomes.get(id) ?? ''
    const found = seen === 'hangs' || seen === '' ? [] : seen.split(' ').map(Number)
    return [JSON.stringify({ step: id, found })]
  }

  #drive(id: string, own: string, level: string): string[] {
    const host = linesOf(this.#wiring).find(({ use }) => use.end === own)?.host.end
    if (level !== 'high' && level !== 'low') return [JSON.stringify({ step: id, state: 'free' })]
    const seen = drivesOf(this.#built)
      .filter(({ when }) => when.length === 1 && when[0]?.host.end === host && when[0]?.level === level)
      .map(({ part, does }) => `# ${part.ref} ${does}`)
    return [JSON.stringify({ step: id, state: level }), ...(seen.length > 0 ? seen : ['# nothing is seen'])]
  }
}
