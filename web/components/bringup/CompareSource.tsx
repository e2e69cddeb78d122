import { useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useParams } from 'react-router'
import { languagesOf, languageTitles } from '../../../core/firmware/pinNames.ts'
import { compareSource } from '../../../core/firmware/source/compare.ts'
import { type Difference, differenceKinds } from '../../../core/firmware/source/differences.ts'
import { languageOfFiles } from '../../../core/firmware/source/guessLanguage.ts'
import type { SourceFile } from '../../../core/firmware/source/ir.ts'
import type { BoardInstance, Host } from '../../../core/wiring/model.ts'
import { useDerived } from '../../store/derived.ts'
import { BoardView, type YardState } from '../BoardView.tsx'
import { readSources, sourceEndings } from '../sources.ts'
import { useFileDrop } from '../useFileDrop.ts'
import { yardUses } from '../yardViews.ts'
import { BoardChoice } from './BoardChoice.tsx'

/** Programs that were read, by plan: they stay while the page is open, and go nowhere. */
const held = new Map<string, readonly SourceFile[]>()

/** The maker's program beside the plan: what differs, with its line and its post. */
export function CompareSource() {
  const { id = '' } = useParams()
  const { wiring } = useDerived()
  const [files, setFiles] = useState<readonly SourceFile[]>(held.get(id) ?? [])
  const [trouble, setTrouble] = useState<string>()
  const [picked, setPicked] = useState<string>()
  const language = languageOfFiles(files)
  const fitting = wiring.boards.filter((board) => language !== undefined && languagesOf(board.board).includes(language))
  const board = fitting.find(({ ref }) => ref === picked) ?? fitting[0]
  const take = async (given: readonly File[]): Promise<void> => {
    const read = await readSources(given)
    if ('trouble' in read) setTrouble(read.trouble)
    else keep(read.files)
  }
  const keep = (next: readonly SourceFile[]): void => {
    setTrouble(undefined)
    held.set(id, next)
    setFiles(next)
  }
  const { over, drop } = useFileDrop(take)
  return (
    <div className={`compare ${over ? 'over' : ''}`} {...drop}>
      <div className="handover-head">
        <h2>{files.length === 0 ? 'Your program' : files.map(({ name }) => name).join(', ')}</h2>
        <Form.Control
          type="file"
          size="sm"
          multiple
          accept={sourceEndings}
          aria-label="Files of the program"
          onChange={(event) => {
            const input = event.target as HTMLInputElement
            const given = [...(input.files ?? [])]
            input.value = ''
            if (given.length > 0) void take(given)
          }}
        />
        {files.length > 0 && (
          <Button size="sm" variant="outline-dark" onClick={() => keep([])}>
            Put it away
          </Button>
        )}
        {board && <BoardChoice boards={fitting} chosen={board} onChosen={setPicked} />}
        {language && <span className="soft">{languageTitles[language]}</span>}
      </div>
      {trouble !== undefined && (
        <p className="text-danger" role="alert">
          {trouble}
        </p>
      )}
      {files.length === 0 ? (
        <p className="soft">
          Choose the files of your program, or drop them here: a sketch with its tabs, MicroPython, CircuitPython or
          Python. It is read on this machine and not run; pins, modes, buses and addresses are held against the plan.
        </p>
      ) : board && language ? (
        <Compared files={files} board={board} language={language} />
      ) : (
        <p role="alert">
          No board of this plan is programmed in {language ? languageTitles[language] : 'that language'}.
        </p>
      )}
    </div>
  )
}

const kindWords: Readonly<Record<Difference['kind'], string>> = {
  same: 'same',
  differs: 'other pin',
  exchanged: 'exchanged',
  numbering: 'counted otherwise',
  'no-pin': 'no such pin',
  unknown: 'not in the plan',
  missing: 'not in the program',
  mode: 'direction',
  pull: 'pull missing',
  bus: 'bus elsewhere',
  address: 'address',
  baud: 'rate',
  lost: 'not followed',
  unread: 'not read',
}

function Compared({
  files,
  board,
  language,
}: {
  readonly files: readonly SourceFile[]
  readonly board: BoardInstance
  readonly language: NonNullable<ReturnType<typeof languageOfFiles>>
}) {
  const { wiring } = useDerived()
  const compared = useMemo(() => compareSource(wiring, board, files, language), [wiring, board, files, language])
  const rest = compared.differences.filter(({ kind }) => kind !== 'same')
  const same = compared.differences.filter(({ kind }) => kind === 'same')
  const [at, setAt] = useState<Difference>()
  const shown = at && compared.differences.includes(at) ? at : undefined
  const lit = useMemo(() => {
    const hosts = (shown?.ends ?? []).flatMap((end) =>
      end.includes('.')
        ? (wiring.signal(end)?.hosts ?? []).map(({ host }) => host.end)
        : wiring.signals
            .filter(({ part }) => part.ref === end)
            .flatMap(({ hosts: own }) => own.map(({ host }) => host.end)),
    )
    return new Set([...(shown?.ends ?? []), ...hosts])
  }, [shown, wiring])
  const yard: YardState = {
    wiring,
    uses: useMemo(() => yardUses(wiring), [wiring]),
    candidates: undefined,
    picked: undefined,
    best: undefined,
    onEnd: undefined,
    lit,
    hurt: useMemo(
      () =>
        new Set(
          rest
            .filter(({ kind }) => differenceKinds[kind].severity === 'fault')
            .flatMap(({ ends }) =>
              ends.flatMap((end) => [end, ...(wiring.signal(end)?.hosts ?? []).map(({ host }) => host.end)]),
            ),
        ),
      [rest, wiring],
    ),
    onPost: (host: Host) => {
      const found = compared.differences.find(({ ends }) =>
        ends.some((end) => wiring.signal(end)?.hosts.some((one) => one.host === host)),
      )
      if (found) setAt(found)
    },
    onDropped: () => undefined,
  }
  return (
    <>
      <p className="compare-sum" role="status">
        {compared.agrees ? 'Program and plan agree' : 'Program and plan differ'}: {same.length} the same,{' '}
        {rest.length === 0 ? 'nothing else' : `${rest.length} to look at`}.
      </p>
      <div className="compare-sides">
        <div className="compare-words">
          <ol className="differences" aria-label="What the comparison says">
            {[...rest, ...same].map((one, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the list is made anew with each comparison
              <li key={index} className={`difference ${differenceKinds[one.kind].severity}`} data-kind={one.kind}>
                <button
                  type="button"
                  aria-pressed={one === shown}
                  onClick={() => setAt(one === shown ? undefined : one)}
                >
                  <b>{kindWords[one.kind]}</b>
                  {one.place && (
                    <small className="mono">
                      {one.place.file}:{one.place.line}
                    </small>
                  )}
                  <span>{one.message}</span>
                </button>
              </li>
            ))}
          </ol>
          <div className="sources">
            {files.map((file) => (
              <Source
                key={file.name}
                file={file}
                differences={compared.differences.filter(({ place }) => place?.file === file.name)}
                shown={shown}
                onLine={setAt}
              />
            ))}
          </div>
        </div>
        <div className="compare-board">
          <BoardView board={board} yard={yard} />
        </div>
      </div>
    </>
  )
}

/** A file with its lines numbered; lines of which something is said are marked, and the one that is shown comes into view. */
function Source({
  file,
  differences,
  shown,
  onLine,
}: {
  readonly file: SourceFile
  readonly differences: readonly Difference[]
  readonly shown: Difference | undefined
  readonly onLine: (difference: Difference) => void
}) {
  const lines = useMemo(() => file.text.split('\n'), [file.text])
  const byLine = new Map<number, Difference>()
  // What is wrong comes before what is the same.
  for (const one of [...differences].reverse()) if (one.place) byLine.set(one.place.line, one)
  for (const one of differences) if (one.place && one.kind !== 'same') byLine.set(one.place.line, one)
  return (
    <section aria-label={file.name}>
      <h3 className="mono">{file.name}</h3>
      <pre className="source mono" tabIndex={0}>
        {lines.map((line, index) => {
          const said = byLine.get(index + 1)
          const now = shown?.place?.file === file.name && shown.place.line === index + 1
          return (
            <span
              // biome-ignore lint/suspicious/noArrayIndexKey: a line has no other name than its number
              key={index}
              ref={now ? (node) => node?.scrollIntoView({ block: 'nearest' }) : undefined}
              className={`source-line ${said ? differenceKinds[said.kind].severity : ''} ${now ? 'now' : ''}`}
            >
              {said ? (
                <button type="button" aria-label={`Line ${index + 1}: ${said.message}`} onClick={() => onLine(said)}>
                  {index + 1}
                </button>
              ) : (
                <i>{index + 1}</i>
              )}
              {line}
              {'\n'}
            </span>
          )
        })}
      </pre>
    </section>
  )
}
