import { Form } from 'react-bootstrap'
import { type WireColour, type WireKind, wireColourNames, wireKinds } from '../../../core/plan/planSchema.ts'
import { usualColours } from '../../../core/sheets/colours.ts'
import { usePlan } from '../../store/derived.ts'
import { editPlan as edit } from '../../store/desk.ts'

const words: Readonly<Record<WireKind, string>> = {
  ground: 'Ground',
  supply: 'Main supply',
  'second-supply': 'Any other supply',
  data: 'I2C data',
  clock: 'I2C clock',
  spi: 'SPI',
  serial: 'UART and other buses',
  analog: 'Analog',
  input: 'Inputs of the board',
  output: 'Outputs, loads',
}

/** Which colour a wire has by what it carries, where the plan's wire names none of its own. */
export function HouseColours() {
  const { colours = {} } = usePlan().settings ?? {}
  const changed = Object.keys(colours).length
  return (
    <details className="house-colours">
      <summary>Colours of wires{changed > 0 ? ` (${changed} of your own)` : ''}</summary>
      {wireKinds.map((kind) => (
        <Form.Group key={kind} controlId={`colour-${kind}`} className="spare">
          <Form.Label>{words[kind]}</Form.Label>
          <Form.Select
            size="sm"
            value={colours[kind] ?? ''}
            onChange={(event) => {
              const colour = (event.target.value || null) as WireColour | null
              edit([{ do: 'house-colour', what: kind, colour }], `Change the colour of wires for ${words[kind]}`)
            }}
          >
            <option value="">{usualColours[kind]}, as usual</option>
            {wireColourNames.map((name) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      ))}
    </details>
  )
}
