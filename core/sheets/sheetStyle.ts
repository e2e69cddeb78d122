import { palette } from '../base/palette.ts'

const { print } = palette
/** Style of the printed sheets; black-and-white safe, no row broken over two pages, headings repeated. */
export function sheetStyle(title: string, revision: number | undefined, paper: 'A4' | 'Letter'): string {
  const short = title.length > 70 ? `${title.slice(0, 68)}…` : title
  const footer = JSON.stringify(
    `Mark Post · ${short}${revision === undefined ? '' : `, revision ${revision}`}`,
  ).replaceAll('<', '\\3c ')
  return `
@page { size: ${paper}; margin: 14mm 13mm 16mm; @bottom-left { content: ${footer}; font: 9pt "Sofia Sans Semi Condensed", sans-serif; } @bottom-right { content: "page " counter(page) " of " counter(pages); font: 9pt "Sofia Sans Semi Condensed", sans-serif; } }
.mp-sheet { font: 15px/1.3 "Sofia Sans Semi Condensed", "Arial Narrow", Arial, sans-serif; color: ${print.ink}; background: ${print.paper}; }
.mp-page { break-after: page; padding: 0; }
.mp-page:last-child { break-after: auto; }
.mp-head { display: flex; justify-content: space-between; align-items: end; gap: 2em; border-bottom: 2px solid ${print.ink}; padding-bottom: 6px; margin-bottom: 14px; }
.mp-head h2 { white-space: nowrap; font-size: 27px; font-weight: 700; margin: 0; }
.mp-head p { margin: 0; text-align: right; font-size: 13px; }
.mp-qr { margin: 0; width: 26mm; flex: none; text-align: center; }
.mp-qr svg { display: block; width: 26mm; height: 26mm; background: #fff; fill: #000; }
.mp-qr figcaption { font-size: 7px; overflow-wrap: anywhere; }
.mp-sheet table { width: 100%; border-collapse: collapse; }
.mp-sheet thead { display: table-header-group; }
.mp-sheet tr { break-inside: avoid; }
.mp-sheet th { text-align: left; font-size: 12px; font-weight: 700; padding: 3px 8px 3px 0; border-bottom: 1.5px solid ${print.ink}; }
.mp-sheet td { padding: 5px 8px 5px 0; border-bottom: 1px solid ${print.rule}; vertical-align: top; overflow-wrap: anywhere; }
.mp-sheet small { display: block; font-size: 12px; color: ${print.small}; }
.mp-step { margin: 0 0 9px; }
.mp-step h3 { break-after: avoid; font-size: 16px; margin: 0; display: flex; gap: 9px; align-items: baseline; }
.mp-step h3 span { font: 700 15px "Spline Sans Mono", monospace; background: ${print.ink}; color: ${print.paper}; padding: 0 8px; print-color-adjust: exact; -webkit-print-color-adjust: exact; }
.mp-step > p { break-after: avoid; margin: 1px 0 2px; font-size: 12.5px; line-height: 1.25; }
.mp-wiring { table-layout: fixed; }
.mp-sheet .mp-wiring td { padding: 2px 6px 2px 0; }
.mp-sheet .mp-wiring th { padding-block: 0; }
.mp-wiring small { display: inline; font-size: 11.5px; }
.mp-tick { width: 26px; }
.mp-tick span, .mp-box-open { display: block; width: 15px; height: 15px; border: 1.5px solid ${print.ink}; margin-top: 2px; }
.mp-sheet .mp-hidden { border: 0; width: 1px; height: 1px; overflow: hidden; position: absolute; clip-path: inset(50%); }
.mp-no { width: 30px; font: 700 14px "Spline Sans Mono", monospace; }
.mp-wire { width: 18%; }
.mp-plugs { font-size: 12.5px; margin: -8px 0 6px; }
.mp-wire svg { float: left; width: 24px; height: 10px; margin: 5px 7px 0 0; border: 1.2px solid ${print.ink}; print-color-adjust: exact; -webkit-print-color-adjust: exact; }
.mp-end { width: 17%; }
.mp-wiring .mp-hole { width: 11.5%; }
.mp-end b { font: 600 13.5px "Spline Sans Mono", monospace; }
.mp-sheet td.mp-hole { font: 600 13.5px "Spline Sans Mono", monospace; white-space: nowrap; }
.mp-position { font: 12px "Spline Sans Mono", monospace; white-space: nowrap; }
.mp-find { font-size: 12.5px; line-height: 1.2; }
.mp-parts td:first-child, .mp-pins td:nth-child(4) { font: 600 14px "Spline Sans Mono", monospace; }
.mp-parts td:first-child, .mp-parts td:nth-child(4), .mp-parts td:nth-child(5) { min-width: 78px; }
.mp-parts td:nth-child(6) { white-space: nowrap; }
.mp-constants td:nth-child(2), .mp-constants td:nth-child(3), .mp-settings td:nth-child(4), .mp-settings td:nth-child(5) { font: 12px/1.35 "Spline Sans Mono", monospace; overflow-wrap: break-word; }
.mp-settings td:nth-child(6) { white-space: nowrap; }
.mp-record td { font-size: 13px; padding-block: 3px; overflow-wrap: anywhere; }
.mp-record td:nth-child(3) { width: 24%; }
.mp-record td:nth-child(4) { width: 17%; }
.mp-record tr { break-inside: avoid; }
.mp-record .mp-box { font: 700 13px/15px "Spline Sans Mono", monospace; text-align: center; }
.mp-asks td:first-child, .mp-levels td:first-child { overflow-wrap: break-word; }
.mp-pins td { font-size: 13px; padding-block: 3px; }
.mp-pins td:nth-child(4) { white-space: nowrap; }
.mp-pins td:nth-child(2), .mp-pins td:nth-child(6) { min-width: 92px; }
.mp-pins td:nth-child(7) { width: 26%; }
.mp-accepted { border: 1px solid ${print.ink}; padding: 6px 10px; margin-bottom: 14px; font-size: 13px; break-inside: avoid; }
.mp-accepted ul { margin: 2px 0 0; padding-left: 18px; }
.mp-page-cover h2 { white-space: normal; font-size: 34px; }
.mp-cover { columns: 2; column-gap: 34px; }
.mp-cover section, .mp-cover .mp-accepted { break-inside: avoid; margin: 0 0 16px; }
.mp-cover h3 { font-size: 17px; margin: 0 0 3px; }
.mp-cover ul { margin: 0; padding-left: 18px; }
.mp-cover li { margin: 1px 0; overflow-wrap: anywhere; }
.mp-page > svg { display: block; max-width: 100%; height: auto; margin: 0 auto; }
.mp-page > svg.mp-bench { width: 100%; max-height: 232mm; }
.mp-page > svg.mp-strips { max-width: none; margin: 0; }
.mp-build { display: grid; grid-template-columns: 1fr; gap: 8px; }
.mp-build figure { margin: 0; break-inside: avoid; }
.mp-build figcaption { font-size: 15px; font-weight: 700; }
.mp-build svg { width: 100%; height: auto; max-height: 108mm; }
ul.mp-placing { columns: 2; column-gap: 22px; list-style: none; margin: 0; padding: 0; font-size: 12.5px; }
.mp-placing li { break-inside: avoid; padding: 2px 0 2px 23px; position: relative; border-bottom: 1px solid ${print.rule}; overflow-wrap: anywhere; }
.mp-placing .mp-box-open { position: absolute; left: 0; top: 1px; }
.mp-placing small { display: inline; }
.mp-placing b { font: 600 13px "Spline Sans Mono", monospace; }
.mp-legs td:nth-child(3), .mp-legs td:nth-child(7), .mp-leads td:nth-child(4), .mp-leads td:nth-child(6) { font: 600 14px "Spline Sans Mono", monospace; }
.mp-legs td, .mp-leads td { padding-block: 2px; }
.mp-flags { display: grid; grid-template-columns: repeat(2, 1fr); }
.mp-flag { display: grid; grid-template-columns: 1fr 1fr; border: 1px solid ${print.ink}; margin: -1px 0 0 -1px; height: 9mm; break-inside: avoid; font: 11.5px/1.1 "Spline Sans Mono", monospace; }
.mp-flag span { display: flex; align-items: center; gap: 6px; padding: 0 5px; overflow: hidden; overflow-wrap: anywhere; }
.mp-flag span + span { border-left: 1px dashed ${print.ink}; }
.mp-flag b { font-size: 17px; }
@media (max-width: 620px) { .mp-cover { columns: 1; } }
@media (max-width: 620px) { .mp-sheet thead { position: absolute; clip-path: inset(50%); } .mp-sheet tr { display: block; border-bottom: 1px solid ${print.rule}; padding: 6px 0; } .mp-sheet td { display: inline-block; width: auto; border: 0; } }
`
}
