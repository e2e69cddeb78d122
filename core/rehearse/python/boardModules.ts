import { circuitModules } from './circuitModules.ts'
import { dateModules } from './dateModules.ts'
import { deskModules } from './deskModules.ts'
import { type FourWire, fourWire } from './fourWire.ts'
import { frameModule } from './frameModule.ts'
import { microModules } from './microModules.ts'
import { type GivenModule, module, type PythonBoard } from './native.ts'
import { networkModules } from './networkModules.ts'
import { pinCalls } from './pinCalls.ts'
import { type SerialLines, serialLines } from './serialLines.ts'
import { sleepModules } from './sleepModules.ts'
import { taskModule } from './tasks.ts'
import { threadModules } from './threadModules.ts'
import { Threads } from './threads.ts'
import { wireModules } from './wireModules.ts'

/** Classes of buses that the modules of all dialects hand on. */
export interface BusClasses {
  readonly spi: FourWire
  readonly serial: SerialLines
}

/** Modules by which programs of MicroPython, CircuitPython and Python on single-board computers reach their board. */
export function boardModules(board: PythonBoard): Map<string, GivenModule[1]> {
  const calls = pinCalls(board)
  const buses = { spi: fourWire(board, calls), serial: serialLines(board, calls) }
  const threads = new Threads(board, calls)
  const { machine: micro, time } = microModules(board, calls, buses, threads)
  const dates = dateModules(board)
  const clock = [...time, ...dates.time]
  const sleeping = sleepModules(board, calls)
  const machine = [...micro, ...sleeping.machine]
  const tasks = taskModule(board, calls)
  return new Map([
    module('machine', machine),
    module('umachine', machine),
    module('time', clock),
    module('utime', clock),
    module('asyncio', tasks),
    module('uasyncio', tasks),
    ...circuitModules(board, calls, buses),
    ...deskModules(board, calls, buses),
    ...networkModules(board, calls),
    ...sleeping.others,
    ...threadModules(threads),
    frameModule(),
    ...wireModules(board, calls),
    ...dates.modules,
  ])
}
