/** Old addresses as a designer under a deadline handles them: gathered from four sources, settled at the keyboard, the rest at once. */
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { expect, test } from '@playwright/test';
import { demo, expectAccessible, go, letAllBe, signIn } from './house.ts';

const logLine = (path: string, status = 200) =>
  `192.0.2.9 - - [03/May/2026:10:00:00 +0000] "GET ${path} HTTP/1.1" ${status} 512 "-" "Mozilla/5.0 (X11)"\n`;

test('old addresses are gathered, suggested, settled, published and proved', async ({ page }) => {
  test.slow();
  await signIn(page);
  await page.getByTestId('folder').setInputFiles(join(demo, 'site'));
  await page.getByLabel('Name of the site').fill('Lanternmoor anew');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await page.waitForURL('**/survey');
  await page.getByRole('radio', { name: /^Pages \d/ }).click();
  await go(page, 'r', 'redirects');
  const list = page.getByRole('listbox', { name: 'Old addresses' });
  const row = (address: string) => list.getByRole('option').filter({ hasText: address }).first();

  await test.step('from a search index, a log, a table and pasted text', async () => {
    await page.keyboard.press('b');
    await page.getByRole('radio', { name: 'Search index' }).click();
    await page.getByLabel('Domain to list').fill('lanternmoor.example');
    await page.getByRole('button', { name: 'Ask', exact: true }).click();
    await expect(page.getByRole('listitem').filter({ hasText: 'search listing' })).toBeVisible({ timeout: 60_000 });
    await page.getByTestId('old-files').setInputFiles([
      {
        name: 'access.log.gz',
        mimeType: 'application/gzip',
        buffer: gzipSync(logLine('/sky/tonight.php').repeat(9000) + logLine('/.env', 404) + 'rubbish\n'),
      },
      {
        name: 'statistics.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from('Page;Views\n/visit.php?id=7;5000\n/visit.php?id=4;4000\n'),
      },
    ]);
    await expect(page.getByRole('heading', { name: /Columns of statistics.csv/ })).toBeVisible();
    await page.getByRole('button', { name: 'Take it', exact: true }).click();
    await expect(page.getByRole('listitem').filter({ hasText: 'statistics.csv' })).toBeVisible();
    await expect(page.getByRole('listitem').filter({ hasText: 'access.log.gz' })).toContainText('1 line not taken');
    await page.getByRole('textbox', { name: 'Old addresses' }).fill('/forum/topic.php?t=9\nno address');
    await page.getByRole('button', { name: 'Take them' }).click();
    await expect(page.getByText('1 old address read, 1 of them new.')).toBeVisible();
    await expectAccessible(page);
  });

  await test.step('the most visited first, by keyboard', async () => {
    await expect(page.getByRole('radio', { name: /^Set apart 1$/ })).toBeVisible();
    await row('/sky/tonight.php').click();
    await expect(page.getByText(/Seen in search listing, access log, 9,000 visits/)).toBeVisible();
    await expect(
      page.getByRole('radiogroup', { name: 'Pages it could land on' }).getByRole('radio').first(),
    ).toContainText('/sky-tonight/');
    await list.focus();
    await page.keyboard.press('Enter');
    await expect(page.getByText('/sky/tonight.php lands on /sky-tonight/ (301)')).toBeVisible();
    await expect(row('/visit.php?id=7')).toHaveAttribute('aria-selected', 'true');
    await page.keyboard.press('Enter');
    await expect(page.getByText('/visit.php?id=7 lands on /visit/opening-times/ (301)')).toBeVisible();
    await page.getByRole('searchbox', { name: 'Search addresses' }).fill('/forum/');
    await row('/forum/topic.php').click();
    await page.keyboard.press('x');
    await expect(page.getByText('/forum/topic.php?t=9 is gone for good (410)')).toBeVisible();
    await page.getByRole('searchbox', { name: 'Search addresses' }).fill('');
    await row('/visit.php?id=4').click();
    await expectAccessible(page);
  });

  // Three were settled, and the front page is a page of both sites.
  await test.step('the rest that is sure, at once, and back', async () => {
    await list.focus();
    await page.keyboard.press('m');
    await expect(page.getByRole('heading', { name: 'Many at once' })).toBeVisible();
    const settle = page.getByRole('button', { name: /^Settle \d+ addresses$/ });
    const words = (await settle.textContent()) ?? '';
    await settle.click();
    await expect(page.getByText(`${words.replace(/\D/g, '')} old addresses redirected`)).toBeVisible();
    await expect(page.getByRole('radio', { name: `Settled ${4 + Number(words.replace(/\D/g, ''))}` })).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('radio', { name: 'Settled 4' })).toBeVisible();
  });

  await test.step('the first twenty at the keyboard', async () => {
    const open = page.getByRole('radio', { name: /^To settle/ });
    await open.click();
    await list.focus();
    for (let n = 0; n < 20; n += 1) {
      const before = Number((await open.textContent())?.replace(/\D/g, ''));
      const selected = list.getByRole('option', { selected: true });
      // What nothing is like goes to the home page; the rest where it is suggested.
      await page.keyboard.press((await selected.textContent())?.includes('nowhere') ? 'h' : 'Enter');
      await expect(open).toHaveText(`To settle ${before - 1}`);
      await expect(list).toBeFocused();
    }
  });

  await test.step('a pattern, with what it catches', async () => {
    await page.keyboard.press('p');
    const form = page.locator('form').filter({ hasText: 'One rule for many old addresses' });
    await form.getByLabel('Old addresses').fill('/gallery/:picture.html');
    await form.getByLabel('Where they land').fill('/observatory/?picture=:picture');
    await expect(form.getByText(/It would catch \d+ known addresses/)).toBeVisible();
    await expectAccessible(page);
    await form.getByRole('button', { name: 'Add it' }).click();
    await expect(
      page.getByText('Pattern /gallery/:picture.html leads to /observatory/?picture=:picture (301)'),
    ).toBeVisible();
  });

  await test.step('rules from a file, and the chain among them led there at once', async () => {
    await list.focus();
    await page.keyboard.press('f');
    await expect(page.getByRole('button', { name: 'Save 2 files' })).toBeVisible();
    await page.getByTestId('rule-file').setInputFiles({
      name: 'rules.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        'From,To\n/first-guide.html,/second-guide.html\n/second-guide.html,/visit/\n/no-target.html,\n',
      ),
    });
    await expect(page.getByText('1 line could not be read')).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Take 2 redirects' }).click();
    await expect(page.getByText('2 old addresses redirected')).toBeVisible();
    await page.getByRole('radio', { name: /^To mend/ }).click();
    await page.getByRole('button', { name: 'Lead it there at once' }).click();
    await expect(page.getByText('/first-guide.html leads there at once')).toBeVisible();
  });

  await test.step('published, and proved from outside: as much lands there as was shown', async () => {
    await go(page, 's', 'survey');
    await letAllBe(page);
    await go(page, 'p', 'publish');
    await page.getByRole('button', { name: 'Publish release 1' }).click();
    await expect(page.getByText('Live and draft are the same: release 1')).toBeVisible();
    await go(page, 'r', 'redirects');
    const shown = page.locator('.coverage > span').first();
    await expect(shown).toContainText('land on a page');
    const words = (await shown.textContent()) ?? '';
    await page.getByRole('button', { name: /^Prove/ }).click();
    await page.getByRole('button', { name: /^Ask the live host/ }).click();
    await expect(page.getByText('Every answer is as it was published.')).toBeVisible({ timeout: 60_000 });
    await expect(page.getByRole('radio', { name: 'Live host, release 1' })).toBeChecked();
    await expect(shown).toHaveText(words);
    await page.getByRole('radio', { name: 'Draft', exact: true }).click();
    await expect(shown).toHaveText(words);
    await expectAccessible(page);
  });
});
