import type { Layout } from '../breadboard/workbench.ts'
import { footprintOf } from '../catalog/footprint.ts'
import type { Wiring } from '../wiring/model.ts'
import type { Spot } from './metal.ts'
import { capital, type Step } from './step.ts'

/** What is seen before anything is measured: which way round parts stand. */
export function lookSteps(wiring: Wiring, layout: Layout | undefined): Step[] {
  const holeOf = (end: string): string | undefined => {
    const hole = layout?.holeOf.get(end)
    return hole === undefined ? undefined : layout?.grid.name(hole)
  }
  const spot = (ref: string, pin: string): Spot => {
    const hole = holeOf(`${ref}.${pin}`)
    return {
      id: `${ref}.${pin}`,
      end: `${ref}.${pin}`,
      hole,
      words: `${pin} of ${ref}${hole === undefined ? '' : ` in ${hole}`}`,
    }
  }
  return wiring.parts.flatMap((part): Step[] => {
    const { ref } = part
    const footprint = footprintOf(part.part, part.options)
    const base = { phase: 'look' as const, meter: undefined, predicted: undefined, board: undefined }
    const lights = part.part.inner.find((one) => one.kind === 'diode')
    const electrolytic = part.part.id === 'capacitor' && part.options.kind === 'electrolytic'
    if (footprint.kind === 'dual-in-line') {
      const first = footprint.pins[0] as string
      return [
        {
          ...base,
          id: `look:${ref}`,
          title: `${ref} the right way round`,
          does: `Find the notch or dot of ${ref}: leg 1 (${first}) lies left of it.`,
          spots: [spot(ref, first)],
          expect: `Leg 1 is in ${holeOf(`${ref}.${first}`) ?? 'its place'}.`,
          otherwise: [
            'A chip that is turned round gets its supply backwards and heats up at once: turn it before power.',
          ],
        },
      ]
    }
    if (electrolytic)
      return [
        {
          ...base,
          id: `look:${ref}`,
          title: `${ref} the right way round`,
          does: `The stripe of ${ref} marks its minus.`,
          spots: [spot(ref, '2')],
          expect: `The striped leg is ${spot(ref, '2').words}.`,
          otherwise: ['Backwards it can burst: turn it before power.'],
        },
      ]
    if (lights && part.part.polarised && part.part.pins.length === 2) {
      const [anode, cathode] = lights.between
      const lamp = part.part.category === 'light'
      return [
        {
          ...base,
          id: `look:${ref}`,
          title: `${ref} the right way round`,
          does: lamp
            ? `The long leg of ${ref} is ${anode}, the flat side is at ${cathode}. Or: diode test, red on ${anode}, black on ${cathode}.`
            : `The ring of ${ref} marks ${cathode}. Or: diode test, red on ${anode}, black on ${cathode}.`,
          spots: [spot(ref, anode), spot(ref, cathode)],
          meter: 'diode test',
          expect: lamp
            ? 'It glows faintly or reads 1.6 to 3.3 V; turned round nothing.'
            : 'It reads 0.2 to 0.8 V; turned round nothing.',
          otherwise: [`${ref} is turned round: exchange its legs.`],
        },
      ]
    }
    return 'check' in footprint && footprint.check !== undefined
      ? [
          {
            ...base,
            id: `look:${ref}`,
            title: `Print of ${ref}`,
            does: capital(footprint.check),
            spots: [],
            expect: 'The order of its pins is that of the plan.',
            otherwise: [`Another order: choose it in the options of ${ref}, or wire it by its print.`],
          },
        ]
      : []
  })
}
