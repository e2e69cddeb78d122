import { staysInBox } from '../assign/left.ts'
import { openEnds } from '../assign/openEnds.ts'
import { counted } from '../base/counted.ts'
import type { Finding } from '../rules/finding.ts'
import { check, count } from '../rules/index.ts'
import { sift } from '../rules/waiting.ts'
import type { Wiring } from '../wiring/model.ts'

/** What is to be done next with a plan, and in which place. */
export interface NextStep {
  readonly is: 'board' | 'parts' | 'wire' | 'mend' | 'lay-out' | 'build' | 'prove' | 'done'
  readonly place: 'kit' | 'pins' | 'bench' | 'sheets' | 'bring-up'
  readonly text: string
}

/**
 * The next step of a plan in the order of the work: a board, parts, wires, faults, breadboards, building, proving.
 * Findings of the plan may be given where they are known.
 */
export function nextStep(wiring: Wiring, findings: readonly Finding[] = check(wiring)): NextStep {
  const { plan } = wiring
  if (wiring.boards.length === 0)
    return { is: 'board', place: 'kit', text: 'Name the board that everything hangs on, in the field of the Kit.' }
  if (wiring.parts.length === 0)
    return {
      is: 'parts',
      place: 'kit',
      text: 'Type or paste the parts that lie in front of you, in the field of the Kit.',
    }
  const boxed = new Set(staysInBox(wiring).map(({ ref }) => ref))
  const open = wiring.parts
    .filter(({ ref }) => !boxed.has(ref))
    .reduce((sum, part) => sum + openEnds(wiring, part).filter(({ required }) => required).length, 0)
  if (open > 0)
    return {
      is: 'wire',
      place: 'pins',
      text: `${counted(open, 'pin')} ${open === 1 ? 'has' : 'have'} no wire yet: let the tool place them, by one press in the Kit, or enter what is wired already by hand, on Pins.`,
    }
  const { fault } = count(sift(wiring, findings).standing)
  if (fault > 0)
    return {
      is: 'mend',
      place: 'pins',
      text: `${counted(fault, 'fault')} ${fault === 1 ? 'stands' : 'stand'} in the way: open the first under Findings, and take a fix or say why it may stay.`,
    }
  if (Object.keys(plan.bench?.breadboards ?? {}).length === 0)
    return {
      is: 'lay-out',
      place: 'bench',
      text: 'Everything has its pin. Lay it out on breadboards, so that the table names holes.',
    }
  const stage = plan.bringup?.stage
  if (stage === undefined || stage === 'planned')
    return (plan.bench?.done.length ?? 0) > 0
      ? {
          is: 'build',
          place: 'bench',
          text: 'Go on building wire by wire, from the Bench or the printed table; then prove it under Bring-up before it gets power.',
        }
      : {
          is: 'build',
          place: 'sheets',
          text: 'Print the wiring table, or build from the Bench on a tablet and tick each wire.',
        }
  return stage === 'proven'
    ? { is: 'done', place: 'bring-up', text: 'It is proven. The record of its bring-up can be printed.' }
    : { is: 'prove', place: 'bring-up', text: 'Go on with bring-up: the next step is open there.' }
}
