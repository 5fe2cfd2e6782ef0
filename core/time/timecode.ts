import { type Rational, toNumber } from './rational';
import { type Frame, frame } from './units';

/** Whether timecode at this rate drops numbers: 29.97 and 59.94, as SMPTE ST 12-1 defines. */
export function dropsFrames(rate: Rational): boolean {
  return rate.den === 1001 && (rate.num === 30000 || rate.num === 60000);
}

/** Frame numbers in one second of timecode: 30 for 29.97. */
function countingRate(rate: Rational): number {
  return Math.round(toNumber(rate));
}

const pad = (n: number) => String(n).padStart(2, '0');

/**
 * Timecode of a frame counted from zero. Drop-frame rates skip the first numbers of each minute but
 * every tenth (two at 29.97, four at 59.94) and use `;` before the frames.
 */
export function formatTimecode(at: Frame, rate: Rational): string {
  const base = countingRate(rate);
  let number = Math.abs(at);
  const drop = dropsFrames(rate);
  if (drop) {
    const skipped = base / 15;
    const perMinute = base * 60 - skipped;
    const perTenMinutes = perMinute * 10 + skipped;
    const tens = Math.floor(number / perTenMinutes);
    const rest = number % perTenMinutes;
    const minutes = rest < base * 60 ? 0 : 1 + Math.floor((rest - base * 60) / perMinute);
    number += skipped * (tens * 9 + minutes);
  }
  const frames = number % base;
  const total = Math.floor(number / base);
  const hours = Math.floor(total / 3600);
  const text = `${pad(hours)}:${pad(Math.floor(total / 60) % 60)}:${pad(total % 60)}${drop ? ';' : ':'}${pad(frames)}`;
  return at < 0 ? `-${text}` : text;
}

/**
 * The frame a timecode names, or undefined when it is not one. Leading parts may be left out
 * (`2:15` is two seconds and fifteen frames). A number that drop-frame counting skips means the frame after it. `drops` says
 * whether numbers are dropped, where that is not what the rate says.
 */
export function parseTimecode(text: string, rate: Rational, drops = dropsFrames(rate)): Frame | undefined {
  const match = /^(?:(?:(\d{1,3})[:;])?(\d{1,3})[:;])?(\d{1,4})[:;](\d{1,3})$/.exec(text.trim());
  if (!match) return undefined;
  const [hours, minutes, secs, frames] = match.slice(1).map((part) => Number(part ?? 0)) as [
    number,
    number,
    number,
    number,
  ];
  const base = countingRate(rate);
  if (frames >= base) return undefined;
  let number = ((hours * 60 + minutes) * 60 + secs) * base + frames;
  if (drops && dropsFrames(rate)) {
    const skipped = base / 15;
    const minute = Math.floor(number / (base * 60));
    const within = number % (base * 60);
    if (minute % 10 !== 0 && within < skipped) number += skipped - within;
    number -= skipped * (minute - Math.floor(minute / 10));
  }
  return frame(number);
}
