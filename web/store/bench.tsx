import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from 'react'
import { adoptLayout, type LayoutData } from '../../core/breadboard/layout.ts'
import type { Layout } from '../../core/breadboard/workbench.ts'
import type { Finding } from '../../core/rules/finding.ts'
import { benchRules, check } from '../../core/rules/index.ts'
import type { Wiring } from '../../core/wiring/model.ts'
import { SearchClient } from '../workers/search.ts'
import { useCatalog, useDerived, usePlan } from './derived.ts'

/** The bench of the open plan as it is laid out; while a change is laid out, the layout before it. */
export interface BenchState {
  /** Undefined without a breadboard, and until the first layout is there. */
  readonly layout: Layout | undefined
  /** The wiring that the layout belongs to. */
  readonly wiring: Wiring
  readonly findings: readonly Finding[]
  /** How far a running layout is, between 0 and 1. */
  readonly share: number | undefined
  /** A layout that broke off, in words. */
  readonly trouble: string | undefined
}

const Context = createContext<BenchState | undefined>(undefined)

export function useBench(): BenchState {
  const state = useContext(Context)
  if (!state) throw new Error('useBench: no BenchProvider above this component')
  return state
}

interface Laid {
  readonly of: readonly unknown[]
  readonly data: LayoutData
  readonly wiring: Wiring
}

/** What a layout depends on: the joints and facts of the wiring, breadboards, places and spare rows. */
const causesOf = (wiring: Wiring): readonly unknown[] => {
  const { bench } = wiring.plan
  return [wiring.netOf, bench?.breadboards, bench?.places, bench?.via, bench?.spareRows]
}

const same = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((one, at) => one === b[at])

/** Lays the bench out in its own thread whenever the plan changes what it depends on. */
export function BenchProvider({ children }: { readonly children: ReactNode }) {
  const plan = usePlan()
  const { wiring } = useDerived()
  const catalog = useCatalog()
  const client = useMemo(() => new SearchClient(catalog), [catalog])
  useEffect(() => () => client.stop(), [client])
  const [laid, setLaid] = useState<Laid>()
  const [share, setShare] = useState<number>()
  const [trouble, setTrouble] = useState<string>()
  const [runs, setRuns] = useState(0)
  const wanted = Object.keys(plan.bench?.breadboards ?? {}).length > 0
  const causes = causesOf(wiring)
  const fresh = laid !== undefined && same(laid.of, causes)
  const latest = useRef(wiring)
  latest.current = wiring
  const running = useRef(false)
  const broken = useRef<readonly unknown[]>([])
  // Runs again when a run has ended, in case the plan went on meanwhile.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the number of runs stands for the end of one
  useEffect(() => {
    if (!wanted || fresh || running.current || same(broken.current, causesOf(latest.current))) return
    running.current = true
    const run = async (): Promise<void> => {
      const now = latest.current
      setShare(0)
      try {
        const data = await client.layOut(now.plan, setShare)
        if (data) setLaid({ of: causesOf(now), data, wiring: now })
        setTrouble(undefined)
      } catch (error) {
        broken.current = causesOf(now)
        setTrouble(error instanceof Error ? error.message : String(error))
      } finally {
        running.current = false
        setShare(undefined)
        setRuns((before) => before + 1)
      }
    }
    void run()
  }, [wanted, fresh, client, runs])
  const state = useMemo((): BenchState => {
    if (!wanted || !laid)
      return { layout: undefined, wiring, findings: [], share: wanted ? (share ?? 0) : share, trouble }
    const own = fresh ? wiring : laid.wiring
    const layout = adoptLayout(own, laid.data)
    return { layout, wiring: own, findings: fresh ? check(own, benchRules) : [], share, trouble }
  }, [wanted, laid, fresh, wiring, share, trouble])
  return <Context value={state}>{children}</Context>
}
