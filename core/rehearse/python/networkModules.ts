import { fn, type GivenModule, type Native, nativeClass, type PythonBoard, property } from './native.ts'
import type { PinCalls } from './pinCalls.ts'
import { isTrue } from './protocols.ts'
import { type Py, PyBytes, PyModule, PyTuple, raise } from './values.ts'

/** Microseconds after which a network that is asked to join has done so. */
const JOINS = 2_000_000

/**
 * Networks as MicroPython has them, made up: they join after two seconds, and whoever is asked there does not answer, so
 * that a program goes the way that it has for this.
 */
export function networkModules(board: PythonBoard, { wait }: PinCalls): GivenModule[] {
  const { machine } = board
  const made = (name: string, names: readonly [string, Py][]): GivenModule => [
    name,
    () => {
      board.madeUp('The network is made up: it joins after two seconds, and nobody answers there.')
      return new PyModule(name, new Map(names))
    },
  ]
  /** When each was asked to join, in microseconds. */
  const asked = new Map<Native, number>()
  const isJoined = (self: Native): boolean => {
    const since = asked.get(self)
    return since !== undefined && machine.now - since >= JOINS
  }
  const addresses = (self: Native): PyTuple =>
    new PyTuple(
      isJoined(self)
        ? ['192.168.1.50', '255.255.255.0', '192.168.1.1', '192.168.1.1']
        : ['0.0.0.0', '0.0.0.0', '0.0.0.0', '0.0.0.0'],
    )
  const WLAN = nativeClass('WLAN', () => undefined, {
    active: (self, [to]) => {
      if (to !== undefined) self.on = isTrue(to)
      return self.on
    },
    connect: (self) => {
      asked.set(self, machine.now)
      return null
    },
    disconnect: (self) => {
      asked.delete(self)
      return null
    },
    isconnected: (self) => {
      wait(100)
      return isJoined(self)
    },
    status: (self, [what]) => (what === 'rssi' ? -60 : isJoined(self) ? 3 : 1),
    ifconfig: (self) => addresses(self),
    config: (_, [what]) => (what === 'mac' ? new PyBytes([2, 0, 0, 0, 0, 1], false) : null),
    scan: () => raise('OSError', 5),
  })
  const refuse = (name: string): Py =>
    fn(name, () => {
      wait(200_000)
      return raise('OSError', 113)
    })
  const asks = ['get', 'post', 'put', 'patch', 'delete', 'head', 'request'].map((name): [string, Py] => [
    name,
    refuse(name),
  ])
  const Broker = nativeClass('MQTTClient', () => undefined, {
    connect: (self) => {
      self.on = true
      return 0
    },
    disconnect: (self) => {
      self.on = false
      return null
    },
    set_callback: () => null,
    set_last_will: () => null,
    subscribe: () => null,
    publish: () => null,
    check_msg: () => null,
    wait_msg: () => {
      wait(1_000_000)
      return null
    },
    ping: () => null,
  })
  property(Broker, 'is_connected', (self) => self.on)
  const simple: [string, Py][] = [['MQTTClient', Broker]]
  return [
    made('network', [
      ['WLAN', WLAN],
      ['STA_IF', 0],
      ['AP_IF', 1],
      ['STAT_IDLE', 0],
      ['STAT_CONNECTING', 1],
      ['STAT_GOT_IP', 3],
      ['hostname', fn('hostname', () => null)],
      ['country', fn('country', () => null)],
    ]),
    made('requests', asks),
    made('urequests', asks),
    made('umqtt.simple', simple),
    made('umqtt.robust', simple),
    made('ntptime', [['settime', refuse('settime')]]),
  ]
}
