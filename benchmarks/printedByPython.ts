import { execFileSync } from 'node:child_process'

/** Runs each program of a list by itself, in one interpreter. */
const driver = `import contextlib, io, json, sys
printed = []
for text in json.load(sys.stdin):
    out = io.StringIO()
    with contextlib.redirect_stdout(out): exec(compile(text, 'main.py', 'exec'), {'__name__': '__main__'})
    printed.append(out.getvalue())
json.dump(printed, sys.stdout)`

/** What programs print under the Python of this machine. */
export function printedByPython(texts: readonly string[]): string[] {
  const python = ['-W', 'ignore', '-c', driver]
  return JSON.parse(
    execFileSync('python3', python, { input: JSON.stringify(texts), encoding: 'utf8', maxBuffer: 1e9 }),
  ) as string[]
}
