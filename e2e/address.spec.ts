/**
 * Address in a real browser: from no domain to https on one's own, with the world clock run on; and a
 * domain that is owned, whose wrong record is mended by hand. Visitors are a browser of their own, told
 * where the documentation addresses are on this machine.
 */
import { chromium, expect, test, type Browser, type Page } from '@playwright/test';
import { app, bringInReference, expectAccessible, go, port, signIn } from './house.ts';

let outside: Browser;
test.beforeAll(async () => {
  outside = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--disable-background-networking',
      `--host-resolver-rules=MAP *.example:80 127.0.0.1:${port + 2},MAP *.example:443 127.0.0.1:${port + 4}`,
    ],
  });
});
test.afterAll(() => outside.close());

/** A visitor. The stand-ins' root is in no browser, and the world's clock may be ahead of this machine's. */
async function visit(address: string): Promise<{ url: string; title: string; status: number }> {
  const context = await outside.newContext({ ignoreHTTPSErrors: true });
  const page = await context.newPage();
  try {
    const answer = await page.goto(address);
    return { url: page.url(), title: await page.title(), status: answer?.status() ?? 0 };
  } finally {
    await context.close();
  }
}

async function newSite(page: Page, name: string): Promise<void> {
  await page.goto(`${app}/sites`);
  await bringInReference(page, name);
  await go(page, 'p', 'publish');
  await page.getByRole('button', { name: 'Publish release 1' }).click();
  await expect(page.getByText('Live and draft are the same: release 1')).toBeVisible();
  await go(page, 'a', 'address');
}

const link = (page: Page, name: string) => page.getByRole('tab', { name: new RegExp(`^${name}`) });
async function runOn(page: Page, words: string, times = 1): Promise<void> {
  await page.getByRole('button', { name: /^World clock/ }).click();
  for (let n = 0; n < times; n += 1) await page.getByRole('button', { name: `${words} on` }).click();
  await page.getByRole('button', { name: 'Close', exact: true }).click();
}

test('from no domain to https on one’s own', async ({ page }) => {
  await signIn(page);
  await newSite(page, 'Harbour lights');

  await test.step('a free name is found, scored and registered', async () => {
    await expect(page.getByRole('option').filter({ hasText: 'harbour-lights.example' }).first()).toBeVisible();
    await expectAccessible(page);
    await page.getByLabel('Find a name').fill('lanternmoor.test');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'lanternmoor.test' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'It is ours: connect it' })).toBeVisible();
    await page.getByLabel('Find a name').fill('harbourlights');
    await page.keyboard.press('Enter');
    await page.getByRole('option').filter({ hasText: 'harbourlights.example' }).first().click();
    await expect(page.getByText('says what it is: harbour')).toBeVisible();
    await page.getByRole('row', { name: /^2 / }).click();
    await page.getByRole('button', { name: 'Register and connect harbourlights.example' }).click();
    await expect(page.getByText('harbourlights.example is registered and connected.')).toBeVisible();
  });

  await test.step('the first broken link is the records; they are sent after they were shown', async () => {
    await link(page, 'Records').click();
    await expect(page.getByRole('heading', { name: 'Next: put 3 records right' })).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Send as DNS update' }).click();
    await expect(page.getByRole('heading', { name: 'The records are right' })).toBeVisible();
    await expect(page.getByText(/The last old answer runs out/)).toBeVisible();
  });

  await test.step('a certificate comes by itself', async () => {
    await link(page, 'Certificate').click();
    await expect(page.getByRole('heading', { name: 'https is served' })).toBeVisible();
    await expect(page.getByText('www.harbourlights.example, harbourlights.example', { exact: true })).toBeVisible();
    await expectAccessible(page);
  });

  await test.step('the clock runs on and the chain is whole', async () => {
    await runOn(page, '1 hour');
    await link(page, 'Records').click();
    await expect(page.getByText('Every old answer has run out.')).toBeVisible();
    for (const name of ['Registration', 'Name servers', 'Records', 'Certificate', 'Host'])
      await expect(link(page, name)).toBeVisible();
    await expect(page.getByRole('navigation', { name: 'Stations' }).getByText('all five links right')).toBeVisible();
  });

  await test.step('visitors come by every name, and land on the one', async () => {
    for (const from of [
      'http://harbourlights.example/index.html?a=1',
      'http://www.harbourlights.example/index.html?a=1',
      'https://harbourlights.example/index.html?a=1',
    ]) {
      expect(await visit(from)).toMatchObject({ url: 'https://www.harbourlights.example/index.html?a=1', status: 200 });
    }
  });

  await test.step('and two months later it is renewed by itself', async () => {
    await link(page, 'Certificate').click();
    const until = page.getByText(/days left$/).filter({ hasText: ' to ' });
    const before = await until.textContent();
    await runOn(page, '30 days', 2);
    await runOn(page, '1 day');
    await expect(until).not.toHaveText(before ?? '');
    await expect(until).toContainText('89.9 days left');
  });
});

test('a domain that is owned, and a record that is wrong', async ({ page }) => {
  await signIn(page);
  await page.getByRole('link', { name: /Lanternmoor/ }).click();
  await expect(page.getByRole('radio', { name: /^Must be fixed 3/ })).toBeVisible();
  await go(page, 'a', 'address');
  await page.getByLabel('The name, as you would type it').fill('https://www.lanternmoor.example/welcome.php');
  await page.keyboard.press('Enter');
  await link(page, 'Records').click();
  await expect(page.getByRole('heading', { name: 'Next: put 3 records right' })).toBeVisible();
  await expect(page.getByText('Mail stays as it is: it goes to mail.lanternmoor.example')).toBeVisible();

  // By hand, at the registrar's own panel; the second record with a slip of the finger.
  await page.getByRole('button', { name: /^World clock/ }).click();
  await page.getByRole('button', { name: 'Open' }).click();
  const zone = page.getByLabel('Records of the zone');
  await expect(zone).toHaveValue(/203\.0\.113\.9/);
  const before = await zone.inputValue();
  await zone.fill(
    before
      .replace(/A {5}203\.0\.113\.9\n/, 'A     198.51.100.42\n@ AAAA 2001:db8:51::24\n')
      .replace(/CNAME lanternmoor\.example\./, 'CNAME edge.host.test.'),
  );
  await page.getByRole('button', { name: 'Save these records' }).click();
  await expect(page.getByText('The zone lanternmoor.example is changed at the registrar.')).toBeVisible();
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await page.getByRole('button', { name: /Look again/ }).click();
  await expect(page.getByRole('heading', { name: 'Next: put one record right' })).toBeVisible();
  await expect(page.getByText('Replace the A record of @')).toBeVisible();
  await page.getByRole('button', { name: 'Send as DNS update' }).click();
  await expect(page.getByRole('heading', { name: 'The records are right' })).toBeVisible();

  // The owner's mail records are as they were.
  await page.getByRole('button', { name: 'Zone file' }).click();
  for (const kept of ['MX    10 mail.lanternmoor.example.', 'v=spf1 mx -all', '203.0.113.77', 'v=DMARC1'])
    await expect(page.locator('pre')).toContainText(kept);
  await page.getByRole('button', { name: 'Close', exact: true }).click();

  await link(page, 'Host').click();
  await expect(page.getByRole('radio', { name: /Two-bay/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByText('Two-bay', { exact: true }).click();
  await page.getByRole('button', { name: /^Take “Two-bay” for 12 months/ }).click();
  await expect(page.getByText('Host stand-in, plan “Two-bay”').first()).toBeVisible();
});

test('a site under a path, and as a path of the host', async ({ page }) => {
  await signIn(page);
  await newSite(page, 'Moor walks');
  await link(page, 'Host').click();
  await page.getByLabel('Path; empty for the root').fill('walks');
  await page.keyboard.press('Enter');
  await expect(page.getByText('The site is published under /walks/')).toBeVisible();
  await page.getByRole('button', { name: 'under /moor-walks' }).click();
  await expect(page.getByText('The site is published under /moor-walks/')).toBeVisible();
  await go(page, 'p', 'publish');
  await page.getByRole('button', { name: 'Publish release 2' }).click();
  await expect(page.getByText('Live and draft are the same: release 2')).toBeVisible();
  // Real documents nobody here wrote, whose links are relative: none of them has to travel again.
  await expect(page.getByText('nothing sent').first()).toBeVisible();
  const visitor = await page.context().newPage();
  for (const from of [
    `http://moor-walks.localhost:${port + 2}/index.html`,
    `http://sites.localhost:${port + 2}/moor-walks/index.html`,
  ]) {
    await visitor.goto(from);
    expect(new URL(visitor.url()).pathname).toMatch(/^\/moor-walks\/(index\.html)?$/);
    await visitor
      .getByRole('link', { name: /Best Packaging Practices/i })
      .first()
      .click();
    await visitor.waitForURL(/\/moor-walks\/best-pkging-practices\.html/);
  }
});
