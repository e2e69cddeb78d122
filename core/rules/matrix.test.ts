import { testRule } from '../testing/rules.ts'
import { matrixRule } from './matrix.ts'

const keys = (turned: string) => ({
  mcu: 'pico',
  parts: Object.fromEntries(
    ['1', '2', '3', '4'].flatMap((n) => [
      [`K${n}`, 'button'],
      [`D${n}`, { part: 'diode', options: { model: '1n4148' } }],
    ]),
  ),
  wires: [
    ['1', 'GP2', 'GP6'],
    ['2', 'GP3', 'GP6'],
    ['3', 'GP2', 'GP7'],
    ['4', 'GP3', 'GP7'],
  ]
    .map(([n, row, column]) => {
      const [near, far] = turned.includes(n!) ? ['K', 'A'] : ['A', 'K']
      return `K${n}.1 MCU.${row}, K${n}.2 D${n}.${near}, D${n}.${far} MCU.${column}`
    })
    .join(', '),
})
testRule(matrixRule, {
  valid: [
    { title: 'all diodes one way', ...keys('') },
    { title: 'all the other way', ...keys('1234') },
  ],
  invalid: [
    {
      title: 'one turned',
      ...keys('3'),
      says: ['fault: D3 at K3 is the other way round than the other diodes of the matrix.'],
      fix: 'Swap the wires of D3.A and D3.K',
      changes: [
        'wire K3.2 to D3.K removed',
        'wire D3.A to MCU.GP7 removed',
        'wire K3.2 to D3.A added',
        'wire D3.K to MCU.GP7 added',
      ],
    },
    {
      title: 'one turned, where the others lead the other way',
      ...keys('124'),
      says: ['fault: D3 at K3 is the other way round than the other diodes of the matrix.'],
    },
  ],
})
