import { Halt, type Machine } from '../cpp/machine.ts'
import type { NativeFunction, Wait } from '../cpp/program.ts'
import { type Type, VOID } from '../cpp/types.ts'
import { Callable, Ptr, type Value } from '../cpp/values.ts'
import type { Hardware } from './hardware.ts'
import { addQueues, FOR_EVER, microsecondsOf, TICK } from './sketchQueues.ts'

/** Microseconds between two looks of the main program at what it waits for; tasks that wait for the same let it go first. */
const LOOK = 100
/** Microseconds between two looks at whether a task is stuck. */
const WATCH_EACH = 1e6
/** Microseconds after which a task that hands over to nobody is taken for stuck: that of the platform's own watchdog. */
const STUCK = 5e6

/** Core and priority of the task that calls `setup` and `loop`. */
const MAIN_CORE = 1
const MAIN_PRIORITY = 1

/** A task: where it goes on, and what it is called. */
interface Task {
  readonly name: string
  readonly steps: Generator<Wait, unknown, void>
  readonly core: number
  priority: number
  /** Counted up whenever it is held anew: what was to wake it before does nothing then. */
  round: number
  ready: (() => boolean) | undefined
  isHeld: boolean
  isOver: boolean
  notices: number
}

const HANDLES = [
  'TaskHandle_t',
  'QueueHandle_t',
  'SemaphoreHandle_t',
  'xTaskHandle',
  'xQueueHandle',
  'xSemaphoreHandle',
]
const NUMBERS = ['BaseType_t', 'UBaseType_t', 'StackType_t', 'portBASE_TYPE']

/** What the real-time system of the ESP32 gives to programs, as its documentation has it: tasks, queues, semaphores. */
export class Tasks {
  readonly types: ReadonlyMap<string, Type>
  readonly functions = new Map<string, NativeFunction>()
  readonly constants: Readonly<Record<string, number>> = {
    portTICK_PERIOD_MS: 1,
    portTICK_RATE_MS: 1,
    portMAX_DELAY: FOR_EVER,
    pdTRUE: 1,
    pdFALSE: 0,
    pdPASS: 1,
    pdFAIL: 0,
    errQUEUE_FULL: 0,
    errQUEUE_EMPTY: 0,
    tskIDLE_PRIORITY: 0,
    tskNO_AFFINITY: 0x7fff_ffff,
    configMAX_PRIORITIES: 25,
    configTICK_RATE_HZ: 1000,
    CONFIG_ARDUINO_RUNNING_CORE: 1,
    ARDUINO_RUNNING_CORE: 1,
    PRO_CPU_NUM: 0,
    APP_CPU_NUM: 1,
  }
  static readonly macros: Readonly<Record<string, string>> = {
    'pdMS_TO_TICKS(ms)': '(ms)',
    'pdTICKS_TO_MS(ticks)': '(ticks)',
    'portYIELD_FROM_ISR(woken)': '((void)0)',
    'taskENTER_CRITICAL(mux)': 'noInterrupts()',
    'taskEXIT_CRITICAL(mux)': 'interrupts()',
  }
  readonly #hardware: Hardware
  readonly #machine: Machine
  readonly #all = new Set<Task>()
  #now: Task | undefined
  #waited = 0
  #isMainWaiting = false
  /** When the task that runs has begun to. */
  #since = 0
  #isWatched = false

  constructor(hardware: Hardware, machine: Machine, { int, ulong }: Readonly<Record<'int' | 'ulong', Type>>) {
    this.#hardware = hardware
    this.#machine = machine
    const handle: Type = { is: 'pointer', to: VOID }
    this.types = new Map<string, Type>([
      ...HANDLES.map((name) => [name, handle] as const),
      ...NUMBERS.map((name) => [name, int] as const),
      ['TickType_t', ulong],
      ['portTickType', ulong],
    ])
    this.#addTasks(int, ulong, handle)
    addQueues({
      machine,
      int,
      handle,
      add: (...call) => this.#add(...call),
      wake: () => this.#wake(),
      now: () => this.#now,
    })
  }

  /** So many waits of the statement that comes next are over. */
  readonly waited = (count: number): void => {
    this.#waited = count
  }

  /** The program begins anew. */
  forget(): void {
    for (const task of this.#all) task.isOver = true
    this.#all.clear()
    this.#now = undefined
    this.#isWatched = false
    this.#isMainWaiting = false
  }

  #add(
    name: string,
    returns: Type,
    [least, most]: readonly [number, number],
    run: (args: readonly Value[], at: number, types: readonly Type[]) => Value,
    waits?: (args: readonly Value[]) => Wait,
  ): void {
    this.functions.set(name, {
      returns,
      least,
      most,
      run: (_, args, types, at) => {
        // The main program waits where it stands; a task has waited before it came here.
        if (waits) {
          if (this.#waited > 0) this.#waited -= 1
          else this.#wait(waits(args), at)
        }
        return run(args, at, types)
      },
      ...(waits ? { waits } : {}),
    })
  }

  #wait({ microseconds, ready }: Wait, at: number): void {
    const until = this.#machine.now + microseconds
    if (!ready) this.#hardware.wait(microseconds, at)
    else {
      this.#isMainWaiting = true
      while (!ready() && this.#machine.now < until) this.#hardware.wait(Math.min(LOOK, until - this.#machine.now), at)
      this.#isMainWaiting = false
    }
  }

  #addTasks(int: Type, ulong: Type, handle: Type): void {
    const create = (args: readonly Value[], at: number): number => {
      const [run, name, , parameter, priority, out, core] = args
      if (!(run instanceof Callable)) throw new Halt('a task is made of something that is no function', at)
      if (!run.begin)
        throw new Halt(`the task of ${run.name} cannot be followed; expected a function of its own with a name`, at)
      const task: Task = {
        name: typeof name === 'string' ? name : name instanceof Ptr ? textOf(name) : run.name,
        steps: run.begin([parameter]),
        core: core === 0 ? 0 : MAIN_CORE,
        priority: Number(priority),
        round: 0,
        ready: undefined,
        isHeld: false,
        isOver: false,
        notices: 0,
      }
      this.#all.add(task)
      if (!this.#isWatched) this.#watch()
      this.#isWatched = true
      if (out instanceof Ptr) out.base[out.at] = new Ptr([task], 0)
      this.#hardware.aside(0, () => this.#goOn(task))
      return 1
    }
    this.#add('xTaskCreate', int, [6, 6], create)
    this.#add('xTaskCreatePinnedToCore', int, [7, 7], create)
    const ticks = ([many]: readonly Value[]): Wait => ({ microseconds: microsecondsOf(many) })
    for (const name of ['vTaskDelay', 'delay']) this.#add(name, VOID, [1, 1], () => undefined, ticks)
    this.#add(
      'taskYIELD',
      VOID,
      [0, 0],
      () => undefined,
      () => ({ microseconds: 1 }),
    )
    const sinceStart = (): number => Math.floor((this.#machine.now - this.#machine.born) / TICK)
    for (const name of ['vTaskDelayUntil', 'xTaskDelayUntil'])
      this.#add(
        name,
        int,
        [2, 2],
        ([last, each]) => {
          if (last instanceof Ptr) last.base[last.at] = (Number(last.base[last.at]) + Number(each)) >>> 0
          return 1
        },
        ([last, each]) => {
          const due = last instanceof Ptr ? Number(last.base[last.at]) + Number(each) : 0
          const now = this.#machine.now - this.#machine.born
          return { microseconds: Math.max(0, due * TICK - now) }
        },
      )
    for (const name of ['xTaskGetTickCount', 'xTaskGetTickCountFromISR'])
      this.#add(name, ulong, [0, 0], () => sinceStart() >>> 0)
    const taskOf = (value: Value): Task | undefined =>
      value instanceof Ptr ? (value.base[value.at] as Task) : this.#now
    this.#add('vTaskDelete', VOID, [1, 1], ([which]) => {
      const task = taskOf(which)
      if (task) this.#end(task)
    })
    this.#add('vTaskSuspend', VOID, [1, 1], ([which]) => {
      const task = taskOf(which)
      if (task) task.isHeld = true
    })
    this.#add('vTaskResume', VOID, [1, 1], ([which]) => {
      const task = taskOf(which)
      if (!task?.isHeld) return
      task.isHeld = false
      this.#hardware.aside(0, () => this.#goOn(task))
    })
    this.#add('xTaskGetCurrentTaskHandle', handle, [0, 0], () => (this.#now ? new Ptr([this.#now], 0) : null))
    this.#add('xPortGetCoreID', int, [0, 0], () => this.#now?.core ?? MAIN_CORE)
    this.#add('uxTaskPriorityGet', int, [1, 1], ([which]) => taskOf(which)?.priority ?? MAIN_PRIORITY)
    this.#add('vTaskPrioritySet', VOID, [2, 2], ([which, priority]) => {
      const task = taskOf(which)
      if (task) task.priority = Number(priority)
    })
    // How much stack a task leaves unused nobody here knows: it is somebody's to say.
    const unused = 'uxTaskGetStackHighWaterMark'
    this.#add(unused, int, [1, 1], () => this.#hardware.answer(unused)())
    const notify = ([which]: readonly Value[]): number => {
      const task = taskOf(which)
      if (task) task.notices += 1
      this.#wake()
      return 1
    }
    this.#add('xTaskNotifyGive', int, [1, 1], notify)
    this.#add('vTaskNotifyGiveFromISR', VOID, [2, 2], notify)
    this.#add(
      'ulTaskNotifyTake',
      ulong,
      [2, 2],
      ([clear]) => {
        const task = this.#now
        const many = task?.notices ?? 0
        if (task) task.notices = Number(clear) === 0 ? Math.max(0, many - 1) : 0
        return many
      },
      ([, time]) => {
        const task = this.#now
        return { microseconds: microsecondsOf(time), ready: () => (task?.notices ?? 0) > 0 }
      },
    )
  }

  #end(task: Task): void {
    task.isOver = true
    this.#all.delete(task)
  }

  /** Lets a task run to its next wait. */
  #goOn(task: Task): void {
    if (task.isOver || task.isHeld) return
    task.round += 1
    task.ready = undefined
    const [before, since, waited] = [this.#now, this.#since, this.#waited]
    this.#now = task
    this.#since = this.#machine.now
    this.#waited = 0
    const { done, value } = task.steps.next()
    this.#now = before
    this.#since = since
    this.#waited = waited
    if (task.isOver) return
    if (done) {
      this.#end(task)
      throw new Halt(
        `the task ${task.name} comes to its end; expected a loop, or vTaskDelete(NULL) as its last line`,
        this.#machine.at,
      )
    }
    const { microseconds, ready } = value as Wait
    const { round } = task
    task.ready = ready
    if (ready?.()) this.#hardware.aside(0, () => this.#again(task, round))
    else if (Number.isFinite(microseconds)) this.#hardware.aside(microseconds, () => this.#again(task, round))
  }

  /** Looks now and then whether a task lets the others run. */
  #watch(): void {
    this.#hardware.aside(WATCH_EACH, () => {
      if (this.#now && this.#machine.now - this.#since > STUCK)
        throw new Halt(
          `the task ${this.#now.name} runs for ${STUCK / 1e6} s without a wait: the watchdog of its core starts the board anew`,
          this.#machine.at,
        )
      this.#watch()
    })
  }

  #again(task: Task, round: number): void {
    if (task.round === round) this.#goOn(task)
  }

  /** Something has been handed on: who waits for it goes on. */
  #wake(): void {
    for (const task of this.#all) {
      const { round, ready } = task
      if (ready)
        this.#hardware.aside(
          this.#isMainWaiting ? 2 * LOOK : 0,
          () => task.ready === ready && ready() && this.#again(task, round),
        )
    }
  }
}

const textOf = ({ base, at }: Ptr): string => {
  const end = base.indexOf(0, at)
  return String.fromCharCode(...base.slice(at, end < 0 ? undefined : end).map(Number))
}
