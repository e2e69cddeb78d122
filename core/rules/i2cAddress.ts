import { hexAddress } from '../electrical/hexAddress.ts'
import { addressesOf, addressFixes, excludes, segmentsOf } from '../wiring/i2c.ts'
import type { PartInstance, Wiring } from '../wiring/model.ts'
import type { Rule } from './finding.ts'

export const i2cAddress: Rule = {
  meta: {
    id: 'i2c-address',
    severities: ['fault'],
    about: 'Two devices answer to one address on the same I2C segment, or a device sits on a reserved address.',
    messages: {
      same: '{parts} {all} answer to {address} on one bus.',
      upstream: '{parts} behind a bus switch and {above} before it both answer to {address}.',
    },
    fixable: true,
  },
  check(wiring, report) {
    for (const segment of segmentsOf(wiring)) {
      const byAddress = new Map<number, typeof segment.parts>()
      for (const part of segment.parts)
        for (const { address } of addressesOf(part)) byAddress.set(address, [...(byAddress.get(address) ?? []), part])
      for (const [address, parts] of byAddress) {
        const above = segment.upstream.filter(
          (one) =>
            addressesOf(one).some((each) => each.address === address) &&
            parts.some((part) => excludes(part, one, address)),
        )
        if (above.length > 0)
          report({
            severity: 'fault',
            at: [...parts, ...above].map((part) => part.ref),
            message: 'upstream',
            data: {
              parts: parts.map((part) => part.ref),
              above: above.map((part) => part.ref),
              address: hexAddress(address),
            },
            why: 'A bus switch joins the chosen branch to the bus in front of it: while it does, devices on both sides hear the same traffic. Addresses must differ from branch to trunk; only those of two branches may be the same.',
            numbers: { address: hexAddress(address) },
            propose: () => [...parts, ...above].flatMap((part) => addressFixes(wiring, segment, part, address)),
          })
        const [first, ...rest] = parts
        if (!first || rest.every((one) => !excludes(first, one, address)) || areSwitchedOff(wiring, parts)) continue
        const taken = [...byAddress.keys()].sort((a, b) => a - b)
        report({
          severity: 'fault',
          at: parts.map((part) => part.ref),
          message: 'same',
          data: {
            parts: parts.map((part) => part.ref),
            all: parts.length === 2 ? 'both' : 'all',
            address: hexAddress(address),
          },
          why: `On an I2C bus every device listens to all traffic and answers to its address; with two of the same they talk over each other and readings are mixed up. Taken on this bus: ${taken.map(hexAddress).join(', ')}.`,
          numbers: { address: hexAddress(address), devices: parts.length },
          propose: () => [...parts].reverse().flatMap((part) => addressFixes(wiring, segment, part, address)),
        })
      }
    }
  },
}

/** All but one can be kept off the bus, each by a pin of its own: the program gives them addresses one after the other. */
function areSwitchedOff(wiring: Wiring, parts: readonly PartInstance[]): boolean {
  const pins = parts.map((part) => {
    const off = part.mode?.i2c?.off
    return off === undefined ? undefined : wiring.signal(`${part.ref}.${off}`)?.hosts[0]?.host.end
  })
  const own = new Set(pins.filter((one) => one !== undefined))
  return own.size >= parts.length - 1 && own.size === pins.filter((one) => one !== undefined).length
}
