/** The stage of every journey: the built application on a free port, and a fresh headless Chromium. */
import type { AddressInfo } from 'node:net';
import { type Browser, type BrowserContext, type Page, chromium } from '@playwright/test';
import { HEADLESS_FLAGS } from '../server/chromium';
import { createServer } from '../server/server';

export interface Stage {
  readonly address: string;
  /** A page in a browser profile of its own, 1280x800; it keeps the program for offline only where that is asked for, since that takes time. Errors of the page are thrown at the journey's end. */
  newPage(keeping?: 'keeps-program'): Promise<{ page: Page; errors: string[] }>;
  /**
   * A page in a profile in which nothing is stored any more; the program's scripts need not be compiled anew, which is
   * a tenth of what journeys take. All pages of the one before are closed by then.
   */
  emptiedPage(): Promise<{ page: Page; errors: string[] }>;
  /** Takes the server away, as when it is stopped or the network is gone. */
  stopServing(): Promise<void>;
  close(): Promise<void>;
}

const WATCH_WORKERS = `
  const Begun = Worker;
  globalThis.Worker = class extends Begun {
    constructor(...of) {
      super(...of);
      this.addEventListener('error', (e) => console.error('A worker failed: ' + e.message));
    }
  };
`;

/** Serves `web/dist` and starts the browser. */
export async function openStage(): Promise<Stage> {
  const server = await createServer();
  await server.listen({ host: '127.0.0.1', port: 0 });
  const address = `http://127.0.0.1:${(server.server.address() as AddressInfo).port}`;
  const browser: Browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: HEADLESS_FLAGS,
  });
  const newContext = (serviceWorkers: 'allow' | 'block') =>
    browser.newContext({ viewport: { width: 1280, height: 800 }, acceptDownloads: true, serviceWorkers });
  const pageIn = async (context: BrowserContext) => {
    const page = await context.newPage();
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    page.on('console', (m) => m.type() === 'error' && errors.push(m.text()));
    // The save dialog cannot be driven headless; without it the page takes its download way.
    await page.addInitScript('delete window.showSaveFilePicker');
    // What the page tries and its policy refuses is an error, also where the program lives with it.
    await page.addInitScript(
      "addEventListener('securitypolicyviolation', (e) => console.error(`Refused: ${e.effectiveDirective} ${e.blockedURI}`))",
    );
    // Journeys say themselves when something plays.
    await page.addInitScript("try { localStorage['skip-back-plays-added'] ??= 'no' } catch {}");
    // What fails in a worker is an error too, also where the program begins it anew.
    await page.addInitScript(WATCH_WORKERS);
    return { page, errors };
  };
  let kept: BrowserContext | undefined;
  return {
    address,
    async newPage(keeping) {
      const opened = await pageIn(await newContext(keeping ? 'allow' : 'block'));
      await opened.page.goto(address);
      return opened;
    },
    async emptiedPage() {
      kept ??= await newContext('block');
      const opened = await pageIn(kept);
      const session = await kept.newCDPSession(opened.page);
      await session.send('Storage.clearDataForOrigin', { origin: address, storageTypes: 'all' });
      await session.detach();
      await opened.page.goto(address);
      return opened;
    },
    async stopServing() {
      server.server.closeAllConnections();
      await server.close();
    },
    async close() {
      await browser.close();
      await server.close();
    },
  };
}

/** Opens the demo from the shelf and waits until its picture can play. */
export async function openDemo(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Open the demo' }).first().click();
  await page.waitForURL(/project/, { timeout: 60_000 });
  await page.getByTestId('length').filter({ hasNotText: /^0 f/ }).waitFor({ timeout: 30_000 });
}
