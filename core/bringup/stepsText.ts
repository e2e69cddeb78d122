import type { Plan } from '../plan/planSchema.ts'
import { type Phase, phases, phaseTitles, type Step } from './step.ts'

/** Steps as Markdown: a box for each, to be followed on a screen or on paper; what is done already is ticked. */
export function stepsMarkdown(
  title: string,
  steps: readonly Step[],
  done: NonNullable<Plan['bringup']>['done'] = {},
): string {
  const step = (one: Step): string => {
    const proof = done[one.id]
    const seen = proof
      ? ` Seen: ${plain(proof.value ?? 'as it should be')}${proof.remark ? `, ${plain(proof.remark)}` : ''}.`
      : ''
    return [
      `- [${proof && !proof.wrong ? 'x' : ' '}] **${plain(one.title)}** ${plain(one.does)}`,
      ...(one.meter === undefined ? [] : [`  Meter: ${plain(one.meter)}.`]),
      `  Expect: ${plain(one.expect)}${seen}`,
      `  Else: ${one.otherwise.map(plain).join(' ')}`,
    ].join('\n')
  }
  const blocks = phases.flatMap((phase: Phase) => {
    const own = steps.filter((one) => one.phase === phase)
    return own.length === 0 ? [] : [`## ${phaseTitles[phase]}`, own.map(step).join('\n')]
  })
  return `${[`# Bring-up of ${plain(title)}`, ...blocks].join('\n\n')}\n`
}

/** Text that is no markup. */
const plain = (text: string): string => text.replace(/[\r\n]+/g, ' ').replace(/[\\|`*_<>[\]#]/g, (sign) => `\\${sign}`)
