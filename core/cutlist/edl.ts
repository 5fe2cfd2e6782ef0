import { type Rational, toNumber } from '../time/rational';
import { dropsFrames, formatTimecode, parseTimecode } from '../time/timecode';
import { frame, roundHalfUp } from '../time/units';
import { type CutEvent, type CutListFile, type ReadEvent, rampLimit } from './events';

const MOST_EVENTS = 999;

/** A reel name of eight letters and figures, as CMX 3600 allows. */
function reelOf(clipName: string): string {
  const bare = clipName
    .replace(/\.[^.]+$/, '')
    .toUpperCase()
    .replace(/[^A-Z0-9]/g, '');
  return (bare || 'AX').slice(0, 8).padEnd(8);
}

/** Frames a second at a speed, as the M2 line writes it: sign, three figures, one decimal. */
function motionRate(speed: number, rate: Rational): string {
  const fps = Math.abs(speed) * toNumber(rate);
  return `${speed < 0 ? '-' : ' '}${fps.toFixed(1).padStart(5, '0')}`;
}

/**
 * A CMX 3600 edit decision list: one event a segment, speeds and reversals as M2 lines, holds at speed 0.
 * Source times are counted at the project's rate from the file's first frame.
 */
export function writeEdl(events: readonly CutEvent[], title: string, rate: Rational): CutListFile {
  const hz = toNumber(rate);
  const timecode = (n: number) => formatTimecode(frame(n), rate);
  const lines = [
    `TITLE: ${title.toUpperCase()}`,
    `FCM: ${dropsFrames(rate) ? 'DROP FRAME' : 'NON-DROP FRAME'}`,
    '',
  ];
  let rounded = 0;
  for (const [i, e] of events.slice(0, MOST_EVENTS).entries()) {
    const low = Math.min(e.fromS, e.toS) * hz;
    const high = Math.max(e.fromS, e.toS) * hz;
    const first = e.kind === 'hold' ? Math.floor(low + 1e-6) : roundHalfUp(low);
    const end = Math.max(first + 1, roundHalfUp(high));
    if (e.kind !== 'hold' && (Math.abs(first - low) > 0.01 || Math.abs(end - high) > 0.01)) rounded++;
    const reel = reelOf(e.clipName);
    lines.push(
      `${String(i + 1).padStart(3, '0')}  ${reel} V     C        ${timecode(first)} ${timecode(end)} ${timecode(e.recordIn)} ${timecode(e.recordOut)}`,
    );
    if (Math.abs(e.speed - 1) > 1e-6)
      lines.push(
        `M2   ${reel}      ${motionRate(e.speed, rate)}                ${timecode(e.speed < 0 ? end - 1 : first)}`,
      );
    lines.push(`* FROM CLIP NAME: ${e.clipName}`);
    if (e.kind === 'ramp')
      lines.push(`* RAMP FROM ${(e.speedIn * 100).toFixed(1)} TO ${(e.speedOut * 100).toFixed(1)} PERCENT`);
  }
  const limits = [...rampLimit(events)];
  if (rounded > 0) limits.push(`${rounded} source times are rounded to whole frames of the project’s rate.`);
  if (events.length > MOST_EVENTS)
    limits.push(`Only the first ${MOST_EVENTS} of ${events.length} events fit.`);
  return { text: `${lines.join('\n')}\n`, limits };
}

/** The events of a CMX 3600 list, video only, in order; or the sentence that says what is wrong with it. */
export function readEdl(
  text: string,
  rate: Rational,
): { ok: true; events: ReadEvent[] } | { ok: false; sentence: string } {
  const hz = toNumber(rate);
  const events: ReadEvent[] = [];
  let last: ReadEvent | undefined;
  const replaceLast = (change: Partial<ReadEvent>) => {
    if (!last) return;
    last = { ...last, ...change };
    events[events.length - 1] = last;
  };
  for (const [n, line] of text.split(/\r?\n/).entries()) {
    const event = /^(\d{3,6})\s+(\S+)\s+(\S+)\s+(\S+)(?:\s+\d+)?\s+(\S+)\s+(\S+)\s+(\S+)\s+(\S+)\s*$/.exec(
      line,
    );
    const motion = /^M2\s+\S+\s+(-?)\s*(\d+(?:\.\d+)?)/.exec(line);
    const name = /^\*\s*FROM CLIP NAME:\s*(.+?)\s*$/i.exec(line);
    if (event) {
      if (!event[3]!.includes('V')) {
        last = undefined;
        continue;
      }
      const [first, end, recordIn, recordOut] = event.slice(5, 9).map((t) => parseTimecode(t, rate));
      if (first === undefined || end === undefined || recordIn === undefined || recordOut === undefined)
        return {
          ok: false,
          sentence: `Line ${n + 1} has a timecode that does not exist at this project’s rate.`,
        };
      last = { clipName: event[2]!, inS: first / hz, outS: end / hz, frames: recordOut - recordIn, speed: 1 };
      events.push(last);
    } else if (motion && last)
      replaceLast({ speed: (Number(motion[2]) / hz) * (motion[1] === '-' ? -1 : 1) || 0 });
    else if (name && last) replaceLast({ clipName: name[1]! });
  }
  return events.length > 0
    ? { ok: true, events }
    : { ok: false, sentence: 'There is no picture event in this cut list.' };
}
