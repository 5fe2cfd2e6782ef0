/**
 * Which tab works on what. A project is worked on in one tab at a time; another can take it over. Held by the
 * browser's own locks, which a closed or crashed tab lets go of by itself.
 */
const nameOf = (projectId: string) => `skip-back-project-${projectId}`;
const channel = () => new BroadcastChannel('skip-back-tabs');

/** How long the tab that holds a project is given to save and let go, milliseconds. */
const PATIENCE_MS = 1500;

/** How often a tab that waits for a project looks whether it was let go, milliseconds. */
const AGAIN_MS = 300;

export interface Hold {
  release(): void;
}

interface Holding {
  /** Called before the project is let go because another tab wants it: saves what there is to save. */
  onWanted(): Promise<void>;
  /** Called when it is gone. */
  onLost(): void;
}

function hold(projectId: string, options: LockOptions, how: Holding): Promise<Hold | undefined> {
  if (!navigator.locks) return Promise.resolve({ release: () => undefined });
  return new Promise((resolve, reject) => {
    navigator.locks
      .request(nameOf(projectId), options, (lock) => {
        if (!lock) return resolve(undefined);
        return new Promise<void>((letGo) => {
          const wanted = channel();
          const release = () => {
            wanted.close();
            letGo();
          };
          wanted.onmessage = ({ data }: MessageEvent<unknown>) => {
            if (data !== projectId) return;
            void how.onWanted().finally(() => {
              release();
              how.onLost();
            });
          };
          resolve({ release });
        });
      })
      .catch((problem: unknown) => {
        // Taken from under us, or never had.
        how.onLost();
        reject(problem instanceof Error ? problem : new Error('lock'));
      });
  });
}

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Takes a project to work on. Where another tab has it, says so, and takes it once that lets go: a tab that was closed
 * a moment ago may still have it. Only before somebody's eyes: a tab that lies behind takes nothing from where it is
 * opened next. Undefined once it was left.
 */
export async function holdProject(
  projectId: string,
  how: Holding & { onElsewhere(): void },
  left: AbortSignal,
): Promise<Hold | undefined> {
  for (let asked = false; !left.aborted; asked = true, await wait(AGAIN_MS)) {
    if (asked && document.visibilityState !== 'visible') continue;
    const held = await hold(projectId, { ifAvailable: true }, how);
    if (held) return held;
    how.onElsewhere();
  }
  return undefined;
}

/** Takes a project over from the tab that has it, which saves first; one that does not answer is overruled. */
export async function takeOverProject(projectId: string, how: Holding): Promise<Hold | undefined> {
  const asking = channel();
  try {
    const ends = performance.now() + PATIENCE_MS;
    while (performance.now() < ends) {
      // Each time: a tab that waits may have had it first.
      asking.postMessage(projectId);
      const held = await hold(projectId, { ifAvailable: true }, how);
      if (held) return held;
      await wait(50);
    }
    return await hold(projectId, { steal: true }, how);
  } finally {
    asking.close();
  }
}

/** Does something to a project that no tab is working on; false, undone, where one is. */
export async function whileNobodyHas(projectId: string, work: () => Promise<void>): Promise<boolean> {
  if (!navigator.locks) {
    await work();
    return true;
  }
  return navigator.locks.request(nameOf(projectId), { ifAvailable: true }, async (lock) => {
    if (!lock) return false;
    await work();
    return true;
  });
}

const PAGE = 'skip-back-page';
let ready: Promise<void> | undefined;

/**
 * Marks this page as open for as long as it is; before that, and only where no other page is open, does what
 * none of them may be disturbed by.
 */
export function beginPage(whileAlone: () => Promise<void>): Promise<void> {
  const { locks } = navigator;
  if (!locks) return (ready ??= whileAlone());
  return (ready ??= locks
    .request(PAGE, { ifAvailable: true }, (lock) => (lock ? whileAlone() : undefined))
    .catch(() => undefined)
    .then(() => {
      void locks.request(PAGE, { mode: 'shared' }, () => new Promise<void>(() => undefined));
    }));
}

/** Done once nothing is tidied away any more: media may be kept from now on. */
export const pageReady = (): Promise<void> => ready ?? Promise.resolve();
