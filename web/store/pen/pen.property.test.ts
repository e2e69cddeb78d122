import { describe, expect, it } from 'vitest'
import { mergePlans } from '../../../core/plan/merge.ts'
import { piecesOf } from '../../../core/plan/pieces.ts'
import { planFingerprint, samePlan } from '../../../core/plan/samePlan.ts'
import { times } from '../../../core/testing/times.ts'
import { isClean } from './pen.ts'
import type { Draft, Pen } from './penEvents.ts'
import { type Page, settle, World } from './world.ts'

const RUNS = times(1500)
const STEPS = 70

/** What a page shows is on the server or in the browser's store, at every moment. */
function expectHeld(world: World, page: Page, when: string): void {
  const pen = page.shown
  if (!pen || pen.draftRefused !== undefined) return
  const seen = planFingerprint(pen.history.present)
  const inStore = [...world.kept.values()].some((one) => planFingerprint(one.draft.plan) === seen)
  if (!inStore && !world.everHeld.has(seen))
    expect.fail(
      `${when}: what page ${page.number} shows is neither on the server nor kept: ${seen}; ${pen.sync.is}, kept ${[...world.kept].map(([slot, one]) => `${slot} ${planFingerprint(one.draft.plan)}`).join('; ')}`,
    )
}

/** Every draft that was there is seen again: shown, joined, offered, or known to the server. */
function expectOffered(world: World, drafts: readonly Draft[], pen: Pen, when: string): void {
  const { present } = pen.history
  for (const draft of drafts) {
    if (samePlan(draft.plan, present) || world.everHeld.has(planFingerprint(draft.plan))) continue
    if ([...pen.offers, ...pen.joined].some((one) => one.slot === draft.slot)) continue
    const [base, mine, now] = [draft.base!, draft.plan, present].map(piecesOf) as [
      Map<string, unknown>,
      Map<string, unknown>,
      Map<string, unknown>,
    ]
    const changed = [...new Set([...base.keys(), ...mine.keys()])].filter(
      (key) => JSON.stringify(base.get(key)) !== JSON.stringify(mine.get(key)),
    )
    const lost = changed.filter((key) => JSON.stringify(mine.get(key)) !== JSON.stringify(now.get(key)))
    if (lost.length > 0)
      expect.fail(
        `${when}: of a draft these pieces are neither shown nor offered: ${lost.join(', ')} ${process.env.TRACE ? JSON.stringify([draft, pen], null, 1) : ''}`,
      )
  }
}

async function run(seed: number): Promise<World> {
  const world = new World(seed)
  const { random } = world
  const open = async (page: Page): Promise<void> => {
    // A pen that was only left knows its own draft; what it refused to keep is newer than that.
    const own = page.desk.pen('plan')?.slot
    const before = [...world.kept.values()].filter(
      (one) => one.draft.slot !== own && (!world.pages.has(one.page) || one.page === page.number),
    )
    let opened: string | undefined
    void page.desk.open('plan').then((one) => {
      opened = one.is
    })
    // Loading takes its time, in which everything else goes on.
    for (let turn = 0; turn < 30 && opened === undefined; turn += 1) await world.move(random() < 0.1)
    await settle()
    if (opened === 'open' && page.shown)
      expectOffered(
        world,
        before.map((one) => one.draft),
        page.shown,
        `seed ${seed}, opening`,
      )
  }
  for (let turn = 0; turn < STEPS; turn += 1) {
    const pages = [...world.pages.values()]
    const page = pages.length > 0 ? world.pick(pages) : undefined
    const dice = random()
    const when = `seed ${seed}, step ${turn}`
    if (!page || (dice < 0.04 && pages.length < 3)) await open(world.openPage())
    else if (!page.shown) await open(page)
    else if (dice < 0.3) world.edit(page)
    else if (dice < 0.36) page.desk.tell('plan', { type: 'undone', now: world.now })
    else if (dice < 0.39) page.desk.tell('plan', { type: 'redone', now: world.now })
    else if (dice < 0.6) await world.move(false)
    else if (dice < 0.66) await world.move(true)
    else if (dice < 0.78) world.tick()
    else if (dice < 0.83) page.desk.heard('plan', undefined)
    else if (dice < 0.86) {
      expectHeld(world, page, `${when}, page dies`)
      world.killPage(page)
    } else if (dice < 0.88) world.killServer()
    else if (dice < 0.91) {
      page.desk.leave('plan')
      page.shown = undefined
    } else if (dice < 0.93) world.storeIsFull = random() < 0.5
    else if (dice < 0.95) world.serverMood = world.pick(['well', 'well', 'disk-full', 'refuses'])
    else if (dice < 0.96) page.desk.awake()
    else if (page.shown.theirs) decide(world, page)
    else if (page.shown.offers[0])
      page.desk.tell('plan', { type: 'offer-joined', slot: page.shown.offers[0].slot, now: world.now })
    if (process.env.TRACE)
      console.log(
        turn,
        dice.toFixed(2),
        page?.number,
        [...world.pages.values()]
          .map(
            (p) =>
              `${p.number}:${p.shown?.sync.is},${p.shown?.drafted},${p.shown?.draftRefused},${p.shown?.slot},b${p.shown?.base.revision},${p.shown?.history.present.title}`,
          )
          .join(' | '),
        'kept',
        [...world.kept.keys()].join(),
        world.storeIsFull,
        world.serverMood,
        world.network.length,
      )
    await settle()
    for (const one of world.pages.values()) expectHeld(world, one, when)
  }
  return world
}

/** The maker says how two sides go together. */
function decide(world: World, page: Page): void {
  const { base, history, theirs } = page.shown!
  const { clashes } = mergePlans(base.plan, history.present, theirs!.plan)
  const how = new Map(clashes.map((one) => [one.key, world.random() < 0.5 ? ('mine' as const) : ('theirs' as const)]))
  if (world.random() < 0.2) page.desk.tell('plan', { type: 'took-theirs', now: world.now })
  else page.desk.tell('plan', { type: 'settled', how, now: world.now })
}

describe('what the maker last saw is on disk or offered, always', () => {
  it(`in ${RUNS} random orders of edit, undo, save, slow, lost and late answer, refusal, reload, second page, server killed`, async () => {
    for (let seed = 1; seed <= RUNS; seed += 1) await run(seed)
  }, 120_000)

  it('and when everything is well again, all pages agree with the server and nothing is left behind', async () => {
    for (let seed = 1; seed <= RUNS / 10; seed += 1) {
      const world = await run(seed)
      world.storeIsFull = false
      world.serverMood = 'well'
      for (let turn = 0; turn < 300; turn += 1) {
        for (const page of world.pages.values()) {
          page.desk.awake()
          if (page.shown?.theirs) decide(world, page)
        }
        while (world.network.length > 0) await world.move(false)
        world.tick()
        await settle()
        const done = [...world.pages.values()].every(
          ({ shown }) =>
            !shown || (isClean(shown) && shown.sync.is === 'saved' && shown.base.revision === world.stored!.revision),
        )
        if (done && world.network.length === 0) break
      }
      for (const { shown, desk } of world.pages.values()) {
        if (!shown) continue
        expect(planFingerprint(shown.history.present), `seed ${seed}`).toBe(planFingerprint(world.stored!.plan))
        expect(desk.unsaved(), `seed ${seed}`).toEqual([])
        for (const { draft, page } of world.kept.values())
          if (page === [...world.pages].find(([, one]) => one.shown === shown)?.[0])
            expect(
              shown.offers.map((one) => one.slot),
              `seed ${seed}`,
            ).toContain(draft.slot)
      }
    }
  }, 120_000)
})
