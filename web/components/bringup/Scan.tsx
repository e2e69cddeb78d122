import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { compareScan, readScan } from '../../../core/bringup/scan.ts'
import { hexAddress } from '../../../core/electrical/hexAddress.ts'
import { useDerived } from '../../store/derived.ts'

/** What a bus scan printed, held against the plan. */
export function Scan() {
  const { wiring } = useDerived()
  const [text, setText] = useState('')
  const scan = text.trim() === '' ? undefined : readScan(text)
  const compared = scan && compareScan(wiring, scan)
  return (
    <div className="scan">
      <section>
        <h2>What the scan says</h2>
        <Form.Control
          as="textarea"
          rows={12}
          className="mono"
          value={text}
          aria-label="Text of a bus scan"
          placeholder={'I2C device found at address 0x3C\n\nor a grid, or [60, 118], or what the test program answers'}
          onChange={(event) => setText(event.target.value)}
        />
        <p className="soft">
          Paste what any scan program prints. Several buses are told apart by their names, such as Wire and Wire1.
        </p>
      </section>
      <section aria-live="polite">
        <h2>Against the plan</h2>
        {text.trim() === '' ? (
          <p className="soft">Nothing is pasted yet.</p>
        ) : !compared ? (
          <p role="alert">
            No scan is recognised in this text. Expected a grid of addresses, sentences with “0x3C”, or a list such as
            [60, 118].
          </p>
        ) : compared.segments.length === 0 ? (
          <p role="alert">The plan has no I2C bus that is wired.</p>
        ) : (
          compared.segments.map(({ title, expected, present, missing, unexpected }) => (
            <div key={title} className="segment">
              <h3>{title}</h3>
              <ul className="scan-devices">
                {expected
                  .filter(({ address }) => present.includes(address))
                  .map(({ part, address }) => (
                    <li key={`${part} ${address}`} className="ok">
                      <b className="mono">{hexAddress(address)}</b> {part} answers
                    </li>
                  ))}
                {missing.map(({ part, address, causes }) => (
                  <li key={`${part} ${address}`} className="fault">
                    <b className="mono">{hexAddress(address)}</b> {part} does not answer
                    <ol>
                      {causes.map((cause) => (
                        <li key={cause}>{cause}</li>
                      ))}
                    </ol>
                  </li>
                ))}
                {unexpected.map(({ address, could, causes }) => (
                  <li key={address} className="fault">
                    <b className="mono">{hexAddress(address)}</b> answers, and the plan has nobody there
                    <ol>
                      {causes.map((cause) => (
                        <li key={cause}>{cause}</li>
                      ))}
                      {could.length > 0 && <li>could be: {could.join(', ')}</li>}
                    </ol>
                  </li>
                ))}
              </ul>
            </div>
          ))
        )}
        {compared && compared.ignored.length > 0 && (
          <p className="soft">{compared.ignored.length} lines are no part of a scan and were passed over.</p>
        )}
      </section>
    </div>
  )
}
