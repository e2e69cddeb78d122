import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import type { LevelChange } from '../core/rehearse/testing/recorder.ts'

/** Headers of the language itself, which no namespace may stand around. */
const STANDARD = /^#include <[a-z_]+>$/gm
const FLAGS = ['-std=c++17', '-fsigned-char', '-fwrapv', '-w', '-O0']

/**
 * What sketches write that the compiler of this machine has compiled against the stub of the platform: many at once, each
 * in a namespace of its own, and run in a process of its own.
 * @param header further header of the stub's folder, by its name
 */
export function compiledByCpp(
  texts: readonly string[],
  { until, changes = [], header }: { until: number; changes?: readonly LevelChange[]; header?: string },
): string[] {
  const folder = mkdtempSync(join(tmpdir(), 'markpost-cpp-'))
  const stub = (name: string): string => `#include "${resolve('core/rehearse/testing', name)}"`
  const table = changes.map(({ at, pin, level }) => `{${at}.0, ${pin}, ${level}}`).join(', ')
  const calls = texts.map((_, at) => `case ${at}: s${at}::setup(); for (;;) { stub::wait(1); s${at}::loop(); }`)
  try {
    const source = join(folder, 'all.cpp')
    writeFileSync(
      source,
      // Headers of the system first: words of the platform are macros behind its own.
      `#include <sys/wait.h>
#include <unistd.h>
${[...new Set(texts.flatMap((text) => text.match(STANDARD) ?? []))].join('\n')}
${stub('stub.h')}
${header === undefined ? '' : stub(header)}
${texts.map((text, at) => `namespace s${at} {\n${text.replace(STANDARD, '')}\n}`).join('\n')}
static const stub::Change table[] = {${table === '' ? '{0.0, 0, 0}' : table}};
int main() {
  stub::changes = table;
  stub::left = ${changes.length};
  stub::until = ${until};
  for (int at = 0; at < ${texts.length}; at++) {
    fflush(stdout);
    if (fork() == 0) switch (at) { ${calls.join('\n')} }
    wait(nullptr);
    printf("\\n=====\\n");
  }
}
`,
    )
    execFileSync('g++', [...FLAGS, '-o', join(folder, 'all'), source])
    const out = execFileSync(join(folder, 'all'), [], { encoding: 'latin1', maxBuffer: 1e9 })
    return out
      .split('\n=====\n')
      .slice(0, texts.length)
      .map((text) => text.trimEnd())
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
