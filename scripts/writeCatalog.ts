import { writeFileSync } from 'node:fs'
import { formatProblem } from '../core/base/problem.ts'
import { readCatalogFolder } from '../node/catalogFolder.ts'

const catalog = readCatalogFolder('catalog')
if (catalog.ok)
  writeFileSync(
    'dist/catalog.json',
    JSON.stringify({
      boards: [...catalog.value.boards.values()],
      parts: [...catalog.value.parts.values()],
      drivers: catalog.value.drivers,
    }),
  )
else {
  for (const problem of catalog.problems) console.error(formatProblem(problem))
  process.exitCode = 1
}
