import { channelOf } from '../core/assign/clashes.ts'
import type { Lane, Task } from '../core/assign/lanes.ts'
import { NO_PIN, type SearchProblem } from '../core/assign/searchProblem.ts'
import { busNeed } from '../core/wiring/buses.ts'

/**
 * The problem of `core/assign/search.ts` as an integer program in the LP file format: a 0-1 variable for each signal on
 * each pin, each part on each controller, and each line of a controller on each pin. Points are extra points.
 */
export function asIntegerProgram(problem: SearchProblem): string {
  const names = new Map<string, string>()
  const name = (key: string): string => {
    const known = names.get(key) ?? `v${names.size}`
    names.set(key, known)
    return known
  }
  const cost: string[] = []
  const rows: string[] = []
  const onPin = new Map<string, string[]>()
  const hold = (pin: string, variable: string): void => void onPin.set(pin, [...(onPin.get(pin) ?? []), variable])
  const term = (points: number, variable: string): void =>
    void cost.push(`${points >= 0 ? '+' : '-'} ${Math.abs(points)} ${variable}`)

  for (const line of problem.singles) {
    const all = line.choices.map(({ host, extra }) => {
      const variable = name(`${line.name} on ${host.end}`)
      term(extra, variable)
      hold(host.end, variable)
      return variable
    })
    const none = name(`${line.name} nowhere`)
    term(line.none, none)
    rows.push(`${[...all, none].join(' + ')} = 1`)
  }
  const onLane = new Map<Lane, { task: Task; variable: string }[]>()
  for (const task of problem.tasks) {
    const all = problem.lanesFor(task).flatMap((lane) => {
      if (problem.clash(task, lane.parts) !== undefined) return []
      const variable = name(`${task.part.ref} ${task.kind} on ${lane.key}`)
      onLane.set(lane, [...(onLane.get(lane) ?? []), { task, variable }])
      return [variable]
    })
    const none = name(`${task.part.ref} ${task.kind} nowhere`)
    term(NO_PIN * task.uses.length, none)
    rows.push(`${[...all, none].join(' + ')} = 1`)
  }
  for (const [lane, list] of onLane) {
    list.forEach((a, index) => {
      for (const b of list.slice(index + 1))
        if (problem.clash(a.task, [b.task.part]) !== undefined) rows.push(`${a.variable} + ${b.variable} <= 1`)
    })
    const open = name(`${lane.key} open`)
    term(problem.rankExtra(lane), open)
    for (const { variable } of list) rows.push(`${open} - ${variable} >= 0`)
    const groups = lane.controller.groups?.map((group, index) => ({
      group,
      variable: name(`${lane.key} group ${index}`),
    }))
    if (groups) rows.push(`${groups.map((one) => one.variable).join(' + ')} <= 1`)
    const signals = new Set(list.flatMap(({ task }) => task.uses.map((use) => busNeed(use.facts.needs)!.signal)))
    for (const signal of signals) {
      if (lane.given.has(signal)) continue
      const users = list.flatMap(({ task, variable }) =>
        task.uses
          .filter((use) => busNeed(use.facts.needs)!.signal === signal)
          .map((use) => ({ variable, choices: problem.choicesOn(lane, use) })),
      )
      // A line costs what its dearest user makes of the pin: the least, and a step more for each user that is dearer.
      const pins = new Map<string, number[]>()
      for (const { choices } of users)
        for (const { host, extra } of choices) pins.set(host.end, [...(pins.get(host.end) ?? []), extra])
      const variables = [...pins].map(([end, extras]) => {
        const variable = name(`${lane.key} ${signal} on ${end}`)
        const steps = [...new Set(extras)].sort((a, b) => a - b)
        term(steps[0] ?? 0, variable)
        for (const [below, extra] of steps.slice(1).entries()) {
          const step = name(`${lane.key} ${signal} on ${end} at ${extra}`)
          term(extra - (steps[below] ?? 0), step)
          for (const user of users)
            if ((user.choices.find(({ host }) => host.end === end)?.extra ?? Number.NEGATIVE_INFINITY) >= extra)
              rows.push(`${step} - ${variable} - ${user.variable} >= -1`)
        }
        hold(end, variable)
        for (const user of users)
          if (!user.choices.some(({ host }) => host.end === end)) rows.push(`${variable} + ${user.variable} <= 1`)
        const fitting = groups?.filter((one) => `${lane.board.ref}.${one.group[signal]}` === end)
        if (fitting)
          rows.push(
            fitting.length === 0
              ? `${variable} <= 0`
              : `${variable} - ${fitting.map((one) => one.variable).join(' - ')} <= 0`,
          )
        return variable
      })
      for (const { variable } of users) rows.push(`${variables.join(' + ')} - ${variable} >= 0`)
    }
  }
  for (const variables of onPin.values()) if (variables.length > 1) rows.push(`${variables.join(' + ')} <= 1`)
  timed(problem, name, rows)
  return [
    'Minimize',
    ` obj: ${wrap(cost.join(' '))}`,
    'Subject To',
    ...rows.map((row, index) => ` c${index}: ${wrap(row)}`),
    'Binary',
    ...[...names.values()].map((one) => ` ${one}`),
    'End',
  ].join('\n')
}

/** Timers hold one frequency, an interrupt line one edge, a PWM channel one pulse. */
function timed(problem: SearchProblem, name: (key: string) => string, rows: string[]): void {
  const board = problem.wiring.boards[0]
  if (!board) return
  const edges = new Map<string, string[]>()
  const channels = new Map<string, string[]>()
  const pulses: { hertz: number; timer: string; variable: string; line: string }[] = []
  for (const line of problem.singles)
    for (const { host } of line.choices) {
      const use = line.uses[0]
      if (!use || host.board !== board) continue
      const pin = host.end.slice(host.ref.length + 1)
      const variable = name(`${line.name} on ${host.end}`)
      if (use.facts.needs === 'interrupt') {
        const shared = board.board.interruptLines.find((one) => one.pins.includes(pin))
        if (shared) edges.set(shared.id, [...(edges.get(shared.id) ?? []), variable])
      }
      const channel = channelOf(use, host)
      if (channel !== undefined) channels.set(channel, [...(channels.get(channel) ?? []), variable])
      if (use.facts.needs === 'pwm' && use.facts.hertz !== undefined && host.functions.has('pwm')) {
        const own = board.board.timers.filter((one) => Object.values(one.channels).some((pins) => pins.includes(pin)))
        if (own.length === 1) pulses.push({ hertz: use.facts.hertz, timer: own[0]!.id, variable, line: line.name })
      }
    }
  for (const variables of [...edges.values(), ...channels.values()])
    if (variables.length > 1) rows.push(`${variables.join(' + ')} <= 1`)
  pulses.forEach((a, index) => {
    for (const b of pulses.slice(index + 1))
      if (a.timer === b.timer && a.hertz !== b.hertz && a.line !== b.line)
        rows.push(`${a.variable} + ${b.variable} <= 1`)
  })
}

/** The file format bears lines of some hundred characters. */
const wrap = (text: string): string => text.replace(/(.{200,}?) (?=[+-])/g, '$1\n ')
