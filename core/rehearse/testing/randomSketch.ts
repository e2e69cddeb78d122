import { seeded } from '../../base/random.ts'

const TYPES = [
  'int8_t',
  'uint8_t',
  'int16_t',
  'uint16_t',
  'int',
  'unsigned int',
  'long',
  'unsigned long',
  'int64_t',
  'uint64_t',
  'bool',
  'float',
  'double',
] as const

/** A sketch made by chance: arithmetic of all widths, loops, choices, functions, arrays, structs, pointers. */
export function randomSketch(seed: number): string {
  const random = seeded(seed)
  const below = (count: number): number => Math.floor(random() * count)
  const pick = <T>(all: readonly T[]): T => all[below(all.length)] as T
  const wholes = TYPES.filter((one) => one !== 'float' && one !== 'double' && one !== 'bool')
  const names = {
    whole: ['a', 'b', 'c', 'd', 'e', 'v[1]', 'v[k & 3]', 'p.x', 'p.y', 'q->x', '*w', 'wide', 'wideU'],
    real: ['f', 'g', 'p.z'],
  }
  const literal = (): string =>
    pick([
      '0',
      '1',
      '2',
      '7',
      '100',
      '255',
      '256',
      '1000',
      '32767',
      '65535',
      '0x7F',
      '3u',
      '2147483647',
      '0b1010',
      "'A'",
      '-1',
      '-128',
    ])
  const whole = (depth: number): string => {
    if (depth <= 0) return below(3) === 0 ? literal() : pick(names.whole)
    const [x, y] = [() => whole(depth - 1), () => whole(depth - 1 - below(2))]
    switch (below(17)) {
      case 0:
        return `(${x()} + ${y()})`
      case 1:
        return `(${x()} - ${y()})`
      case 2:
        return `(${x()} * ${y()})`
      case 3:
        return `(${x()} / (int)((${y()} & 15) | 1))`
      case 4:
        return `(${x()} % (int)((${y()} & 31) | 1))`
      case 5:
        return `(${x()} ${pick(['&', '|', '^'])} ${y()})`
      case 6:
        return `(${x()} ${pick(['<<', '>>'])} ((${y()}) & 7))`
      case 7:
        return `(${x()} ${pick(['<', '>', '<=', '>=', '==', '!='])} ${y()})`
      case 8:
        return `(${x()} ${pick(['&&', '||'])} ${y()})`
      case 9:
        return `(${x()} ? ${y()} : ${x()})`
      case 10:
        return `(${pick(wholes)})${x()}`
      case 11:
        return `${pick(['-', '~', '!', '+'])}(${x()})`
      case 12:
        return `twist(${x()}, ${y()})`
      case 13:
        return `${pick(['min', 'max'])}((${pick(wholes)})${x()}, (${pick(wholes)})${y()})`
      case 14:
        return `(${real(depth - 1)} ${pick(['<', '>'])} ${real(depth - 1)})`
      case 15:
        return `p.mixed(${x()})`
      default:
        return pick(names.whole)
    }
  }
  const real = (depth: number): string => {
    if (depth <= 0) return pick([...names.real, '0.5', '2.25f', '10.0'])
    switch (below(5)) {
      case 0:
        return `(${real(depth - 1)} + ${real(depth - 1)})`
      case 1:
        return `(${real(depth - 1)} - ${real(depth - 1)})`
      case 2:
        return `(${real(depth - 1)} * 0.5f)`
      case 3:
        return `(${whole(depth - 1)} / 4.0f)`
      default:
        return `(${whole(depth - 1)} + ${real(depth - 1)})`
    }
  }
  const target = (): string => pick(names.whole)
  const lines: string[] = []
  const statement = (depth: number, into: string[], indent: string): unknown => {
    const put = (text: string): void => {
      into.push(indent + text)
    }
    const block = (count: number): void => {
      for (let at = 0; at < count; at += 1) statement(depth - 1, into, `${indent}  `)
    }
    switch (depth <= 0 ? below(6) : below(14)) {
      case 0:
      case 1:
        return put(`${target()} = ${whole(3)};`)
      case 2:
        return put(`${target()} ${pick(['+=', '-=', '*=', '&=', '|=', '^='])} ${whole(2)};`)
      case 3:
        return put(`${pick(['a', 'b', 'c', 'p.x', 'v[2]'])}${pick(['++', '--'])};`)
      case 4:
        return put(`${pick(['f', 'g'])} = ${real(2)};`)
      case 5:
        return put(`Serial.println(${below(4) === 0 ? real(2) : whole(3)});`)
      case 6:
        put(`if (${whole(2)}) {`)
        block(2)
        if (below(2)) {
          put('} else {')
          block(1)
        }
        return put('}')
      case 7: {
        const index = `i${into.length}`
        put(`for (int ${index} = 0; ${index} < ${1 + below(5)}; ${index}++) {`)
        put(`  k += ${index};`)
        block(1)
        if (below(3) === 0) put(`  if (${index} == 2) ${pick(['break', 'continue'])};`)
        block(1)
        return put('}')
      }
      case 8:
        put(`switch (${whole(1)} & 3) {`)
        for (let at = 0; at < 3; at += 1) {
          put(`case ${at}:`)
          block(1)
          if (below(3) > 0) put('  break;')
        }
        put('default:')
        block(1)
        return put('}')
      case 9:
        return put(`k = ${below(4)}; while (k-- > 0) { ${target()} ^= ${whole(1)}; }`)
      case 10:
        return put(`q = ${pick(['&p', '&ps[0]', '&ps[k & 1]'])};`)
      case 11:
        return put(`w = ${pick(['&v[0]', 'v + 2', '&v[k & 3]', '&a'])};`)
      case 12:
        return put(`shuffle(${pick(['a', 'v[1]', 'p.x'])}, v);`)
      default:
        return put(`ps[k & 1] = ${pick(['p', 'Pair{1, 2, 3.5f}', '*q'])};`)
    }
  }
  for (let at = 0; at < 14; at += 1) statement(2, lines, '  ')
  return `struct Pair { int x; uint8_t y; float z; int mixed(int by) const { return x * by - y; } };
int twist(int one, long two) { return (one << 1) ^ (two & 0xFF); }
void shuffle(int &one, int *all) { one += all[0]; all[3] = one; }
int a = ${below(1000)}; int8_t b = ${below(100)}; uint16_t c = ${below(60000)}; unsigned long d = ${below(1e9)}; int16_t e = -${below(3000)};
int64_t wide = ${below(1e9)}; uint64_t wideU = ${below(1e9)};
float f = ${(random() * 10).toFixed(3)}; double g = ${(random() * 10).toFixed(3)};
int v[4] = {${[1, 2, 3, 4].map(() => below(100)).join(', ')}}; int k = 1;
Pair p = {${below(50)}, ${below(300) & 255}, 1.5f}; Pair ps[2] = {{1, 2, 0.5f}, {3, 4, 2.5f}}; Pair *q = &p; int *w = &v[1];
void setup() {
${lines.join('\n')}
  Serial.println(a); Serial.println(b); Serial.println(c); Serial.println(d); Serial.println(e);
  Serial.println((long)wide); Serial.println((unsigned long)wideU); Serial.println(v[0] ^ v[1] ^ v[2] ^ v[3]); Serial.println(p.x + p.y + q->x + ps[1].y);
}
void loop() { delay(1000); }
`
}
