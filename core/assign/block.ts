import { formatVolts } from '../electrical/quantity.ts'
import { busNeed } from '../wiring/buses.ts'
import { lackWords } from '../wiring/needs.ts'

/** Why a pin is out of the question for a signal. */
export type Block =
  /** Only reads, or only drives. */
  | { readonly kind: 'direction'; readonly only: 'input' | 'output' }
  /** Lacks what the signal needs. */
  | { readonly kind: 'lacks'; readonly needs: string }
  /** Its level travels over a bus, too slowly for the pulses. */
  | { readonly kind: 'slow' }
  /** A line of a keypad whose other lines could not go to the same chip, so that no one could scan it. */
  | { readonly kind: 'scanned' }
  /** One of a row of outputs of which one at a time is picked, and the signal has to be moved by itself. */
  | { readonly kind: 'picked' }
  /** Given for other parts alone, by their ids in the catalogue. */
  | { readonly kind: 'made-for'; readonly parts: readonly string[] }
  /** A feature of the board that is on has it, or what the signal needs of it. */
  | { readonly kind: 'feature'; readonly title: string; readonly whole: boolean }
  /** Something on the board depends on it, by the id of its caution. */
  | { readonly kind: 'onboard'; readonly what: string }
  /** Joined with a supply or ground. */
  | { readonly kind: 'supply' }
  /** Another signal has it. */
  | { readonly kind: 'taken'; readonly by: string }
  /** More current than it bears, in milliamperes. */
  | { readonly kind: 'current'; readonly milliamps: number; readonly most: number }
  /** The diodes of the output lie on less than the load gets, which would never go off. */
  | { readonly kind: 'diodes'; readonly volts: number; readonly high: number }
  /** Read at reset: what hangs on the signal would bring it to these volts; undefined where a switch decides. */
  | { readonly kind: 'strap'; readonly volts: number | undefined }
  /** A resistor of the board holds it against the pull that the signal wants of it. */
  | { readonly kind: 'held'; readonly way: 'up' | 'down' }
  /** More volts than one side bears, from the other's output or, `pulled`, from a pull-up. */
  | { readonly kind: 'level'; readonly volts: number; readonly most: number; readonly pulled: boolean }
  /** The highest that the pin gives is a low to the part. */
  | { readonly kind: 'low'; readonly volts: number; readonly least: number | undefined }

/** A block in two or three words. */
export function blockWords(block: Block): string {
  switch (block.kind) {
    case 'direction':
      return `${block.only} only`
    case 'lacks': {
      const bus = busNeed(block.needs)
      return bus ? `not ${bus.kind.toUpperCase()} ${bus.signal.toUpperCase()}` : lackWords(block.needs)
    }
    case 'slow':
      return 'too slow over the bus'
    case 'diodes':
      return `its diodes lie on ${formatVolts(block.volts)}, the load on ${formatVolts(block.high)}`
    case 'picked':
      return 'one at a time'
    case 'scanned':
      return 'no room for the other lines, which are scanned with it'
    case 'made-for':
      return `made for ${block.parts.join(', ')}`
    case 'feature':
      return block.whole ? block.title : `${block.title} takes it`
    case 'onboard':
      return `on-board ${block.what}`
    case 'supply':
      return 'on a supply'
    case 'taken':
      return block.by
    case 'current':
      return `${block.milliamps} mA, ${block.most} mA at most`
    case 'strap':
      return block.volts === undefined
        ? 'a switch may hold it either way at reset'
        : `would be ${formatVolts(block.volts)} at reset`
    case 'held':
      return `pulled ${block.way} on the board`
    case 'level':
      return block.pulled
        ? `pulled up to ${formatVolts(block.volts)}, into ${formatVolts(block.most)}`
        : `${formatVolts(block.volts)} into ${formatVolts(block.most)}`
    case 'low':
      return `${formatVolts(block.volts)} is a low there${block.least === undefined ? '' : `, ${formatVolts(block.least)} a high`}`
  }
}
