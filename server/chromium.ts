import { existsSync } from 'node:fs';
import { access } from 'node:fs/promises';

/**
 * Parts of Chromium that work for someone before its window: the pages behind the address field take a second of
 * processor for every window. The last list given counts, so what Playwright leaves out is left out here too.
 */
const LEFT_OUT = [
  ...['WebUIOmniboxPopup', 'WebUIOmniboxAimPopup', 'WebUIOmniboxFullPopup', 'AimEnabled', 'LensOverlay'],
  ...['MediaRouter', 'OptimizationHints', 'NetworkTimeServiceQuerying', 'PreconnectToSearch'],
  ...['HttpsUpgrades', 'HttpsFirstBalancedModeAutoEnable', 'PaintHolding', 'ThirdPartyStoragePartitioning'],
  ...['AvoidUnnecessaryBeforeUnloadCheckSync', 'DestroyProfileOnBrowserClose'],
  ...['AvoidCorsURLLoaderRestartOnRedirect'],
];

/** What it is started with where there is no window and no network. */
const QUIET_FLAGS = [
  ...['--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update'],
  ...['--disable-sync', `--disable-features=${LEFT_OUT.join(',')}`],
];

/** What Chromium is started with for journeys: without a sandbox, for they run as root, and without a graphics card. */
export const HEADLESS_FLAGS = ['--no-sandbox', '--disable-gpu', ...QUIET_FLAGS];

/**
 * How the browser of `npm run render` is started, which reads files of others: in its sandbox, unless it is started as root,
 * for whom there is none; on the graphics card, where there is one.
 */
export function commandBrowser(): { readonly args: string[]; readonly chromiumSandbox: boolean } {
  const isRoot = process.getuid?.() === 0;
  const hasCard = process.platform !== 'linux' || existsSync('/dev/dri');
  return { args: [...QUIET_FLAGS, ...(hasCard ? [] : ['--disable-gpu'])], chromiumSandbox: !isRoot };
}

const PLACES = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];

/** Where Chromium lies: what `CHROMIUM` names, or where Debian puts it; undefined where there is none. */
export async function chromiumPath(): Promise<string | undefined> {
  for (const path of [process.env['CHROMIUM'] ?? '', ...PLACES])
    if (
      path &&
      (await access(path).then(
        () => true,
        () => false,
      ))
    )
      return path;
  return undefined;
}
