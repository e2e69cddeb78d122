import { vi } from 'vitest'
import { run } from '../run.ts'

/** A command as it ends in this process: its status, and what it writes where. */
export async function runHere(...args: string[]): Promise<{ status: number; out: string; said: string }> {
  const said = { stdout: '', stderr: '' }
  const spies = (['stdout', 'stderr'] as const).map((name) =>
    vi.spyOn(process[name], 'write').mockImplementation((text) => {
      said[name] += String(text)
      return true
    }),
  )
  try {
    return { status: await run(args), out: said.stdout, said: said.stderr.trim() }
  } finally {
    for (const spy of spies) spy.mockRestore()
  }
}
