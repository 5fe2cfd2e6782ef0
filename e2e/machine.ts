/** What the machine itself is late with: without this, a journey that watches in real time tests the machine. And what a page holds of it. */
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';

/** For a journey that measures in real time: `npm test` runs it when all others have ended. */
export const ALONE = { tag: '@alone' };

const SLOT_MS = 1000 / 30;
const WINDOWS = 10;

/** A tick of the kernel's account of its processors, in milliseconds (USER_HZ is 100 wherever Linux runs). */
const TICK_MS = 10;

/**
 * Milliseconds since the machine began that its processors, all together, were wanted here and given to
 * another machine by their host: `steal` in proc(5), 0 where that is not told.
 */
function stolenMs(): number {
  if (!existsSync('/proc/stat')) return 0;
  const all = readFileSync('/proc/stat', 'utf8').split('\n')[0]!.trim().split(/\s+/);
  return TICK_MS * Number(all[8] ?? 0);
}

/**
 * Slots of a thirtieth of a second that the machine missed while something was done: those that a bare
 * timer of this process missed, and those in which a processor was away. The timer needs one processor,
 * for an instant; what plays needs them for half of every slot.
 */
async function missedDuring<T>(what: () => Promise<T>): Promise<{ result: T; missed: number }> {
  const stolen = stolenMs();
  let missed = 0;
  let last = Math.floor(performance.now() / SLOT_MS);
  const look = () => {
    const slot = Math.floor(performance.now() / SLOT_MS);
    missed += Math.max(0, slot - last - 1);
    last = slot;
  };
  const timer = setInterval(look, 4);
  const result = await what();
  look();
  clearInterval(timer);
  return { result, missed: missed + Math.floor((stolenMs() - stolen) / SLOT_MS) };
}

/**
 * Measures until the machine kept up meanwhile: a window in which it missed more than one slot in a hundred
 * says nothing of the product and is measured again, nine times at most.
 * @returns what was measured in the best window, and the slots that the machine itself missed in it
 */
export async function whileMachineKeepsUp<T>(
  seconds: number,
  measure: () => Promise<T>,
): Promise<{ result: T; missed: number }> {
  const allowed = Math.ceil((seconds * 1000) / SLOT_MS / 100);
  let best = await missedDuring(measure);
  for (let again = 1; again < WINDOWS && best.missed > allowed; again++) {
    console.log(`    the machine missed ${best.missed} slots in ${seconds} s: measured again`);
    const window = await missedDuring(measure);
    if (window.missed < best.missed) best = window;
  }
  return best;
}

/** Bytes that the largest page of any browser holds here (resident). */
export function bytesHeld(): number {
  const rows = execFileSync('ps', ['-eo', 'rss,args'], { encoding: 'utf8', maxBuffer: 1 << 24 }).split('\n');
  const kilobytes = rows.filter((r) => r.includes('--type=renderer')).map((r) => Number.parseInt(r, 10));
  return 1024 * Math.max(0, ...kilobytes);
}

/** Bytes of memory that all browsers take here together, files in memory included, those on the disk not (Linux). */
export function bytesTaken(): number {
  const pids = execFileSync('ps', ['-eo', 'pid,args'], { encoding: 'utf8', maxBuffer: 1 << 24 })
    .split('\n')
    .filter((row) => row.includes('chromium'))
    .map((row) => Number.parseInt(row, 10));
  const kilobytes = pids.flatMap((pid) => {
    try {
      const rows = readFileSync(`/proc/${pid}/smaps_rollup`, 'latin1').matchAll(
        /Pss_(?:Anon|Shmem):\s+(\d+)/g,
      );
      return [...rows].map((row) => Number(row[1]));
    } catch {
      // It ended meanwhile.
      return [];
    }
  });
  return 1024 * kilobytes.reduce((a, b) => a + b, 0);
}
