import { useEffect, useRef, useState } from 'react'

/** The part of the browser's serial interface (Web Serial) that is used here. */
interface SerialPort {
  readonly readable: ReadableStream<Uint8Array> | null
  readonly writable: WritableStream<Uint8Array> | null
  readonly open: (options: { baudRate: number }) => Promise<void>
  readonly close: () => Promise<void>
}
interface Serial {
  readonly requestPort: () => Promise<SerialPort>
}

const serialOf = (): Serial | undefined => (navigator as Navigator & { serial?: Serial }).serial

export const hasSerial = (): boolean => serialOf() !== undefined

export interface SerialLine {
  readonly open: boolean
  readonly trouble: string | undefined
  readonly connect: () => Promise<void>
  readonly leave: () => Promise<void>
  readonly send: (line: string) => Promise<void>
}

/** A serial line to a board at 115200 baud; each line that comes is handed on. */
export function useSerial(onLine: (line: string) => void): SerialLine {
  const port = useRef<SerialPort | undefined>(undefined)
  const reader = useRef<ReadableStreamDefaultReader<Uint8Array> | undefined>(undefined)
  const hear = useRef(onLine)
  hear.current = onLine
  const [open, setOpen] = useState(false)
  const [trouble, setTrouble] = useState<string>()

  const leave = async (): Promise<void> => {
    const [own, reading] = [port.current, reader.current]
    port.current = undefined
    reader.current = undefined
    setOpen(false)
    await reading?.cancel().catch(() => undefined)
    await own?.close().catch(() => undefined)
  }

  const listen = async (own: SerialPort): Promise<void> => {
    const decoder = new TextDecoder()
    let rest = ''
    const reading = own.readable?.getReader()
    reader.current = reading
    try {
      for (;;) {
        const { value, done } = (await reading?.read()) ?? { value: undefined, done: true }
        if (done) break
        rest += decoder.decode(value, { stream: true })
        const lines = rest.split('\n')
        // A line without an end is cut before it fills the memory.
        rest = (lines.pop() ?? '').slice(-4000)
        for (const line of lines) hear.current(line)
      }
    } catch (error) {
      setTrouble(`The line broke off: ${(error as Error).message}`)
    } finally {
      reading?.releaseLock()
      if (port.current === own) await leave()
    }
  }

  const connect = async (): Promise<void> => {
    setTrouble(undefined)
    try {
      const own = await serialOf()?.requestPort()
      if (!own) return
      await own.open({ baudRate: 115_200 })
      port.current = own
      setOpen(true)
      void listen(own)
    } catch (error) {
      // Who closes the choice without choosing wants nothing.
      if ((error as Error).name !== 'NotFoundError')
        setTrouble(`The board cannot be reached: ${(error as Error).message}`)
    }
  }

  const send = async (line: string): Promise<void> => {
    const writer = port.current?.writable?.getWriter()
    if (!writer) return
    try {
      await writer.write(new TextEncoder().encode(`${line}\n`))
    } catch (error) {
      setTrouble(`The board does not take what is sent: ${(error as Error).message}`)
    } finally {
      writer.releaseLock()
    }
  }

  // biome-ignore lint/correctness/useExhaustiveDependencies: the line is left when the page is
  useEffect(() => () => void leave(), [])
  return { open, trouble, connect, leave, send }
}
