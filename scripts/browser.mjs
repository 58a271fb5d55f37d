import { chromium } from 'playwright-core';
import { chromiumFile } from './chromium.mjs';

/** A page as large as the pictures are, in a browser of its own. */
export async function openPage() {
  const browser = await chromium.launch({
    executablePath: chromiumFile,
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
  });
  return { browser, page: await browser.newPage({ viewport: { width: 1280, height: 800 } }) };
}
