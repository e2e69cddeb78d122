import type { StandInStage } from '../platform/standIns.ts'
import type { BusDevices } from './busDevices.ts'
import type { Channels } from './channels.ts'
import type { Conversations } from './conversations.ts'
import type { RunKind } from './findings.ts'
import type { Handle } from './handles.ts'
import type { OneWireLine } from './oneWire.ts'

/** What stand-ins of drivers ask of a board. */
interface Board {
  readonly handles: ReadonlyMap<string, Handle>
  readonly devices: BusDevices
  readonly conversations: Conversations
  readonly channels: Channels
  readonly line: (pin: number) => OneWireLine
  readonly say: (kind: RunKind, at: number, ends: readonly string[], message: string, why: string) => void
}

/** What parts show, and take, by what programs have told them over classes of drivers. */
export class ToldParts {
  /** Words of what a part shows. */
  readonly words = new Map<string, string>()
  /** Share of its most current that a part takes. */
  readonly shares = new Map<string, number>()

  /** The board as stand-ins see it; its parts are asked when they are needed, since they come to be one after the other. */
  stage(board: () => Board): StandInStage {
    return {
      partFor: (driver, said, at) => board().devices.partFor(driver, said, at)?.ref,
      sensed: (ref, what) => (board().handles.get(`${ref}.${what}`) ?? board().handles.get(ref))?.value,
      shows: (ref, words, share) => {
        this.words.set(ref, words)
        if (share !== undefined) this.shares.set(ref, share)
      },
      tooSoon: (ref, className, since, renews, at) =>
        board().say(
          'asked-too-soon',
          at,
          [ref],
          `${className} asks ${ref} again after ${secondsWords(since)}, and it has something new every ${secondsWords(renews)}.`,
          'It gives the old value, or none. Ask it less often; look at the time rather than wait.',
        ),
      send: (key, value) => board().conversations.send(key, value),
      take: (key) => board().conversations.take(key),
      waits: (key) => board().conversations.waits(key),
      line: (pin) => board().line(pin),
      get channels() {
        return board().channels
      },
    }
  }
}

const secondsWords = (microseconds: number): string =>
  microseconds < 1e6 ? `${Math.round(microseconds / 1000)} ms` : `${Number((microseconds / 1e6).toFixed(1))} s`
