/** The days around going live: published, asked from outside, something lost found by Watch, settled, published again, taken back. */
import { request } from 'node:http';
import { expect, test } from '@playwright/test';
import { archive, demoFiles, expectAccessible, go, letAllBe, liveAt, port, publish, signIn } from './house.ts';

/** A visitor's browser, which says where it comes from. */
const visit = (path: string, referer: string) =>
  new Promise<number>((resolve, reject) => {
    request(
      {
        host: '127.0.0.1',
        port: port + 2,
        path,
        agent: false,
        headers: {
          host: 'belvedere.localhost',
          'user-agent': 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0',
          referer,
        },
      },
      (answer) => {
        answer.resume();
        answer.on('end', () => resolve(answer.statusCode ?? 0));
      },
    )
      .on('error', reject)
      .end();
  });

test('published, inspected, a lost address found, settled, published again, and back', async ({ page }) => {
  test.slow();
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  await signIn(page);
  await page.getByTestId('zip').setInputFiles(archive(demoFiles(), 'belvedere.zip'));
  await page.getByLabel('Name of the site').fill('Belvedere');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await letAllBe(page);

  await test.step('rehearsed on a temporary address before anybody else sees it', async () => {
    await go(page, 'p', 'publish');
    await page.getByRole('button', { name: 'Rehearse on a temporary address' }).click();
    await expect(page.getByRole('region', { name: 'Rehearsal' }).getByText('as the draft is now')).toBeVisible({
      timeout: 60_000,
    });
    expect(await liveAt(page, 'belvedere-rehearsal', '/visit/')).toContain('</html>');
    expect((await liveAt(page, 'belvedere', '/visit/')).startsWith('404')).toBe(true);
  });

  await test.step('what went live is asked for from outside, and the report can be kept', async () => {
    await publish(page, 1);
    const panel = page.getByRole('region', { name: 'Asked from outside' });
    await expect(panel.getByText('All as published')).toBeVisible({ timeout: 60_000 });
    await expect(panel.getByRole('row', { name: /^Home page and ways to it as published 6$/ })).toBeVisible();
    await expectAccessible(page);
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      panel.getByRole('link', { name: 'Keep the report' }).click(),
    ]);
    expect(download.suggestedFilename()).toBe('release-1.html');
  });

  await test.step('what visitors do not find is listed, with where they came from', async () => {
    for (let n = 0; n < 3; n += 1)
      expect(await visit('/visitor-groups.html', 'https://school.example/trips')).toBe(404);
    await go(page, 'w', 'watch');
    await page.getByRole('button', { name: 'Read now' }).click();
    const row = page
      .getByRole('listbox', { name: 'Addresses that found nothing' })
      .getByRole('option')
      .filter({ hasText: '/visitor-groups.html' });
    await expect(row).toContainText('from school.example/trips');
    await expect(row).toContainText('finds nothing');
    await expect(page.getByRole('table', { name: 'Requests by people, day by day' })).toBeAttached();
    await expectAccessible(page);
    await row.click();
  });

  await test.step('settled in place, it goes out with the next release', async () => {
    await page.keyboard.press('e');
    await page.getByPlaceholder('letters of a title or address').fill('groups');
    await page.getByRole('option').filter({ hasText: '/visit/groups/' }).first().click();
    await page.getByRole('button', { name: /^Settle/ }).click();
    await page.getByRole('radio', { name: 'All that did 1' }).click();
    await expect(page.getByRole('option').filter({ hasText: 'settled, goes out with the next release' })).toBeVisible();
    await publish(page, 2);
    expect(await liveAt(page, 'belvedere', '/visitor-groups.html')).toBe('301 /visit/groups/');
  });

  await test.step('a branch gets a password; another decision is left out and stays in the draft', async () => {
    const panel = page.getByRole('region', { name: 'Who can visit' });
    await panel.getByRole('button', { name: 'Another part of the site …' }).click();
    await panel.getByRole('radio', { name: 'A page and what is below' }).click();
    await panel.getByPlaceholder('letters of a title or address').fill('/visit/groups/');
    await panel.getByLabel('Password, 8 letters or more').fill('seven lanterns');
    await panel.getByRole('button', { name: 'Set it' }).click();
    await expect(panel.getByText('those with the password of guest')).toBeVisible();
    await panel.getByRole('button', { name: 'Take it down after a day …' }).click();
    await panel.getByRole('button', { name: 'Take it down then' }).click();
    const down = page.getByRole('option').filter({ hasText: 'comes down after' });
    await down.click();
    await page.getByRole('button', { name: 'Leave out of this release' }).click();
    await expect(down).toContainText('left out');
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Publish release 3' }).click();
    await expect(
      page.getByRole('heading', { name: 'What visitors will notice: 1 change since release 3' }),
    ).toBeVisible();
    expect((await liveAt(page, 'belvedere', '/visit/groups/')).startsWith('401')).toBe(true);
    await expect(page.getByRole('option').filter({ hasText: 'comes down after' })).toBeVisible();
    await expect(
      page
        .getByRole('region', { name: 'Asked from outside' })
        .getByRole('row', { name: /^Closed to who may not visit as published/ }),
    ).toBeVisible({ timeout: 60_000 });
  });

  await test.step('the day of the move says what is done and what comes next, by what was measured', async () => {
    await page.getByRole('link', { name: 'The day of the move' }).click();
    await expect(page.getByRole('listitem').filter({ hasText: 'The site is live at the host' })).toContainText(
      'release 3, found as published',
    );
    await page.getByRole('button', { name: 'Set it' }).click();
    await expect(page.getByRole('heading', { name: /^Visitors move over/ })).toBeVisible();
    await expectAccessible(page);
    await go(page, 'p', 'publish');
  });

  await test.step('one click takes the release back', async () => {
    await page.getByRole('button', { name: 'Go back to it' }).last().click();
    await expect(
      page.getByRole('heading', { name: /What visitors will notice: 3 changes since release 4/ }),
    ).toBeVisible();
    expect((await liveAt(page, 'belvedere', '/visitor-groups.html')).startsWith('404')).toBe(true);
  });
  expect(problems).toEqual([]);
});
