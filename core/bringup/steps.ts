import { layoutOf } from '../breadboard/layout.ts'
import type { Layout } from '../breadboard/workbench.ts'
import type { Wiring } from '../wiring/model.ts'
import { continuityTouches, type Touch } from './continuity.ts'
import { lookSteps } from './lookSteps.ts'
import { metalOf } from './metal.ts'
import { powerSteps } from './powerSteps.ts'
import { boardSteps } from './signalSteps.ts'
import type { Step } from './step.ts'

/** All steps of a plan in the order in which they are done; hole by hole where it is laid out. */
export function stepsOf(wiring: Wiring, layout: Layout | undefined = layoutOf(wiring)): Step[] {
  const touches = continuityTouches(wiring, metalOf(wiring, layout))
  return [...lookSteps(wiring, layout), ...touches.map(touchStep), ...powerSteps(wiring), ...boardSteps(wiring)]
}

function touchStep({ id, a, b, hears, proves, through }: Touch): Step {
  const sounds = hears === 'sounds'
  return {
    id,
    phase: 'continuity',
    title: `${a.hole ?? a.id} and ${b.hole ?? b.id}`,
    does: `Touch ${a.words} and ${b.words}.`,
    spots: [a, b],
    meter: 'continuity (the sounding one), no power anywhere',
    expect: sounds ? 'It sounds.' : `Silence${through === undefined ? '' : `; ${through}`}.`,
    predicted: undefined,
    otherwise: sounds
      ? ['Somewhere on this way something is loose or a row off:', ...proves]
      : ['Two that lie side by side touch, or a wire is a row off:', ...proves.slice(0, 6)],
    board: undefined,
  }
}
