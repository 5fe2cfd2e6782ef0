import { type Rational, toNumber } from '../time/rational';
import { dropsFrames, formatTimecode } from '../time/timecode';
import { frame, roundHalfUp } from '../time/units';
import { type CutEvent, type CutListFile, framesOff, offLimit, plural, rampLimit } from './events';
import { reelsOf } from './reels';

const MOST_EVENTS = 999;

/** The most that three figures and a decimal hold. */
const MOST_MOTION = 999.9;

/** Frames a second at a speed, as the M2 line writes it: sign, three figures, one decimal. */
function motionRate(speed: number, rate: Rational): string {
  const fps = Math.min(MOST_MOTION, Math.abs(speed) * toNumber(rate));
  return `${speed < 0 ? '-' : ' '}${fps.toFixed(1).padStart(5, '0')}`;
}

/**
 * Events that end where the dissolve after them begins, as this format counts: what lies wholly inside one is left out,
 * and the event before goes on to where the dissolve begins.
 */
function withRoom(events: readonly CutEvent[]): { shown: CutEvent[]; inside: number } {
  const shown: CutEvent[] = [];
  let inside = 0;
  for (const e of events) {
    const begins = e.recordIn - (e.dissolve?.before ?? 0);
    for (let last = shown.at(-1); e.dissolve && last && last.recordOut > begins; last = shown.at(-1)) {
      shown.pop();
      if (last.recordIn >= begins && shown.length > 0) {
        inside++;
        continue;
      }
      const part = (begins - last.recordIn) / (last.recordOut - last.recordIn);
      shown.push({ ...last, recordOut: begins, toS: last.fromS + part * (last.toS - last.fromS) });
      break;
    }
    shown.push(e);
  }
  return { shown, inside };
}

/** The frame of a rate at which a hold is read: the first that lies within the clip's frame, or the one before it. */
function heldAt({ fromS, shown, frameAt }: CutEvent, hz: number): number {
  const before = Math.floor(fromS * hz + 1e-6);
  const inside = [before, before + 1].find((n) => frameAt(n / hz) === shown[0]);
  return inside ?? before;
}

/**
 * A CMX 3600 edit decision list: one event a segment, speeds and reversals as M2 lines, holds at speed 0. A dissolve
 * begins where the event does, as the format has it: the event before it ends there, and a line without length says it goes on.
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
  const sourceOf = (e: CutEvent, extra = 0) => {
    // What it runs on before its first frame, at the speed it has there.
    const from = e.fromS - (extra * e.speed) / hz;
    const low = Math.min(from, e.toS) * hz;
    const high = Math.max(from, e.toS) * hz;
    // Of a hold the first of this rate that lies within the frame it shows.
    const first = e.kind === 'hold' ? heldAt(e, hz) : Math.max(0, roundHalfUp(low));
    const end = Math.max(first + 1, roundHalfUp(high));
    if (e.kind !== 'hold' && (Math.abs(first - low) > 0.01 || Math.abs(end - high) > 0.01)) rounded++;
    return { first, end };
  };
  const { shown, inside } = withRoom(events);
  const off = events
    .filter((e) => e.kind !== 'ramp')
    .flatMap((e) => {
      const { first, end } = sourceOf(e);
      if (e.kind === 'hold') return framesOff(e, first / hz, first / hz);
      return e.speed < 0 ? framesOff(e, end / hz, first / hz) : framesOff(e, first / hz, end / hz);
    });
  rounded = 0;
  const reels = reelsOf(shown.map((e) => e.clipName));
  const reelOf = (name: string) => reels.get(name)!.padEnd(8);
  for (const [i, e] of shown.slice(0, MOST_EVENTS).entries()) {
    const before = e.dissolve?.before ?? 0;
    const { first, end } = sourceOf(e, before);
    const reel = reelOf(e.clipName);
    const number = String(i + 1).padStart(3, '0');
    const last = shown[i - 1];
    const frames = e.dissolve ? e.dissolve.before + e.dissolve.after : 0;
    const recordIn = timecode(e.recordIn - before);
    if (last && frames > 0) {
      const from = sourceOf(last);
      const at = timecode(last.speed < 0 ? from.first : from.end);
      lines.push(`${number}  ${reelOf(last.clipName)} V     C        ${at} ${at} ${recordIn} ${recordIn}`);
    }
    const how = frames > 0 ? `D    ${String(frames).padStart(3, '0')}` : 'C       ';
    lines.push(
      `${number}  ${reel} V     ${how} ${timecode(first)} ${timecode(end)} ${recordIn} ${timecode(e.recordOut)}`,
    );
    if (Math.abs(e.speed - 1) > 1e-6)
      lines.push(
        `M2   ${reel}      ${motionRate(e.speed, rate)}                ${timecode(e.speed < 0 ? end - 1 : first)}`,
      );
    if (last && frames > 0)
      lines.push(
        'EFFECTS NAME IS CROSS DISSOLVE',
        `* FROM CLIP NAME: ${last.clipName}`,
        `* TO CLIP NAME: ${e.clipName}`,
      );
    else lines.push(`* FROM CLIP NAME: ${e.clipName}`);
    if (e.kind === 'ramp')
      lines.push(`* RAMP FROM ${(e.speedIn * 100).toFixed(1)} TO ${(e.speedOut * 100).toFixed(1)} PERCENT`);
  }
  const limits = [...rampLimit(events)];
  if (rounded > 0) limits.push(`${rounded} source times are rounded to whole frames of the project’s rate.`);
  limits.push(...offLimit(off));
  const fast = events.filter((e) => Math.abs(e.speed) * hz > MOST_MOTION).length;
  if (fast > 0)
    limits.push(
      `${plural(fast, 'speed is', 'speeds are')} beyond ${MOST_MOTION} frames a second, the most this format writes, and stand as that.`,
    );
  if (inside > 0)
    limits.push(
      `${plural(inside, 'segment lies', 'segments lie')} wholly inside a dissolve: the one before runs on there instead.`,
    );
  if (shown.length > MOST_EVENTS) limits.push(`Only the first ${MOST_EVENTS} of ${shown.length} events fit.`);
  return { text: `${lines.join('\n')}\n`, limits };
}
