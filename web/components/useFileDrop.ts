import { type DragEvent, useState } from 'react'

/** A place onto which files can be dropped: whether some are over it now, and what it listens to. */
export function useFileDrop(take: (files: readonly File[]) => Promise<void>) {
  const [over, setOver] = useState(false)
  return {
    over,
    drop: {
      onDragOver: (event: DragEvent): void => {
        event.preventDefault()
        setOver(true)
      },
      onDragLeave: (): void => setOver(false),
      onDrop: (event: DragEvent): void => {
        event.preventDefault()
        setOver(false)
        void take([...event.dataTransfer.files])
      },
    },
  }
}
