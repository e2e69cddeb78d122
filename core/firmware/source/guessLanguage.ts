import type { Language } from '../../catalog/boardSchema.ts'
import type { SourceFile } from './ir.ts'

/** Modules by which Python programs of one kind are known. */
const circuit =
  /^\s*(?:import|from)\s+(?:[\w.]+\s*,\s*)*(?:board|busio|digitalio|analogio|pwmio|microcontroller|neopixel_write)\b/m
const micro = /^\s*(?:import|from)\s+(?:[\w.]+\s*,\s*)*(?:machine|microbit|umachine|rp2|esp32|pyb)\b/m

/** The language of a program by the endings of its files and what it imports; undefined where they do not go together. */
export function languageOfFiles(files: readonly SourceFile[]): Language | undefined {
  const isPython = files.map(({ name }) => /\.py$/i.test(name))
  const isCpp = files.map(({ name }) => /\.(?:ino|pde|cpp|cc|cxx|c|h|hpp|hh)$/i.test(name))
  if (files.length > 0 && isCpp.every(Boolean)) return 'cpp'
  if (files.length === 0 || !isPython.every(Boolean)) return undefined
  const text = files.map((file) => file.text).join('\n')
  return circuit.test(text) ? 'circuitpython' : micro.test(text) ? 'micropython' : 'python'
}
