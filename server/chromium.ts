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

/** What Chromium is started with where there is no window, no graphics card and no network. */
export const HEADLESS_FLAGS = [
  ...['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run'],
  ...['--disable-background-networking', '--disable-component-update', '--disable-sync'],
  `--disable-features=${LEFT_OUT.join(',')}`,
];

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
