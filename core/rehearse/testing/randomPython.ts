/** Programs of Python made by chance: they end, print what they come to, and use nothing outside the language. */
export function randomPython(seed: number): string {
  let state = (Math.imul(seed, 2654435761) >>> 1) + 12345
  const chance = (below: number): number => {
    state = (Math.imul(state, 1103515245) + 12345) & 0x7fffffff
    return Math.floor((state / 2147483648) * below)
  }
  const pick = <T>(all: readonly T[]): T => all[chance(all.length)]!
  const numbers = ['a', 'b', 'c']
  let depth = 0
  const number = (): string => {
    depth += 1
    const deep = depth > 4
    const made = deep
      ? pick([...numbers, String(chance(20) - 5), '2.5', '0x1F', 'True'])
      : pick([
          () => pick(numbers),
          () => String(chance(1000) - 300),
          () => `(${number()} ${pick(['+', '-', '*'])} ${number()})`,
          () => `(${number()} ${pick(['//', '%'])} (abs(${number()}) + 1))`,
          () => `(${number()} / ${pick(['3', '-7', '0.5', '16'])})`,
          () => `(-${number()})`,
          () => `(int(${number()}) ${pick(['&', '|', '^'])} int(${number()}))`,
          () => `(int(${number()}) ${pick(['<<', '>>'])} ${chance(9)})`,
          () => `(~int(${number()}))`,
          () => `(${number()} if ${truth()} else ${number()})`,
          () => `${pick(['min', 'max'])}(${number()}, ${number()})`,
          () => `round(${number()}, ${chance(5) - 2})`,
          () => `len(${text()})`,
          () => `sum(${list()})`,
          () => `${list()}[${pick(['0', '-1'])}]`,
          () => `twist(${number()})`,
          () => `(int(${number()}) ** ${chance(4)})`,
          () => `divmod(${number()}, 7)[${chance(2)}]`,
        ])()
    depth -= 1
    return made
  }
  const truth = (): string => {
    depth += 1
    const made =
      depth > 4
        ? pick(['a > b', 'not c', 'a == a'])
        : pick([
            () => `${number()} ${pick(['<', '<=', '>', '>=', '==', '!='])} ${number()}`,
            () => `(${truth()} ${pick(['and', 'or'])} ${truth()})`,
            () => `not ${truth()}`,
            () => `${number()} in ${list()}`,
            () => `${pick(["'a'", "'1'", "''"])} in ${text()}`,
            () => `${number()} < ${number()} < ${number()}`,
            () => `isinstance(${number()}, ${pick(['int', 'float', '(int, str)'])})`,
          ])()
    depth -= 1
    return made
  }
  const text = (): string => {
    depth += 1
    const made =
      depth > 4
        ? pick(['s', "'pin'", "'Äpfel 7'"])
        : pick([
            () => 's',
            () => `(${text()} + ${pick(["'-'", "'x1'"])})`,
            () => `str(${number()})`,
            () => `${text()}[${pick(['::-1', '1:', ':3', '::2', '-4:-1'])}]`,
            () =>
              `${text()}.${pick(['upper()', 'lower()', "replace('a', 'bb')", 'strip()', 'title()', 'zfill(6)', 'center(9)', "rjust(8, '.')"])}`,
            () => `'${pick([', ', ''])}'.join(str(x) for x in ${list()})`,
            () => `f'{${pick(numbers)}} {s!r:>8} {${pick(numbers)} - ${pick(numbers)}!s}'`,
            () => `f'{int(${pick(numbers)}):${pick(['5d', '<6', '+', '08b', 'x', ',', '^7'])}}'`,
            () => `f'{float(int(${pick(numbers)}) % 1000) / 8:${pick(['.2f', '8.1f', '.3e', '+.0f', 'g'])}}'`,
            () => `('%d|%5.1f|%s' % (int(${number()}), float(int(${number()}) % 100), ${text()}))`,
            () => `repr(${list()})`,
            () => `(${text()} * ${chance(3)})`,
          ])()
    depth -= 1
    return made
  }
  const list = (): string => {
    depth += 1
    const made =
      depth > 4
        ? pick(['[a, b]', '[1, 2, 3]', 'kept'])
        : pick([
            () => `[${number()}, ${number()}]`,
            () => `sorted([${number()}, ${number()}, ${number()}])`,
            () => `[x * 2 for x in ${list()}]`,
            () => `([x for x in range(${chance(9)}) if x % 2] + [${number()}])`,
            () => `list(map(lambda x: x + ${number()}, ${list()}))`,
            () => `list(reversed(${list()}))`,
            () => `[*${list()}, ${number()}]`,
            () => `list({'u': ${number()}, 'v': ${number()}}.values())`,
            () => `[i + x for i, x in enumerate(${list()})]`,
            () => `([x - y for x, y in zip(${list()}, ${list()})] + [0])`,
            () => `(list(steps(${chance(5)})) + [${number()}])`,
          ])()
    depth -= 1
    return made
  }
  const lines: string[] = []
  const block = (indent: string, left: number): void => {
    const before = lines.length
    for (let at = 0; at < 1 + chance(3); at += 1)
      pick([
        () => lines.push(`${indent}${pick(numbers)} = ${number()}`),
        () => lines.push(`${indent}${pick(numbers)} ${pick(['+=', '-=', '*='])} ${number()}`),
        () => lines.push(`${indent}a, b = ${number()}, ${number()}`),
        () => lines.push(`${indent}s = ${text()}[:40]`),
        () => lines.push(`${indent}print(${text()}, ${number()}, ${truth()})`),
        () => lines.push(`${indent}kept = ${list()}[:6]`),
        () => {
          if (left === 0) return
          lines.push(`${indent}if ${truth()}:`)
          block(`${indent}    `, left - 1)
          if (chance(2)) {
            lines.push(`${indent}else:`)
            block(`${indent}    `, left - 1)
          }
        },
        () => {
          if (left === 0) return
          lines.push(`${indent}for n in range(${chance(4)}):`)
          block(`${indent}    `, left - 1)
          if (chance(2)) lines.push(`${indent}    if n == 2: ${pick(['break', 'continue'])}`)
        },
        () => {
          if (left === 0) return
          lines.push(`${indent}try:`)
          block(`${indent}    `, left - 1)
          lines.push(`${indent}    ${pick(['[][1]', "{}['k']", "int('x')", '1 / 0', 'None + 1', 's.nowhere', 'pass'])}`)
          lines.push(`${indent}except (IndexError, KeyError, ValueError) as error: print(type(error).__name__)`)
          lines.push(`${indent}except Exception as error: print('other', type(error).__name__)`)
          lines.push(`${indent}else: print('fine')`)
          lines.push(`${indent}finally: print('after')`)
        },
      ])()
    if (lines.length === before) lines.push(`${indent}pass`)
  }
  for (let at = 0; at < 6; at += 1) {
    // Numbers must not grow without end, nor beyond what a float tells.
    block('', 2)
    lines.push('a, b, c = (int(x) % 100003 if abs(x) < 1e15 else 7 for x in (a, b, c))')
    lines.push('print(a, b, c, s, kept[:3])')
  }
  return `def twist(x):
    return x * 3 - 1 if x < 10 else x // 2
def steps(n):
    while n > 0:
        yield n
        n -= 2
a, b, c, s, kept = 5, -3, 11, 'rail yard', [4, 1]
${lines.join('\n')}
`
}
