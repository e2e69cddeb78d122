import type { Host, Wiring } from '../wiring/model.ts'
import { networkOf } from './still.ts'

/** A channel of a switch of lines is held where its common line is, by a resistor there or inside the pin that it lies on. */
export function isPulledBeyond(wiring: Wiring, { provider }: Host, way: 'up' | 'down'): boolean {
  const behaves = provider?.part.behaves
  if (provider === undefined || behaves?.as !== 'choose') return false
  const common = `${provider.ref}.${behaves.common}`
  const hosts = wiring.signal(common)?.hosts ?? []
  return (
    networkOf(wiring).pulled(wiring.netOf(common)) !== undefined ||
    hosts.some(({ host }) => host.functions.has(`pull-${way}`))
  )
}
