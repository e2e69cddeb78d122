import { Fragment, useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import * as v from 'valibot'
import type { Language } from '../../../core/catalog/boardSchema.ts'
import { asksOf } from '../../../core/firmware/asks.ts'
import { type Constant, constantsOf, valueText, writeConstants } from '../../../core/firmware/constants.ts'
import { languagesOf, languageTitles } from '../../../core/firmware/pinNames.ts'
import { bootLines, settingsOf } from '../../../core/firmware/settings.ts'
import { ProgramName } from '../../../core/plan/planSchema.ts'
import { programRows } from '../../../core/sheets/programRows.ts'
import type { BoardInstance } from '../../../core/wiring/model.ts'
import { useDerived, usePlan } from '../../store/derived.ts'
import { editPlan } from '../../store/desk.ts'
import { useAppDispatch } from '../../store/store.ts'
import { toasted } from '../../store/toastSlice.ts'
import { BoardChoice } from './BoardChoice.tsx'
import { fileName, saveAs } from './takeAway.ts'

const endings: Readonly<Record<Language, string>> = {
  cpp: '.h',
  micropython: '.py',
  circuitpython: '.py',
  python: '.py',
}

/** What the program and the system of a board must know: names and numbers, orders, levels, settings. */
export function HandOver() {
  const { wiring } = useDerived()
  const [picked, setPicked] = useState<string>()
  const board = wiring.boards.find(({ ref }) => ref === picked) ?? wiring.boards[0]
  if (!board) return <p className="soft">Choose a board in the kit first: then its pins get names here.</p>
  return <BoardHandOver key={board.ref} board={board} onBoard={setPicked} />
}

function BoardHandOver({ board, onBoard }: { readonly board: BoardInstance; readonly onBoard: (ref: string) => void }) {
  const plan = usePlan()
  const { wiring } = useDerived()
  const dispatch = useAppDispatch()
  const languages = languagesOf(board.board)
  const [language, setLanguage] = useState<Language>(languages[0] ?? 'cpp')
  const groups = constantsOf(wiring, board.ref)
  const text = useMemo(() => writeConstants(wiring, board.ref, language), [wiring, board, language])
  const name = `${fileName(plan.title, '').toLowerCase().replace(/-/g, '_')}_pins${endings[language]}`
  const copy = async (): Promise<void> => {
    try {
      await navigator.clipboard.writeText(text)
      dispatch(toasted({ text: 'The constants are on the clipboard.', kind: 'said' }))
    } catch {
      dispatch(
        toasted({
          text: 'The browser does not let this page write to the clipboard: save the file instead.',
          kind: 'wrong',
        }),
      )
    }
  }
  return (
    <div className="handover">
      <section aria-label="Constants">
        <div className="handover-head">
          <h2>Names and numbers</h2>
          <BoardChoice boards={wiring.boards} chosen={board} onChosen={onBoard} />
          <div className="language-choice" role="radiogroup" aria-label="Language">
            {languages.map((one) => (
              <Form.Check
                key={one}
                inline
                type="radio"
                id={`language-${one}`}
                name="language"
                label={languageTitles[one]}
                checked={language === one}
                onChange={() => setLanguage(one)}
              />
            ))}
          </div>
          <Button size="sm" variant="dark" onClick={() => saveAs(name, text)}>
            Save {name}
          </Button>
          <Button size="sm" variant="outline-dark" onClick={() => void copy()}>
            Copy
          </Button>
        </div>
        {groups.length === 0 ? (
          <p className="soft">No signal reaches a pin of this board yet.</p>
        ) : (
          <table className="handover-names">
            <thead>
              <tr>
                <th>Name in the program</th>
                <th>Value</th>
                <th>What it is, and where fingers find it</th>
              </tr>
            </thead>
            <tbody>
              {groups.map((group) => (
                <Fragment key={group.title}>
                  <tr className="group">
                    <th colSpan={3}>{group.title}</th>
                  </tr>
                  {group.constants.map((constant) => (
                    <tr key={constant.name}>
                      <td>
                        <NameField constant={constant} />
                      </td>
                      <td className="mono">{valueText(board, constant.value, language) ?? 'no name there'}</td>
                      <td>{constant.about}</td>
                    </tr>
                  ))}
                </Fragment>
              ))}
            </tbody>
          </table>
        )}
      </section>
      <Asks board={board} />
      <Levels />
      <Settings board={board} />
      <details className="handover-file">
        <summary>The file as it is saved</summary>
        <pre className="mono" tabIndex={0}>
          {text}
        </pre>
      </details>
    </div>
  )
}

/** A constant's name; one of a pin can be changed, and is kept whatever happens to its wires. */
function NameField({ constant }: { readonly constant: Constant }) {
  const { name, end, own } = constant
  const [typed, setTyped] = useState<string>()
  if (end === undefined) return <span className="mono">{name}</span>
  const text = typed ?? name
  const checked = v.safeParse(ProgramName, text)
  const wrong = typed !== undefined && typed !== '' && !checked.success ? checked.issues[0].message : undefined
  const leave = (): void => {
    setTyped(undefined)
    if (typed === undefined || typed === name || wrong !== undefined) return
    editPlan([{ do: 'set-name', end, name: typed.trim() === '' ? null : typed.trim() }], `Name ${end} in the program`)
  }
  return (
    <span className="name-field">
      <Form.Control
        size="sm"
        className="mono"
        value={text}
        maxLength={60}
        aria-label={`Name of ${end}`}
        isInvalid={wrong !== undefined}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={leave}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur()
          if (event.key === 'Escape') setTyped(undefined)
        }}
      />
      {wrong !== undefined && <small className="text-danger">{wrong}</small>}
      {own && typed === undefined && (
        <Button
          size="sm"
          variant="link"
          aria-label={`Give ${end} its usual name`}
          onClick={() => editPlan([{ do: 'set-name', end, name: null }], `Name ${end} as usual`)}
        >
          as usual
        </Button>
      )}
    </span>
  )
}

function Asks({ board }: { readonly board: BoardInstance }) {
  const { wiring } = useDerived()
  const parts = asksOf(wiring, board)
  if (parts.length === 0) return null
  return (
    <section aria-label="What libraries ask for">
      <h2>What libraries ask for</h2>
      <div className="asks">
        {parts.map(({ ref, title, rows }) => (
          <div key={ref}>
            <h3>
              {ref} <small>{title}</small>
            </h3>
            <dl>
              {rows.map(({ what, give }) => (
                <Fragment key={`${what} ${give}`}>
                  <dt>{what}</dt>
                  <dd>{give}</dd>
                </Fragment>
              ))}
            </dl>
          </div>
        ))}
      </div>
    </section>
  )
}

function Levels() {
  const { wiring } = useDerived()
  const { levels } = programRows(wiring)
  if (levels.length === 0) return null
  return (
    <section aria-label="Which level does what">
      <h2>Which level does what</h2>
      <table className="handover-names">
        <thead>
          <tr>
            <th>Part</th>
            <th>Does</th>
            <th>When</th>
            <th>Mind</th>
          </tr>
        </thead>
        <tbody>
          {levels.map(({ ref, title, does, when, note }) => (
            <tr key={`${ref} ${does} ${when}`}>
              <td>
                <b>{ref}</b> {title}
              </td>
              <td>{does}</td>
              <td className="mono">{when}</td>
              <td>{note}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

function Settings({ board }: { readonly board: BoardInstance }) {
  const { wiring } = useDerived()
  const settings = settingsOf(wiring, board.ref)
  if (!settings) return null
  const lines = bootLines(settings)
  const block = (needed: boolean) =>
    settings.settings
      .filter((one) => one.needed === needed)
      .map(({ title, steps, lines: own, device }) => (
        <div key={title}>
          <h3>{title}</h3>
          <ul>
            {steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
            {own.map((line) => (
              <li key={line} className="mono">
                {line}
              </li>
            ))}
            {device !== undefined && (
              <li>
                Programs find it as <span className="mono">{device}</span>.
              </li>
            )}
          </ul>
        </div>
      ))
  const wishes = block(false)
  return (
    <section aria-label="Settings of the system">
      <h2>Settings of the system</h2>
      {settings.settings.length === 0 ? (
        <p className="soft">Nothing needs to be set.</p>
      ) : (
        <>
          <div className="asks">{block(true)}</div>
          {wishes.length > 0 && (
            <details>
              <summary>Can be left out</summary>
              <div className="asks">{wishes}</div>
            </details>
          )}
          {lines.length > 0 && (
            <p>
              All lines for <span className="mono">{settings.file}</span>:{' '}
              <span className="mono">{lines.join('  ')}</span>
            </p>
          )}
          <p className="soft">{settings.after}</p>
        </>
      )}
    </section>
  )
}
