/** A page of our own as PDF, by Debian's Chromium; it asks for nothing and runs no script. */

const WITHIN_MS = 30_000;

/** @param program path of Chromium @param html a page that needs nothing else */
export async function printPage(program: string, html: string): Promise<Buffer> {
  // Loaded only where something is printed: it is large.
  const { chromium } = await import('playwright-core');
  const browser = await chromium.launch({
    executablePath: program,
    chromiumSandbox: process.getuid?.() !== 0,
    timeout: WITHIN_MS,
    args: ['--disable-gpu', '--disable-background-networking', '--host-resolver-rules=MAP * ~NOTFOUND'],
  });
  try {
    const page = await (await browser.newContext({ offline: true, javaScriptEnabled: false })).newPage();
    await page.setContent(html, { waitUntil: 'load', timeout: WITHIN_MS });
    // ISO 216; the report says itself how it wants to be printed.
    return await page.pdf({
      format: 'A4',
      printBackground: true,
      margin: { top: '16mm', bottom: '16mm', left: '16mm', right: '16mm' },
    });
  } finally {
    await browser.close();
  }
}
