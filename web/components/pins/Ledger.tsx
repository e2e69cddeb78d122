import type { ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { openEnds } from '../../../core/assign/openEnds.ts'
import { wiresOf } from '../../../core/assign/rewire.ts'
import type { Edit } from '../../../core/plan/edit.ts'
import { busNeed } from '../../../core/wiring/buses.ts'
import type { PartInstance, SignalUse } from '../../../core/wiring/model.ts'
import { needWords } from '../../../core/wiring/needs.ts'
import { useDerived } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'
import { planActions } from '../../store/planSlice.ts'
import { useAppDispatch, useAppSelector } from '../../store/store.ts'
import { ActionMenu } from '../ActionMenu.tsx'
import { KindMark } from '../kinds.tsx'
import { Weights } from '../Weights.tsx'

/** Parts with something to wire, in plan order: what is done stays where it is. */
export const ledgerOrder = (
  parts: readonly PartInstance[],
  signals: readonly SignalUse[],
): { part: PartInstance; uses: SignalUse[] }[] =>
  parts
    .map((part) => ({ part, uses: signals.filter((use) => use.part === part) }))
    .filter(({ part, uses }) => uses.length > 0 || part.supplies.length > 0)

interface LedgerProps {
  /** Arrangements tried by the search that runs; undefined while none does. */
  readonly searching: number | undefined
  /** Undefined in a task in which pins are to be found. */
  readonly onPlaceRest: (() => void) | undefined
  readonly onStop: () => void
  /** Undefined while nothing clashes. */
  readonly onMoveClashing: (() => void) | undefined
  readonly onWireRest: ((ref: string) => void) | undefined
  readonly onByHand: () => void
  /** What only the maker knows, where something is asked. */
  readonly questions: ReactNode
}

export function Ledger(props: LedgerProps) {
  const { searching, onPlaceRest, onStop, onMoveClashing, onWireRest, onByHand, questions } = props
  const { wiring } = useDerived()
  const picked = useAppSelector((state) => state.plan.picked)
  const lit = useAppSelector((state) => state.plan.lit)
  const dispatch = useAppDispatch()
  const rows = ledgerOrder(wiring.parts, wiring.signals)
  const open = wiring.signals.filter((use) => use.state === 'open' && use.facts.required).length
  return (
    <section className="ledger" aria-label="Signals">
      <header>
        <h2>Signals</h2>
        <span className="soft" data-testid="open-count">
          {open === 0 ? 'all placed' : `${open} of ${wiring.signals.filter((use) => use.facts.required).length} open`}
        </span>
      </header>
      <div className="rest-button">
        {onPlaceRest === undefined ? (
          <p className="soft mb-0">A task to be solved by oneself: pick a signal, then its post.</p>
        ) : searching === undefined ? (
          <Button variant="dark" onClick={onPlaceRest}>
            Place the rest <kbd>*</kbd>
          </Button>
        ) : (
          <Button variant="outline-dark" onClick={onStop}>
            Stop ({searching} tried)
          </Button>
        )}
      </div>
      <div className="ledger-tools">
        {onMoveClashing && (
          <Button size="sm" variant="outline-dark" className="text-nowrap" onClick={onMoveClashing}>
            Move what clashes
          </Button>
        )}
        <Button size="sm" variant="outline-dark" className="text-nowrap" onClick={onByHand}>
          Enter by hand
        </Button>
        <LockKind />
        {onPlaceRest && <Weights />}
      </div>
      {questions}
      {rows.map(({ part, uses }) => {
        const rest = openEnds(wiring, part).filter((one) => one.required && one.kind !== 'signal')
        return (
          <div key={part.ref} data-ledger={part.ref}>
            <div className="part">
              <b style={lit.includes(part.ref) ? { color: 'var(--mp-flag)' } : undefined}>{part.ref}</b>
              <span title={part.part.title}>{part.title}</span>
              <LockPart part={part} uses={uses} />
            </div>
            {uses.map((use) => (
              <button
                type="button"
                key={use.end}
                className={`signal ${picked === use.end ? 'picked' : ''}`}
                data-signal={use.end}
                aria-pressed={picked === use.end}
                draggable
                onDragStart={(event) => {
                  event.dataTransfer.setData('text/plain', use.end)
                  dispatch(planActions.picked(use.end))
                }}
                onClick={() => dispatch(planActions.picked(picked === use.end ? undefined : use.end))}
              >
                <KindMark need={use.facts.needs} />
                <span className="pin">{use.facts.pin}</span>
                <span className={`where ${use.state === 'open' && use.facts.required ? 'open' : 'soft'}`}>
                  {whereWords(use, picked === use.end, onPlaceRest !== undefined)}
                </span>
                <span>
                  {use.locked ? (
                    <span title="locked">
                      ▣<span className="visually-hidden"> locked</span>
                    </span>
                  ) : (
                    ''
                  )}
                </span>
              </button>
            ))}
            {rest.length > 0 && (
              <div className="rest">
                <span>open: {rest.map((one) => one.end.slice(part.ref.length + 1)).join(', ')}</span>
                {onWireRest && (
                  <Button
                    size="sm"
                    variant="outline-dark"
                    onClick={() => onWireRest(part.ref)}
                    aria-label={`Wire what is open on ${part.ref}`}
                  >
                    wire
                  </Button>
                )}
              </div>
            )}
          </div>
        )
      })}
    </section>
  )
}

/** Locks the wires of all signals of one kind, or lets them go again. */
function LockKind() {
  const { wiring } = useDerived()
  const kinds = new Map<string, SignalUse[]>()
  for (const use of wiring.signals) {
    if (use.hosts.length === 0) continue
    const kind = busNeed(use.facts.needs)?.kind.toUpperCase() ?? needWords(use.facts.needs)
    kinds.set(kind, [...(kinds.get(kind) ?? []), use])
  }
  if (kinds.size < 2) return null
  const lock = (kind: string): void => {
    const uses = kinds.get(kind) ?? []
    const locked = uses.every((use) => use.locked)
    const wires = new Map(uses.flatMap((use) => wiresOf(wiring, use)).map((wire) => [`${wire[0]} ${wire[1]}`, wire]))
    edit(
      [...wires.values()].map(([from, to]): Edit => ({ do: 'change-wire', from, to, facts: { locked: !locked } })),
      `${locked ? 'Unlock' : 'Lock'} all ${kind}`,
    )
  }
  return (
    <ActionMenu
      size="sm"
      className="lock-kind"
      label="Lock or unlock all signals of a kind"
      actions={[...kinds].map(([kind, uses]) => ({
        id: kind,
        text: `${uses.every((use) => use.locked) ? 'Unlock' : 'Lock'} ${uses.length} × ${kind}`,
      }))}
      onPick={lock}
    >
      Lock all of a kind …
    </ActionMenu>
  )
}

/** Locks all wires of a part, or lets them go again. */
function LockPart({ part, uses }: { part: PartInstance; uses: readonly SignalUse[] }) {
  const { wiring } = useDerived()
  const wires = wiring.plan.wires.filter((wire) => [wire[0], wire[1]].some((end) => end.startsWith(`${part.ref}.`)))
  const placed = uses.filter((use) => use.hosts.length > 0)
  if (placed.length === 0) return null
  const locked = placed.every((use) => use.locked)
  return (
    <Button
      size="sm"
      variant="link"
      className="lock-part"
      title={locked ? `Unlock all wires of ${part.ref}` : `Lock all wires of ${part.ref}`}
      aria-label={locked ? `Unlock all wires of ${part.ref}` : `Lock all wires of ${part.ref}`}
      onClick={() =>
        edit(
          wires.map(([from, to]): Edit => ({ do: 'change-wire', from, to, facts: { locked: !locked } })),
          `${locked ? 'Unlock' : 'Lock'} ${part.ref}`,
        )
      }
    >
      {locked ? '▣' : '▢'}
    </Button>
  )
}

function whereWords(use: SignalUse, picked: boolean, hints: boolean): string {
  const link = use.hosts[0]
  if (link) {
    const label = link.host.board?.facts.pin(link.host.pin)?.label
    const pin = link.host.pin
    const name = label !== undefined && label !== pin ? `${label} · ${pin}` : link.host.provider ? link.host.end : pin
    return link.via.length > 0 ? `${name} via ${link.via.join(', ')}` : name
  }
  if (use.state === 'unused') return 'left open'
  if (use.state === 'tied') return 'on a rail'
  if (picked) return hints ? 'key, or type a pin' : 'press a post'
  return use.facts.required ? 'open' : 'optional'
}
