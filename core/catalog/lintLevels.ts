import type { Path } from '../base/yamlSource.ts'
import { type Levels, volts } from './common.ts'

/** Says one thing that is wrong, with the keys that lead to it. */
export type Say = (text: string, path?: Path) => void

/** Levels must be ordered: least < vil < vih ≤ most, and outputs must lie within what their own inputs accept. */
export function lintLevels(levels: Levels, vdd: number, where: string, say: Say, path: Path = []): void {
  const at = (name: 'vih' | 'vil' | 'voh' | 'vol' | 'most' | 'least'): number | undefined => volts(levels[name], vdd)
  const ordered = (low: number | undefined, high: number | undefined, text: string): void => {
    if (low !== undefined && high !== undefined && low > high + 1e-9)
      say(`${where}: ${text} (${low} V, ${high} V)`, path)
  }
  ordered(at('vil'), at('vih'), 'VIL lies above VIH')
  ordered(at('vih'), at('most'), 'VIH lies above what the pin bears')
  ordered(at('vol'), at('voh'), 'VOL lies above VOH')
  ordered(at('least'), at('vil'), 'the least voltage lies above VIL')
}
