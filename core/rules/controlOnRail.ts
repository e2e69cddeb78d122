import { type Port, type RailHold, railWords } from '../circuit/circuit.ts'
import { isAboveLogic, logicWords, type Words } from './signalOnRail.ts'

export const controlOnRailMessages = {
  reset: '{pin} is on ground: the board stays in reset.',
  off: '{pin} is on ground, which switches the board off.',
  reference: '{pin} is on ground: what the converter compares with is 0 V, and every reading is wrong.',
  loader: '{pin} is on {rail}: at every start the board waits for a new program, and never runs its own.',
  debug: '{pin} is on ground, and belongs to the programmer.',
  resetHigh: '{pin} gets {rail}, above the {logic} at which its chip runs.',
  referenceHigh: '{pin} gets {rail}, above the supply of its converter.',
}

/** What is wrong when a post that resets a board, switches it or gives its reference lies on a rail. */
export function controlOnRail(port: Port, rail: RailHold): Words | undefined {
  const { terminal } = port
  const { end } = terminal
  const control = terminal.boardPin?.control
  if (control === 'reset' && rail.volts === 0)
    return {
      severity: 'fault',
      message: 'reset',
      data: { pin: end },
      why: 'The chip runs only while this pin is high. A button to ground restarts it; a wire to ground never lets it start.',
    }
  if (control === 'enable' && rail.volts === 0)
    return {
      severity: 'fault',
      message: 'off',
      data: { pin: end },
      why: 'The pin switches the supply of the board; left open, it is on.',
    }
  if (control === 'boot' && rail.volts > 0 === (terminal.boardPin?.acts === 'high'))
    return {
      severity: 'fault',
      message: 'loader',
      data: { pin: end, rail: railWords(rail) },
      why: 'The chip looks at this pin when it starts. A button there chooses its loader for once; a wire does for good.',
      others: rail.source ? [rail.source.end] : [],
    }
  if (control === 'debug' && rail.volts === 0)
    return {
      severity: 'caution',
      message: 'debug',
      data: { pin: end },
      why: 'The post is no ground. Count the position once more from the marked end.',
    }
  if (control === 'reset' && rail.source && isAboveLogic(port, rail.volts))
    return {
      severity: 'fault',
      message: 'resetHigh',
      data: { pin: end, rail: railWords(rail), logic: logicWords(port) },
      why: 'The post leads straight to the chip, which bears no more there than its own supply. The board holds it high by itself.',
      others: [rail.source.end],
    }
  if (control === 'reference' && rail.volts === 0)
    return {
      severity: 'fault',
      message: 'reference',
      data: { pin: end },
      why: 'The pin is the full scale of the analog inputs. On ground it also shorts the reference inside the chip.',
    }
  if (control === 'reference' && rail.source && isAboveLogic(port, rail.volts))
    return {
      severity: 'fault',
      message: 'referenceHigh',
      data: { pin: end, rail: railWords(rail) },
      why: 'The reference of a converter bears no more than the supply of the chip. Above it current flows into the chip through its protection diodes.',
      others: [rail.source.end],
    }
  return undefined
}
