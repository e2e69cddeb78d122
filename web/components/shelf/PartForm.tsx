import { useId, useMemo, useRef, useState } from 'react'
import { Form } from 'react-bootstrap'
import { parse } from 'yaml'
import type { Problem } from '../../../core/base/problem.ts'
import { withForm } from '../../../core/catalog/formText.ts'
import {
  type PartForm as Fields,
  type FormPin,
  formOf,
  isPlain,
  readPinNames,
  renamedPins,
} from '../../../core/catalog/partForm.ts'
import { categories } from '../../../core/catalog/partSchema.ts'
import {
  type BuildKind,
  buildKinds,
  type LevelKind,
  levelKinds,
  type PinUse,
  pinUses,
} from '../../../core/catalog/pinUses.ts'
import { hexAddress } from '../../../core/electrical/hexAddress.ts'
import { categoryTitles } from './categories.ts'

/** The few things that most modules need, as fields; the text beside it holds the same and all the rest. */
export function PartForm({
  text,
  isNew,
  problems,
  onText,
}: {
  text: string
  isNew: boolean
  problems: readonly Problem[]
  onText: (text: string) => void
}) {
  const raw = useMemo(() => readable(text), [text])
  const form = useMemo(() => formOf(raw), [raw])
  const plain = isPlain(raw)
  // Pins that are taken out of the list and come back, by a slip of the hand, are what they were.
  const remembered = useRef({ pins: new Map<string, FormPin>(), addresses: form.addresses, pullUpOhms: 0 })
  for (const pin of form.pins) remembered.current.pins.set(pin.name, pin)
  if (form.addresses.length > 0)
    Object.assign(remembered.current, { addresses: form.addresses, pullUpOhms: form.pullUpOhms })
  const rename = (typed: string): void => {
    const { pins, addresses, pullUpOhms } = remembered.current
    const bus = form.addresses.length > 0 ? {} : { addresses, pullUpOhms }
    set({ pins: renamedPins([...pins.values()], typed), ...bus })
  }
  const isHeld = withForm(text, form, isNew) !== undefined
  const set = (some: Partial<Fields>): void => {
    const written = withForm(text, { ...form, ...some }, isNew)
    if (written !== undefined) onText(written)
  }
  const wrong = (...paths: string[]): string | undefined =>
    problems.find(({ path }) => paths.some((one) => path === one || path.startsWith(`${one}.`)))?.message
  if (!isHeld)
    return (
      <p className="part-form soft" role="note">
        The text is no entry at the moment. Mend it beside this, and the form comes back.
      </p>
    )
  const has = (bus: 'scl' | 'sda'): boolean => form.pins.some(({ use }) => use === bus)
  return (
    <form className="part-form" aria-label="Part as a form" onSubmit={(event) => event.preventDefault()}>
      <Line title="Name" wrong={wrong('title', 'id')}>
        {(id) => (
          <Form.Control
            id={id}
            value={form.title}
            maxLength={120}
            onChange={(event) => set({ title: event.target.value })}
          />
        )}
      </Line>
      <Line title="What it is" wrong={wrong('category')}>
        {(id) => (
          <Form.Select id={id} value={form.category} onChange={(event) => set({ category: event.target.value })}>
            {categories.map((one) => (
              <option key={one} value={one}>
                {categoryTitles[one] ?? one}
              </option>
            ))}
          </Form.Select>
        )}
      </Line>
      <Typed
        title="Pins as printed, in their order"
        hint="parted by blanks, such as VCC GND SCL SDA"
        value={form.pins.map(({ name }) => name).join(' ')}
        isSame={(typed) => readPinNames(typed).join(' ') === form.pins.map(({ name }) => name).join(' ')}
        wrong={wrong('pins')}
        isHeld={!plain}
        onTyped={rename}
      />
      {!plain && (
        <p className="soft" role="note">
          This part can be wired in several ways, which stand in the text: its pins and its bus are changed there.
        </p>
      )}
      {form.pins.length > 0 && (
        <table className="form-pins">
          <thead>
            <tr>
              <th scope="col">Pin</th>
              <th scope="col">What it does</th>
              <th scope="col">May stay open</th>
            </tr>
          </thead>
          <tbody>
            {form.pins.map((pin) => {
              const change = (some: Partial<typeof pin>): void =>
                set({ pins: form.pins.map((one) => (one === pin ? { ...one, ...some } : one)) })
              return (
                <tr key={pin.name}>
                  <th scope="row" className="mono">
                    {pin.name}
                  </th>
                  <td>
                    <Form.Select
                      size="sm"
                      aria-label={`What ${pin.name} does`}
                      value={pin.use}
                      disabled={!plain}
                      onChange={(event) => change({ use: event.target.value as PinUse })}
                    >
                      {Object.entries(pinUses).map(([use, { title }]) => (
                        <option key={use} value={use}>
                          {title}
                        </option>
                      ))}
                    </Form.Select>
                  </td>
                  <td>
                    {pinUses[pin.use].role === 'signal' && (
                      <Form.Check
                        aria-label={`${pin.name} may stay open`}
                        checked={pin.optional}
                        disabled={!plain}
                        onChange={(event) => change({ optional: event.target.checked })}
                      />
                    )}
                  </td>
                </tr>
              )
            })}
          </tbody>
        </table>
      )}
      <fieldset className="form-row">
        <legend>Supply</legend>
        <Figure title="from, V" value={form.least} onFigure={(least) => set({ least })} />
        <Figure title="to, V" value={form.most} onFigure={(most) => set({ most })} />
        <Figure title="usually, mA" value={form.typical} onFigure={(typical) => set({ typical })} />
        <Figure title="at most, mA" value={form.peak} onFigure={(peak) => set({ peak })} />
        <Wrong
          text={
            form.least === undefined || form.most === undefined
              ? 'expected the volts that it runs on, such as 3 to 3.6'
              : wrong('supplies')
          }
        />
      </fieldset>
      <Line title="Levels of its pins" wrong={wrong('levels')}>
        {(id) => (
          <Form.Select
            id={id}
            value={form.levels}
            onChange={(event) => set({ levels: event.target.value as LevelKind })}
          >
            {Object.entries(levelKinds).map(([kind, { title }]) => (
              <option key={kind} value={kind}>
                {title}
              </option>
            ))}
            {form.levels === 'other' && <option value="other">as the text says</option>}
          </Form.Select>
        )}
      </Line>
      {plain && (has('scl') || has('sda')) && (
        <>
          <Typed
            title="I2C addresses, the usual one first"
            hint="such as 0x76 0x77"
            value={form.addresses.map(hexAddress).join(' ')}
            isSame={(typed) => readAddresses(typed).join() === form.addresses.join()}
            wrong={form.addresses.length === 0 ? 'expected an address such as 0x3C' : wrong('modes', 'options')}
            onTyped={(typed) => set({ addresses: readAddresses(typed) })}
          />
          <fieldset className="form-row">
            <legend>Pull-ups on the module</legend>
            <Figure title="Ω, 0 for none" value={form.pullUpOhms} onFigure={(ohms) => set({ pullUpOhms: ohms ?? 0 })} />
          </fieldset>
        </>
      )}
      <fieldset className="form-row">
        <legend>Built with</legend>
        <Form.Select
          aria-label="Built with"
          value={form.build}
          onChange={(event) => set({ build: event.target.value as BuildKind })}
        >
          {Object.entries(buildKinds).map(([kind, title]) => (
            <option key={kind} value={kind}>
              {title}
            </option>
          ))}
          {form.build === 'other' && <option value="other">as the text says</option>}
        </Form.Select>
        {form.build === 'two-row' && (
          <Figure
            title="rows apart, in holes"
            value={form.rowsApart}
            onFigure={(rowsApart) => set({ rowsApart: rowsApart ?? form.rowsApart })}
          />
        )}
        <Wrong text={wrong('footprint')} />
      </fieldset>
    </form>
  )
}

function readable(text: string): unknown {
  try {
    return parse(text)
  } catch {
    return undefined
  }
}

/** Addresses as typed, in hexadecimal with or without 0x; what is none is left out. */
const readAddresses = (typed: string): number[] => [
  ...new Set(
    typed
      .split(/[\s,;]+/)
      .filter((one) => /^(0x)?[0-9a-f]{1,2}$/i.test(one))
      .map((one) => Number.parseInt(one.replace(/^0x/i, ''), 16)),
  ),
]

function Wrong({ text, id }: { text: string | undefined; id?: string }) {
  return text === undefined ? null : (
    <p className="form-wrong" id={id}>
      {text}
    </p>
  )
}

function Line({
  title,
  wrong,
  children,
}: {
  title: string
  wrong: string | undefined
  children: (id: string) => React.ReactNode
}) {
  const id = useId()
  return (
    <div className="form-line">
      <Form.Label htmlFor={id}>{title}</Form.Label>
      {children(id)}
      <Wrong text={wrong} />
    </div>
  )
}

/** A field that keeps what is typed as long as it means what the form holds: blanks at the end, half an address. */
function Typed({
  title,
  hint,
  value,
  isSame,
  wrong,
  isHeld = false,
  onTyped,
}: {
  title: string
  hint: string
  value: string
  isSame: (typed: string) => boolean
  wrong: string | undefined
  /** Shown, but changed elsewhere. */
  isHeld?: boolean
  onTyped: (typed: string) => void
}) {
  const [typed, setTyped] = useState(value)
  const shown = isSame(typed) ? typed : value
  return (
    <Line title={title} wrong={wrong}>
      {(id) => (
        <Form.Control
          id={id}
          className="mono"
          value={shown}
          disabled={isHeld}
          placeholder={hint}
          autoComplete="off"
          spellCheck={false}
          onChange={(event) => {
            setTyped(event.target.value)
            onTyped(event.target.value)
          }}
        />
      )}
    </Line>
  )
}

function Figure({
  title,
  value,
  onFigure,
}: {
  title: string
  value: number | undefined
  onFigure: (value: number | undefined) => void
}) {
  const id = useId()
  const [typed, setTyped] = useState(value === undefined ? '' : String(value))
  const read = (text: string): number | undefined => {
    const figure = Number(text.replace(',', '.'))
    return text.trim() === '' || !Number.isFinite(figure) || figure < 0 ? undefined : figure
  }
  const shown = read(typed) === value ? typed : value === undefined ? '' : String(value)
  return (
    <div className="form-figure">
      <Form.Control
        id={id}
        inputMode="decimal"
        autoComplete="off"
        value={shown}
        onChange={(event) => {
          setTyped(event.target.value)
          onFigure(read(event.target.value))
        }}
      />
      <Form.Label htmlFor={id}>{title}</Form.Label>
    </div>
  )
}
