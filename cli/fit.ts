import { fitBoards } from '../core/advice/fit.ts'
import { counted } from '../core/base/counted.ts'
import { InputError, print, printJson, readPlanFile, type Status, theCatalog } from './input.ts'

/** Ranks the boards of the catalogue for the parts of a plan of one board. */
export function fitCommand(file: string, { json }: { json?: boolean }): Status {
  const { plan } = readPlanFile(file)
  const boards = Object.keys(plan.boards).length
  if (boards > 1) throw new InputError([`${file}: has ${boards} boards; expected a plan of one board`])
  const fits = fitBoards(plan, theCatalog())
  if (json) {
    printJson(fits.map(({ board, ...rest }, index) => ({ rank: index + 1, id: board.id, title: board.title, ...rest })))
    return 0
  }
  const width = Math.max(...fits.map((one) => one.board.id.length))
  for (const one of fits) {
    const words =
      one.left.length === 0
        ? `carries everything; ${counted(one.spare, 'output')} left, ${counted(one.faults, 'fault')}, ${counted(one.cautions, 'caution')}`
        : `${one.left.length} without a pin: ${one.left.slice(0, 5).join(', ')}${one.left.length > 5 ? ' …' : ''}`
    print(`${one.board.id.padEnd(width)}  ${words}`)
  }
  return 0
}
