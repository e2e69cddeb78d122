import { useMemo } from 'react'
import { openFindings } from '../../core/sheets/cover.ts'
import { sheetBody } from '../../core/sheets/html.ts'
import { makeSheet } from '../../core/sheets/sheet.ts'
import { sheetStyle } from '../../core/sheets/sheetStyle.ts'
import { useSharedLink } from '../store/access.ts'
import { useBench } from '../store/bench.tsx'
import { useDerived, usePlan } from '../store/derived.ts'
import { useAppSelector } from '../store/store.ts'
import { useStyleSheet } from '../theme/useStyleSheet.ts'

/** The usual pages, in place of the screen, while one prints from another place than the sheets. */
export function PrintedSheet() {
  const { findings } = useDerived()
  const plan = usePlan()
  const { layout, wiring, findings: ofBench } = useBench()
  const revision = useAppSelector((state) => state.plan.pen?.base.revision)
  const link = useSharedLink(useAppSelector((state) => state.plan.pen?.id))
  const html = useMemo(
    () =>
      sheetBody(
        { sheet: makeSheet(wiring, layout), wiring, layout },
        { revision, accepted: plan.accepted, open: openFindings([...findings, ...ofBench]), link },
      ),
    [wiring, layout, revision, plan.accepted, findings, ofBench, link],
  )
  useStyleSheet(sheetStyle(plan.title, revision, 'A4'))
  return (
    // biome-ignore lint/security/noDangerouslySetInnerHtml: the same pages that the command line writes, every text escaped
    <div className="printed" dangerouslySetInnerHTML={{ __html: html }} />
  )
}
