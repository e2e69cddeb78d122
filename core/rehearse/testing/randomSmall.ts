import { seeded } from '../../base/random.ts'

/** Names of types, numbers and choices: as a sketch has them, and as `small.h` has them. */
interface Dialect {
  readonly types: readonly [string, string, string, string, string, string]
  readonly number: (value: number) => string
  readonly choose: (asked: string, a: string, b: string) => string
  readonly truth: (asked: string) => string
  readonly print: (value: string) => string
}

const sketch: Dialect = {
  types: ['int8_t', 'uint8_t', 'int', 'unsigned int', 'long', 'unsigned long'],
  number: String,
  choose: (asked, a, b) => `(${asked} ? ${a} : ${b})`,
  truth: (asked) => `(${asked})`,
  print: (value) => `Serial.println(${value});`,
}
const classes: Dialect = {
  types: ['I8', 'U8', 'I16', 'U16', 'I32', 'U32'],
  // A number without a suffix is an int where it fits into one, else a long.
  number: (value) => `${value > 32767 || value < -32768 ? 'I32' : 'I16'}(${value})`,
  choose: (asked, a, b) => `choose(bool(${asked}), ${a}, ${b})`,
  truth: (asked) => `truth(${asked})`,
  print: (value) => `Serial.println((int64_t)((${value}).n));`,
}

/**
 * The same sketch by chance twice: for a board whose `int` has sixteen bits, and with the classes of `small.h` for the
 * compiler of this machine.
 */
export function randomSmall(seed: number): { readonly sketch: string; readonly classes: string } {
  return { sketch: written(seed, sketch), classes: written(seed, classes) }
}

function written(seed: number, dialect: Dialect): string {
  const random = seeded(seed)
  const below = (count: number): number => Math.floor(random() * count)
  const pick = <T>(all: readonly T[]): T => all[below(all.length)] as T
  const names = ['a', 'b', 'c', 'd', 'e', 'f']
  const numbers = [0, 1, 2, 3, 7, 100, 127, 128, 255, 256, 1000, 30000, 32767, 32768, 40000, 65535, 65536, 100000]
  const value = (depth: number): string => {
    if (depth <= 0) return below(3) === 0 ? dialect.number(pick(numbers)) : pick(names)
    const [x, y] = [value(depth - 1), value(depth - 1 - below(2))]
    switch (below(12)) {
      case 0:
        return `(${x} + ${y})`
      case 1:
        return `(${x} - ${y})`
      case 2:
        return `(${x} * ${y})`
      case 3:
        return `(${x} ${pick(['/', '%'])} (${dialect.types[2]})((${y} & ${dialect.number(15)}) | ${dialect.number(1)}))`
      case 4:
        return `(${x} ${pick(['&', '|', '^'])} ${y})`
      case 5:
        return `(${x} ${pick(['<<', '>>'])} (${y} & ${dialect.number(7)}))`
      case 6:
        return dialect.truth(`${x} ${pick(['<', '>', '<=', '>=', '==', '!='])} ${y}`)
      case 7:
        return dialect.choose(x, y, value(depth - 1))
      case 8:
        return `(${pick(dialect.types)})(${x})`
      case 9:
        return `${pick(['-', '~', '+'])}(${x})`
      default:
        return pick(names)
    }
  }
  const lines: string[] = []
  for (let at = 0; at < 40; at += 1) {
    const name = pick(names)
    switch (below(4)) {
      case 0:
        lines.push(`  ${name} = ${value(3)};`)
        break
      case 1:
        lines.push(`  ${name} ${pick(['+=', '-=', '*=', '&=', '|=', '^='])} ${value(2)};`)
        break
      case 2:
        lines.push(`  ${name}${pick(['++', '--'])};`)
        break
      default:
        lines.push(`  ${dialect.print(value(3))}`)
    }
  }
  const [i8, u8, i16, u16, i32, u32] = dialect.types
  return `${i8} a = ${below(100)}; ${u8} b = ${below(250)}; ${i16} c = -${below(30000)}; ${u16} d = ${below(60000)}; ${i32} e = ${below(1e9)}; ${u32} f = ${below(2e9)};
void setup() {
${lines.join('\n')}
${names.map((name) => `  ${dialect.print(name)}`).join('\n')}
}
void loop() { delay(1000); }
`
}
