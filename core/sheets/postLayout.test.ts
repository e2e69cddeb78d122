import { expect, it } from 'vitest'
import { boardFacts } from '../catalog/boardFacts.ts'
import { catalog } from '../testing/plans.ts'
import { layoutPosts, type PostLine } from './postLayout.ts'

const posts = (lines: readonly PostLine[]): number[] =>
  lines.flatMap((line) => (line.kind === 'post' ? [line.pin.position] : []))

it('a double row stands with its odd positions on the left and its even ones on the right', () => {
  const { left, right } = layoutPosts(boardFacts(catalog.boards.get('pi-40')!))
  expect(posts(left)).toEqual(Array.from({ length: 20 }, (_, at) => 2 * at + 1))
  expect(posts(right)).toEqual(Array.from({ length: 20 }, (_, at) => 2 * at + 2))
})

it('single rows stand on their own side, in the order in which they are seen', () => {
  const { left, right } = layoutPosts(boardFacts(catalog.boards.get('esp32-devkit-30')!))
  expect(posts(left)).toEqual(Array.from({ length: 15 }, (_, at) => at + 1))
  expect(posts(right)).toEqual(Array.from({ length: 15 }, (_, at) => at + 1))
  expect([left[0], right[0]].map((line) => line?.kind === 'post' && line.pin.header.side)).toEqual(['left', 'right'])
})
