import type { Machine } from '../cpp/machine.ts'
import { Halt } from '../cpp/machine.ts'
import type { Callable } from '../cpp/values.ts'
import type { Edge, Hardware, SerialLine, Sleep } from '../platform/hardware.ts'
import type { Platform } from '../platform/platform.ts'

export interface LevelChange {
  readonly at: number
  readonly pin: number
  readonly level: 0 | 1
}

/** The platform that `stub.h` is: thirty-two bits, each call with its time. */
export const stubPlatform: Platform = {
  widths: { int: 32, double: 64, pointer: 64, charSigned: true },
  macros: { ESP32: '1' },
  costs: { digital: 3, analog: 100, clock: 1, serialByte: 0, busByte: 90, statement: 0, loop: 0 },
  microStep: 1,
  pulseHertz: 490,
  readBits: 10,
  pinNames: new Map(),
  interruptOf: (pin) => pin,
  pinOfInterrupt: (number) => number,
  ledc: undefined,
  constants: new Map(),
  references: new Map(),
  chip: () => undefined,
  keeps: undefined,
  touch: undefined,
  classes: () => [],
}

/** Writes down what a program does, as `stub.h` does. */
export class Recorder implements Hardware {
  readonly lines: string[] = []
  masked = false
  readonly later = (): void => undefined
  readonly kept = new Uint8Array(1024).fill(255)
  readonly #machine: Machine
  readonly #changes: LevelChange[]
  readonly #until: number
  readonly #levels = new Map<number, 0 | 1>()
  readonly #handlers = new Map<number, { edge: Edge; handler: Callable }>()
  #text = ''

  constructor(machine: Machine, changes: readonly LevelChange[], until: number) {
    this.#machine = machine
    this.#changes = [...changes]
    this.#until = until
  }

  flush(): void {
    if (this.#text !== '') this.lines.push(`S ${this.#text}`)
    this.#text = ''
  }

  #say(what: string): void {
    this.flush()
    this.lines.push(`${Math.round(this.#machine.now)} ${what}`)
  }

  setting(pin: number, how: string): void {
    this.#say(`mode ${pin} ${{ in: 0, out: 1, 'pull-up': 2 }[how] ?? 9}`)
  }

  write(pin: number, high: boolean): void {
    this.#say(`write ${pin} ${high ? 1 : 0}`)
  }

  read(pin: number): boolean {
    return this.#levels.get(pin) === 1
  }

  readAnalog(pin: number): number {
    return (pin * 37 + Math.trunc(this.#machine.now / 100)) & 1023
  }

  reference(): void {}

  aside(): void {}

  touched(): boolean {
    return false
  }

  neverComes(): void {}

  state(): { setting: undefined; high: boolean } {
    return { setting: undefined, high: false }
  }

  level(pin: number): boolean {
    return this.#levels.get(pin) === 1
  }

  pulse(pin: number, duty: number): void {
    this.#say(`pulse ${pin} ${Math.round(duty * 255)}`)
  }

  writeAnalog(): void {}

  tone(pin: number, hertz: number): void {
    this.#say(`tone ${pin} ${hertz}`)
  }

  takesTimers(): void {}

  answer(): () => number {
    return () => 0
  }

  noTone(pin: number): void {
    this.#say(`quiet ${pin}`)
  }

  pulseIn(): number {
    return 0
  }

  onEdge(pin: number, edge: Edge | undefined, handler: Callable | undefined): void {
    if (edge && handler) this.#handlers.set(pin, { edge, handler })
    else this.#handlers.delete(pin)
  }

  wait(microseconds: number, at: number): void {
    const machine = this.#machine
    const to = machine.now + microseconds
    for (let [next] = this.#changes; next && next.at <= to && next.at <= this.#until; [next] = this.#changes) {
      this.#changes.shift()
      machine.now = Math.max(machine.now, next.at)
      const before = this.#levels.get(next.pin) ?? 0
      this.#levels.set(next.pin, next.level)
      const listens = this.#handlers.get(next.pin)
      if (before === next.level || !listens) continue
      if (listens.edge === 'change' || listens.edge === (next.level === 1 ? 'rising' : 'falling'))
        listens.handler.call([])
    }
    machine.now = Math.max(machine.now, to)
    if (machine.now >= this.#until) throw new Halt('the end', at)
  }

  serial(name: string): SerialLine {
    return {
      name,
      waiting: [],
      begin: () => undefined,
      write: (bytes) => {
        for (const letter of bytes) {
          if (letter !== '\n') {
            this.#text += letter
            continue
          }
          this.lines.push(`S ${this.#text.replace(/\r$/, '')}`)
          this.#text = ''
        }
      },
    }
  }

  readonly bus = {
    begin: () => undefined,
    write: () => false,
    read: () => [],
    listen: () => undefined,
    onReceive: () => undefined,
    onRequest: () => undefined,
  }
  readonly sleep: Sleep = {
    cause: 'power',
    after: () => undefined,
    wokenAs: undefined,
    onPins: () => undefined,
    light: () => undefined,
    deep: () => this.#end(),
    restart: () => this.#end(),
    guard: () => undefined,
    feed: () => undefined,
  }

  /** What begins anew is none of what is recorded. */
  #end(): never {
    throw new Halt('', this.#machine.at)
  }

  readonly spi = { begin: () => undefined, settings: () => undefined, select: () => undefined, transfer: () => 0 }
}
