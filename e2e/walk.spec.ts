/** The walk of the first slice, by hand and keyboard, in a real browser on the built application. */
import { readFileSync } from 'node:fs';
import { zipSync } from 'fflate';
import { PDFDocument } from 'pdf-lib';
import { expect, test, type Page } from '@playwright/test';
import { app, bringInReference, expectAccessible, go, letAllBe, owner, port, signIn } from './house.ts';

const live = `http://lanternmoor.localhost:${port + 2}`;

/** What the live host answers. Only browsers know that .localhost is this machine, so others name the host apart. */
function ask(page: Page, path: string, name = 'lanternmoor') {
  return page.request.get(`http://127.0.0.1:${port + 2}${path}`, {
    headers: { host: `${name}.localhost` },
    maxRedirects: 0,
  });
}

test('from a finished folder to a live page, and a change published again', async ({ page, context }) => {
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  page.on('console', (message) => {
    if (message.type() === 'error') problems.push(message.text());
  });

  await test.step('sign in', async () => {
    await page.goto(app);
    await expectAccessible(page);
    await page.getByLabel('E-mail').fill(owner.email);
    await page.getByLabel('Password').fill('not the password');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toContainText('do not belong together');
    problems.length = 0; // the browser reports the refused attempt itself
    await page.getByLabel('Password').fill(owner.password);
    await page.keyboard.press('Enter');
    await page.getByRole('link', { name: /Lanternmoor Observatory/ }).click();
  });

  await test.step('Survey shows what came in', async () => {
    await expect(page.getByRole('radio', { name: 'Pages 43' })).toBeVisible();
    await page.getByRole('radio', { name: 'Pages 43' }).click();
    await expect(page.getByRole('treeitem').filter({ hasText: '/about/contact/' })).toContainText('Contact');
    await page.getByRole('radio', { name: /^Worth a look 9/ }).click();
    await page.getByRole('option').filter({ hasText: '/visit/picnic/' }).click();
    await expect(page.locator('mark')).toHaveText('href="/visit/picnic/"');
    await letAllBe(page);
    await page.getByRole('radio', { name: /^Files/ }).click();
    await expect(page.getByRole('option').filter({ hasText: '/documents/visitor-guide.pdf' })).toContainText(
      'application/pdf',
    );
    await expectAccessible(page);
  });

  await test.step('Pages: see a page, make it home, correct its title', async () => {
    await go(page, 'g', 'pages');
    await page.getByLabel('Search pages').fill('/welcome/');
    await page.getByRole('treeitem').click();
    const preview = page.frameLocator('iframe');
    await expect(preview.getByRole('heading', { name: 'Lanternmoor Observatory' })).toBeVisible();
    for (const width of ['Tablet', 'Phone', 'Wide']) await page.getByRole('radio', { name: width }).click();
    await page.getByRole('button', { name: 'Use as home page' }).click();
    await page.getByRole('button', { name: 'Make it the home page' }).click();
    await expect(page.getByText('This is the home page.')).toBeVisible();
    const title = page.getByLabel(/^Title,/);
    await title.fill('Lanternmoor Observatory, open to everyone');
    await title.press('Enter');
    await page.getByLabel('Search pages').fill('');
    await expect(page.getByRole('treeitem').first()).toContainText('open to everyone');
    await expectAccessible(page);
    await page.getByLabel('Search pages').press('Escape');
  });

  await test.step('Redirects: an old address, and the proof', async () => {
    await go(page, 'r', 'redirects');
    await page.getByRole('option').filter({ hasText: '/visit.php?id=3' }).click();
    await page.keyboard.press('e');
    await page.keyboard.type('opening times');
    await expect(page.getByRole('option').filter({ hasText: 'Opening times and prices' })).toBeVisible();
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await expect(page.getByText('/visit.php?id=3 lands on /visit/opening-times/ (301)')).toBeVisible();
    await page.getByRole('radio', { name: /^Settled/ }).click();
    await page.getByRole('option').filter({ hasText: '/visit.php?id=3' }).click();
    await expect(page.getByText('1 hop, lands on')).toBeVisible();
    await page.keyboard.press('a');
    await page.keyboard.type('/dome/history.htm');
    await page.getByLabel('Where it lands', { exact: true }).fill('/about/history/');
    await page.getByRole('radio', { name: '308' }).click();
    await page.getByRole('button', { name: 'Settle' }).click();
    await expect(page.getByText('/dome/history.htm lands on /about/history/ (308)')).toBeVisible();
    await page.getByRole('listbox', { name: 'Old addresses' }).focus();
    await expectAccessible(page);
  });

  await test.step('Publish, and open the live site', async () => {
    await go(page, 'p', 'publish');
    // Fewer than all where the host has some of the contents already, from another site.
    await expect(page.getByText(/^\d+ of 61$/)).toBeVisible();
    await page.getByRole('button', { name: 'Publish release 1' }).click();
    await expect(page.getByText('Live and draft are the same: release 1')).toBeVisible();
    const visitor = await context.newPage();
    await visitor.goto(live);
    await expect(visitor).toHaveTitle('Lanternmoor Observatory, open to everyone');
    await visitor.getByRole('link', { name: 'Home', exact: true }).click();
    await expect(visitor).toHaveURL(`${live}/`);
    const old = await ask(page, '/visit.php?id=3');
    expect([old.status(), old.headers().location]).toEqual([301, '/visit/opening-times/']);
    await visitor.goto(`${live}/visit.php?id=3`);
    await expect(visitor.getByRole('heading', { level: 1 })).toHaveText('Opening times and prices');
    expect((await ask(page, '/welcome/')).headers().location).toBe('/');
    expect((await ask(page, '/nothing-here')).status()).toBe(404);
    await visitor.close();
  });

  await test.step('change a title, publish again: only the changed file travels', async () => {
    await go(page, 'g', 'pages');
    await page.getByLabel('Search pages').fill('/about/history/');
    await page.getByRole('treeitem').click();
    await page.getByLabel(/^Title,/).fill('How the dome came up the moor');
    await page.getByRole('button', { name: 'Set' }).click();
    await expect(page.getByText('1 change for visitors')).toBeVisible();
    await page.getByRole('link', { name: 'Review and publish' }).click();
    await expect(
      page.getByText('title “History · Lanternmoor Observatory” becomes “How the dome came up the moor”'),
    ).toBeVisible();
    await expect(page.getByText('1 of 61')).toBeVisible();
    await expect(page.getByLabel('Evidence').getByText('+ <title>How the dome came up the moor</title>')).toBeVisible();
    await expectAccessible(page);
    await page.getByLabel('Note for the ladder').fill('History told properly');
    await page.getByRole('button', { name: 'Publish release 2' }).click();
    await expect(page.getByText('1 file,')).toBeVisible();
    expect(await (await ask(page, '/about/history/')).text()).toContain('<title>How the dome came up the moor</title>');
  });

  await test.step('roll back to the release before', async () => {
    await page.getByRole('button', { name: 'Go back to it' }).click();
    await expect(page.getByText('back to release 1, nothing sent')).toBeVisible();
    expect(await (await ask(page, '/about/history/')).text()).toContain(
      '<title>History · Lanternmoor Observatory</title>',
    );
  });

  await test.step('find and do, list the keys, one step back', async () => {
    await page.keyboard.press('Control+k');
    await expect(page.getByRole('combobox', { name: 'Find or do' })).toBeFocused();
    await page.keyboard.type('solar');
    await expect(page.getByRole('listbox', { name: 'Found' }).getByRole('option').first()).toContainText(
      'solar terrace',
    );
    await page.keyboard.press('Enter');
    await page.waitForURL('**/pages/**');
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
    await page.getByRole('button', { name: 'Close' }).last().click();
    await page.keyboard.press('Control+z');
    await expect(page.getByText('Taken back: Title of /about/history/')).toBeVisible();
    await expect(page.getByText('same as live')).toBeVisible();
  });

  expect(problems).toEqual([]);
});

test('bring in a folder of one’s own', async ({ page }) => {
  await signIn(page);
  await bringInReference(page, 'Reference');
  await go(page, 'p', 'publish');
  await page.getByRole('button', { name: 'Publish release 1' }).click();
  await expect(page.getByText('Live and draft are the same: release 1')).toBeVisible();
  expect(await (await ask(page, '/index.html', 'reference')).body()).toEqual(
    readFileSync('/usr/share/developers-reference/index.html'),
  );
});

test('an archive that is none says so and can be tried again', async ({ page }) => {
  await signIn(page);
  await page
    .getByTestId('zip')
    .setInputFiles({ name: 'holiday.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip at all') });
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByRole('heading', { name: 'Nothing came in from holiday.zip' })).toBeVisible();
  await expect(page.getByRole('alert')).toContainText('not an archive that can be read');
  await expect(page.getByText('Drop an archive or a folder here')).toBeVisible();
});

test('what a page embeds shows in its preview: pages, frames, documents', async ({ page }) => {
  const document = await PDFDocument.create();
  document.addPage([200, 200]).drawText('A document', { x: 20, y: 100 });
  const text = (html: string) => new TextEncoder().encode(html);
  const archive = zipSync({
    'index.html': text(
      '<!DOCTYPE html><title>Papers</title><iframe src="inner.html"></iframe><iframe src="guide.pdf"></iframe><embed src="guide.pdf" type="application/pdf">',
    ),
    'inner.html': text('<!DOCTYPE html><title>Inner</title><p>The inner page</p>'),
    'frames.html': text(
      '<HTML><TITLE>Frames</TITLE><FRAMESET COLS="50%,50%"><FRAME SRC="inner.html"><FRAME SRC="inner.html"></FRAMESET></HTML>',
    ),
    'guide.pdf': await document.save(),
  });
  await signIn(page);
  await page
    .getByTestId('zip')
    .setInputFiles({ name: 'papers.zip', mimeType: 'application/zip', buffer: Buffer.from(archive) });
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByRole('radio', { name: 'Pages 3', exact: true })).toBeVisible();
  await go(page, 'g', 'pages');
  const preview = page.frameLocator('iframe');
  await expect(preview.frameLocator('[src="inner.html"]').getByText('The inner page')).toBeVisible();
  const documents = () => page.frames().filter((frame) => frame.url().endsWith('/guide.pdf'));
  await expect.poll(() => documents().length).toBe(2);
  for (const frame of documents()) await expect(frame.getByAltText('Page 1 of guide.pdf')).toBeVisible();
  await page.getByRole('treeitem', { name: /Frames/ }).click();
  await expect(preview.frameLocator('frame >> nth=1').getByText('The inner page')).toBeVisible();
});

test('an imported page cannot act on the application', async ({ page }) => {
  const attack = `<title>Attack</title><body><script>
    const found = [];
    const attempt = (name, work) => { try { found.push(name + ' ' + work()); } catch { found.push(name + ' closed'); } };
    attempt('parent', () => parent.document.title);
    attempt('cookie', () => document.cookie);
    attempt('storage', () => localStorage.length);
    attempt('top', () => { if (top === self) return 'itself'; top.location.href = 'about:blank'; return 'left'; });
    fetch('${app}/api/session', { credentials: 'include' }).then((r) => r.text()).then((text) => found.push('api ' + text), () => found.push('api closed'))
      .then(() => { document.body.textContent = found.join('; '); });
  </script>`;
  await signIn(page);
  const archive = zipSync({ 'index.html': new TextEncoder().encode(attack) });
  await page
    .getByTestId('zip')
    .setInputFiles({ name: 'attack.zip', mimeType: 'application/zip', buffer: Buffer.from(archive) });
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByRole('radio', { name: 'Pages 1', exact: true })).toBeVisible();
  await go(page, 'g', 'pages');
  await expect(page.frameLocator('iframe').locator('body')).toHaveText(
    'parent closed; cookie closed; storage closed; top closed; api closed',
  );
  expect(page.url()).toContain('/pages');
  // Opened in a tab of its own it is just as far away.
  const [tab] = await Promise.all([page.waitForEvent('popup'), page.getByText('open in a tab').click()]);
  await expect(tab.locator('body')).toContainText('cookie closed; storage closed');
  await expect(tab.locator('body')).toContainText('api closed');
});
