import { expose } from 'comlink'
import { afterEach, expect, it, vi } from 'vitest'
import { makeCatalog } from '../../core/catalog/catalog.ts'
import { emptyPlan } from '../../core/plan/planSchema.ts'
import { SearchClient } from './search.ts'

/** A thread that is none: what it is asked is answered by `searcher` over a channel of messages. */
function threadWith(searcher: object): void {
  vi.stubGlobal(
    'Worker',
    class {
      readonly #port: MessagePort
      constructor() {
        const { port1, port2 } = new MessageChannel()
        expose({ load: async () => undefined, ...searcher }, port1)
        port1.start()
        port2.start()
        this.#port = port2
      }
      postMessage(message: unknown, transfer: Transferable[]): void {
        this.#port.postMessage(message, transfer)
      }
      addEventListener(type: string, listener: EventListener): void {
        this.#port.addEventListener(type, listener)
      }
      removeEventListener(type: string, listener: EventListener): void {
        this.#port.removeEventListener(type, listener)
      }
      terminate(): void {
        this.#port.close()
      }
    },
  )
}

afterEach(() => vi.unstubAllGlobals())
const soon = (milliseconds: number): Promise<void> => new Promise((done) => setTimeout(done, milliseconds))

it('tells how far a layout is until it is there, and nothing after that', async () => {
  threadWith({
    layOut: async (_plan: unknown, tell: (share: number) => void) => {
      tell(0.2)
      await soon(20)
      setTimeout(() => tell(0.9), 20)
      return { laid: true }
    },
  })
  const client = new SearchClient(makeCatalog([], []))
  const told: number[] = []
  expect(await client.layOut(emptyPlan('told'), (share) => told.push(share))).toEqual({ laid: true })
  await soon(60)
  expect(told).toEqual([0.2])
  client.stop()
})

it('answers nothing when it is stopped before there was any, and starts anew when it is asked again', async () => {
  threadWith({ layOut: () => new Promise(() => undefined), fixAll: async () => ({ mended: 1 }) })
  const client = new SearchClient(makeCatalog([], []))
  const waiting = client.layOut(emptyPlan('stopped'), () => undefined)
  await soon(5)
  client.stop()
  expect(await waiting).toBeUndefined()
  expect(await client.fixAll(emptyPlan('again'))).toEqual({ mended: 1 })
  client.stop()
})
