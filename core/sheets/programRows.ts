import { entryOf } from '../base/entryOf.ts'
import type { Layout } from '../breadboard/workbench.ts'
import { phaseTitles } from '../bringup/step.ts'
import { stepsOf } from '../bringup/steps.ts'
import { asksOf } from '../firmware/asks.ts'
import { constantsOf, valueText } from '../firmware/constants.ts'
import { type Drive, drivesOf, readingsOf } from '../firmware/drives.ts'
import { languagesOf } from '../firmware/pinNames.ts'
import { settingsOf } from '../firmware/settings.ts'
import { doneWords, expectWords } from '../plan/stepWords.ts'
import type { Wiring } from '../wiring/model.ts'
import type { AskRow, ConstantRow, LevelRow, RecordRow, RehearsalRow, SettingRow, Sheet } from './rows.ts'

/** What is handed over to the program and to the system of the board. */
export function programRows(wiring: Wiring): Pick<Sheet, 'constants' | 'asks' | 'levels' | 'settings'> {
  return {
    constants: constantRows(wiring),
    asks: wiring.boards.flatMap((board) =>
      asksOf(wiring, board).flatMap(({ ref, title, rows }) => rows.map((row): AskRow => ({ ref, title, ...row }))),
    ),
    levels: levelRows(wiring),
    settings: wiring.boards.flatMap((board) =>
      (settingsOf(wiring, board.ref)?.settings ?? []).map(
        ({ title, steps, lines, device, needed }): SettingRow => ({
          board: board.ref,
          title,
          steps,
          lines,
          device: device ?? null,
          needed,
        }),
      ),
    ),
  }
}

/** Every step of bring-up with its record; to be followed on paper where nothing is done yet. */
export function recordRows(wiring: Wiring, layout: Layout | undefined): RecordRow[] {
  const done = wiring.plan.bringup?.done ?? {}
  return stepsOf(wiring, layout).map(({ id, phase, title, does, expect }): RecordRow => {
    const proof = entryOf(done, id)
    return {
      step: id,
      part: phaseTitles[phase],
      title,
      does,
      expect,
      seen: proof ? (proof.wrong ? 'wrong' : 'right') : null,
      value: proof?.value ?? null,
      remark: proof?.remark ?? null,
      at: proof?.at ?? null,
    }
  })
}

/** What the script of the rehearsal does and expects; the program of the build must do as much. */
export const rehearsalRows = ({ plan }: Wiring): RehearsalRow[] =>
  (plan.rehearsal?.steps ?? []).map((step) => ({
    at: step.at,
    does: doneWords(step),
    expects: `${expectWords(step)}${step.within === undefined ? '' : ` within ${step.within} s`}`,
    why: step.why ?? '',
  }))

function constantRows(wiring: Wiring): ConstantRow[] {
  return wiring.boards.flatMap((board) =>
    constantsOf(wiring, board.ref).flatMap(({ constants }) =>
      constants.map(({ name, end, value, about }): ConstantRow => {
        const values = languagesOf(board.board).flatMap((language) => {
          const text = valueText(board, value, language)
          return text === undefined ? [] : [[language, text] as const]
        })
        return { board: board.ref, name, end: end ?? null, values: Object.fromEntries(values), about }
      }),
    ),
  )
}

function levelRows(wiring: Wiring): LevelRow[] {
  const pins = ({ when }: Drive): string =>
    when.length === 0 ? 'always' : when.map(({ host, level }) => `${host.end} ${level}`).join(', ')
  return [
    ...drivesOf(wiring).map((drive): LevelRow => {
      const low = drive.when.length > 0 && drive.when.every(({ level }) => level === 'low')
      return {
        ref: drive.part.ref,
        title: drive.part.title,
        does: drive.does,
        when: pins(drive),
        note: [low && drive.does !== 'stops' ? 'active low: high is off' : '', drive.dimmed ? 'PWM sets how much' : '']
          .filter((text) => text !== '')
          .join('; '),
      }
    }),
    ...readingsOf(wiring).map(
      ({ use, host, contact, says, pull }): LevelRow => ({
        ref: use.part.ref,
        title: use.part.title,
        does: contact ? `high ${contact.high}, low ${contact.low}` : (says ?? ''),
        when: `read at ${host.end}`,
        note: pull === undefined ? '' : `nothing outside holds the line: switch the pull-${pull} of the pin on`,
      }),
    ),
  ]
}
