import { Halt, Machine } from './cpp/machine.ts'

/** A machine that keeps its statements from a moment on, each time that another line is run. */
export class StepKeeper extends Machine {
  readonly steps: { at: number; place: number }[] = []
  readonly #most: number
  #from: number

  constructor({ from, most }: { readonly from: number; readonly most: number }) {
    super()
    this.#from = from * 1e6
    this.#most = most
  }

  begin(offset: number): void {
    this.#from += offset
    this.passesUntil = this.#from
  }

  override step(at: number): void {
    super.step(at)
    if (this.now < this.#from || at >= this.ownBelow) return
    this.steps.push({ at: this.now, place: at })
    if (this.steps.length >= this.#most) throw new Halt('', at)
  }
}
