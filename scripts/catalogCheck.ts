import { formatProblem } from '../core/base/problem.ts'
import { lintCatalog } from '../core/catalog/lint.ts'
import { readCatalogFolder } from '../node/catalogFolder.ts'

const catalog = readCatalogFolder('catalog')
const said = catalog.ok ? lintCatalog(catalog.value) : catalog.problems.map(formatProblem)
for (const line of said) console.error(line)
if (catalog.ok)
  console.log(
    `${catalog.value.boards.size} boards, ${catalog.value.parts.size} parts: ${said.length === 0 ? 'nothing wrong' : `${said.length} mistakes`}`,
  )
process.exitCode = said.length === 0 ? 0 : 1
