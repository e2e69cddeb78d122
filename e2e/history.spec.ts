import { expect, expectAccessible, test } from './fixture.ts'

test('a plan is compared with what it was, a revision is named, and one goes back; undo returns', async ({
  page,
  address,
  request,
}) => {
  const made = await request.post(`${address}/api/plans`, {
    data: {
      text: `markpost: 1
title: Gate lamp
boards: { MCU: { board: uno-r3 } }
parts: { KEY: { part: button } }
wires:
  - [KEY.1, MCU.D2]
  - [KEY.2, MCU.GND]
`,
    },
  })
  const { id, plan } = (await made.json()) as { id: string; plan: { wires: unknown[] } }
  const moved = { ...plan, title: 'Gate lamp, moved', wires: [['KEY.1', 'MCU.D7'], plan.wires[1]] }
  await request.put(`${address}/api/plans/${id}`, { data: { plan: moved }, headers: { 'If-Match': '"1"' } })
  await page.goto(`${address}/plan/${id}/pins`)
  await page.getByRole('link', { name: 'saved, rev. 2' }).click()
  const list = page.getByRole('region', { name: 'Revisions' })
  await expect(list.getByRole('listitem')).toHaveCount(2)
  await list.getByRole('button', { name: /as it began/ }).click()
  const compared = page.getByRole('region', { name: 'Revision 1' })
  await expect(compared.getByText('title "Gate lamp" becomes "Gate lamp, moved"')).toBeVisible()
  await expect(compared.locator('.replug li')).toHaveText(['out KEY.1 to MCU.D7', 'in KEY.1 to MCU.D2'])
  await compared.getByLabel('Name of this revision').fill('works')
  await compared.getByRole('button', { name: 'Keep the name' }).click()
  await expect(list.getByText('works')).toBeVisible()
  await expectAccessible(page, 'both themes')

  await compared.getByRole('button', { name: 'Go back to this' }).click()
  await expect(page.getByLabel('Title of the plan')).toHaveValue('Gate lamp')
  await expect(page.getByRole('link', { name: 'saved, rev. 3' })).toBeVisible()
  await expect(list.getByRole('listitem')).toHaveCount(3)
  await expect(compared.getByText('The plan is now as it was then.')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByLabel('Title of the plan')).toHaveValue('Gate lamp, moved')
  // Undo goes on after the page was loaded anew.
  await expect(page.getByRole('link', { name: 'saved, rev. 4' })).toBeVisible()
  await page.reload()
  const undo = page.getByRole('button', { name: 'Undo' })
  await undo.click()
  await expect(page.getByLabel('Title of the plan')).toHaveValue('Gate lamp')
  await undo.click()
  await expect(page.getByLabel('Title of the plan')).toHaveValue('Gate lamp, moved')
})

test('a deleted plan is put back from the bin, or let go', async ({ page, address, request }) => {
  const make = async (title: string): Promise<string> =>
    ((await (await request.post(`${address}/api/plans`, { data: { title } })).json()) as { id: string }).id
  for (const title of ['Old fence', 'Old barn']) await request.delete(`${address}/api/plans/${await make(title)}`)
  await page.goto(address)
  await page.getByRole('button', { name: /^Bin: \d+ deleted plans$/ }).click()
  const bin = page.getByRole('region', { name: 'Bin' })
  await bin.getByRole('button', { name: 'Put back Old fence' }).click()
  await expect(page.getByRole('link', { name: 'Old fence' })).toBeVisible()
  await bin.getByRole('button', { name: 'Let go of Old barn' }).click()
  await expectAccessible(page)
  await bin.getByRole('button', { name: 'Old barn is gone for good' }).click()
  await expect(page.getByText('Old barn')).toHaveCount(0)
})
