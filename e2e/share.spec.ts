import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, expectAccessible, test } from './fixture.ts'

/** A server that is shared: its address here, and the phrases that it printed. */
const shared = test.extend<{ server2: { address: string; editor: string; viewer: string } }>({
  // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the first argument's pattern
  server2: async ({}, use) => {
    const data = mkdtempSync(join(tmpdir(), 'markpost-share-'))
    const server = spawn(process.execPath, [
      'bin/markpost.mjs',
      'serve',
      '--port',
      '0',
      '--data',
      data,
      '--demo',
      '--share',
    ])
    const said = await new Promise<string>((resolve, reject) => {
      let text = ''
      server.stdout.on('data', (chunk) => {
        text += String(chunk)
        if (/to look only they say:\s+\S+/.test(text)) resolve(text)
      })
      server.on('exit', () => reject(new Error(`the server ended: ${text}`)))
    })
    await use({
      address: /http:\/\/127\S+/.exec(said)![0],
      editor: /to change plans they say:\s+(\S+)/.exec(said)![1]!,
      viewer: /to look only they say:\s+(\S+)/.exec(said)![1]!,
    })
    server.kill('SIGTERM')
    rmSync(data, { recursive: true, force: true })
  },
})

shared(
  'others come by a phrase; who may look only follows the desk, and cannot write',
  async ({ browser, page, server2 }) => {
    // Three browsers, one after the other.
    shared.slow()
    const { address, editor, viewer } = server2
    // What was passed on by another does not count as this machine.
    const elsewhere = () =>
      browser.newContext({
        extraHTTPHeaders: { 'X-Forwarded-For': '10.0.0.9' },
        reducedMotion: 'reduce',
        serviceWorkers: 'block',
      })
    const [looking, changing] = [await elsewhere(), await elsewhere()]
    const [look, change] = [await looking.newPage(), await changing.newPage()]

    await look.goto(address)
    await look.getByLabel('Pass phrase').fill('one-two-three-four-five')
    await look.getByRole('button', { name: 'Come in' }).click()
    await expect(look.getByRole('alert')).toContainText('this is not the phrase')
    await expectAccessible(look)
    await look.getByLabel('Pass phrase').fill(viewer.replaceAll('-', ' '))
    await look.getByRole('button', { name: 'Come in' }).click()
    await look.getByRole('link', { name: 'Branch-line crossing' }).click()
    const title = look.getByLabel('Title of the plan')
    await expect(title).toHaveValue('Branch-line crossing')
    await expect(look.getByText('To look only:')).toBeVisible()
    const id = look.url().split('/').at(-2)!

    // The desk changes it, and the page that looks follows.
    await page.goto(`${address}/plan/${id}/pins`)
    await page.getByLabel('Title of the plan').fill('Crossing by the mill')
    await page.getByLabel('Title of the plan').press('Enter')
    await expect(title).toHaveValue('Crossing by the mill', { timeout: 20_000 })

    // It changes nothing itself, whatever it tries.
    await title.fill('Mine now')
    await expect(look.getByText('This link is to look only; ask for one to change.').first()).toBeVisible()
    const refused = await look.evaluate(
      async (plan) =>
        (
          await fetch(`/api/plans/${plan}`, {
            method: 'PUT',
            headers: { 'Content-Type': 'application/json', 'If-Match': '"2"' },
            body: JSON.stringify({ text: 'markpost: 1\ntitle: Mine now\n' }),
          })
        ).status,
      id,
    )
    expect(refused).toBe(403)

    // Who may change does, from elsewhere too; two who change what does not touch are joined.
    await change.goto(`${address}/plan/${id}/pins`)
    await change.getByLabel('Pass phrase').fill(editor)
    await change.getByRole('button', { name: 'Come in' }).click()
    await expect(change.getByLabel('Title of the plan')).toHaveValue('Crossing by the mill')
    await change.getByLabel('Title of the plan').fill('Crossing by the weir')
    await expect(page.getByLabel('Title of the plan')).toHaveValue('Crossing by the weir', { timeout: 20_000 })

    // Whoever sits at the server is told how others come.
    await page.goto(address)
    await page.getByRole('button', { name: 'More for Crossing by the weir' }).click()
    await page.getByRole('button', { name: 'Share …' }).click()
    const dialog = page.getByRole('dialog')
    await expect(dialog.getByText(/To look only|on no network/).first()).toBeVisible()
    await expectAccessible(page)
    const link = dialog.getByLabel('Link: To look only')
    if ((await link.count()) > 0) {
      const token = new URL(await link.inputValue()).pathname
      const other = await elsewhere()
      const opened = await other.newPage()
      await opened.goto(address + token)
      await expect(opened).toHaveURL(new RegExp(`/plan/${id}/bench$`))
      await expect(opened.getByText('To look only:')).toBeVisible()
      await other.close()
      // The printed cover leads a phone to the bench.
      await page.goto(`${address}/plan/${id}/sheets`)
      await expect(page.locator('.mp-qr figcaption').first()).toHaveText(new RegExp(`^http://\\S+/plan/${id}/bench$`))
    }

    // Who may look only tries the program for themselves, and leaves no trace in the plan.
    await look.goto(`${address}/plan/${id}/rehearse`)
    await look.getByLabel('Moment').fill('3000000')
    await look.getByRole('button', { name: 'NORTH to low' }).click()
    await expect(look.getByLabel('What is done meanwhile').getByText('NORTH low')).toHaveCount(2)
    const kept = await (await page.request.get(`${address}/api/plans/${id}`)).json()
    expect(JSON.stringify(kept.plan.rehearsal.steps).match(/NORTH":"low/g)).toHaveLength(1)

    // A plan of somebody's own: they say what others may do with it, and these see it at once.
    await change.goto(address)
    await change.getByLabel('Name of a new plan').fill('Of my own')
    await change.getByRole('button', { name: 'Start a plan' }).click()
    await expect(change.getByLabel('Title of the plan')).toHaveValue('Of my own')
    await look.goto(address)
    await expect(look.getByRole('link', { name: 'Of my own' })).toBeVisible()
    await change.goto(address)
    await change.getByRole('button', { name: 'More for Crossing by the weir' }).click()
    await expect(change.getByRole('button', { name: 'Duplicate' })).toBeVisible()
    await expect(change.getByRole('button', { name: 'Delete …' })).toHaveCount(0)
    await change.keyboard.press('Escape')
    await change.getByRole('button', { name: 'More for Of my own' }).click()
    await change.getByRole('button', { name: 'Share …' }).click()
    const others = change.getByLabel('Who comes by a phrase')
    if ((await others.count()) > 0) {
      await others.selectOption('none')
      await expect(look.getByRole('link', { name: 'Of my own' })).toHaveCount(0)
      await others.selectOption('viewer')
      await expect(look.getByRole('link', { name: 'Of my own' })).toBeVisible()
      await expectAccessible(change)
    }
    await looking.close()
    await changing.close()
  },
)
