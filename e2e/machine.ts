/** What the machine itself is late with: without this, a journey that watches in real time tests the machine. And what a page holds of it. */
import { execFileSync } from 'node:child_process';

const SLOT_MS = 1000 / 30;
const WINDOWS = 10;

/** Slots of a thirtieth of a second that a bare timer of this process missed while something was done. */
async function missedDuring<T>(what: () => Promise<T>): Promise<{ result: T; missed: number }> {
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
  return { result, missed };
}

/**
 * Measures until the machine kept up meanwhile: a window in which even a bare timer missed more than one
 * slot in a hundred says nothing of the product and is measured again, nine times at most.
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
