import { type Rational, toNumber } from './rational';
import { parseTimecode } from './timecode';
import { type Frame, frame, roundHalfUp } from './units';

/**
 * Frames from what a person types into a length or position field: `60`, `60 f`, `2 s`, `2.5s`,
 * `500 ms`, `2:15`, `00:00:02:15`. Undefined when it is none of these.
 */
export function parseFrames(text: string, rate: Rational): Frame | undefined {
  const trimmed = text.trim().toLowerCase().replace(',', '.');
  const match = /^(\d+(?:\.\d+)?)\s*(f|fr|frames?|s|sec|seconds?|ms)?$/.exec(trimmed);
  if (!match) return parseTimecode(trimmed, rate);
  const value = Number(match[1]);
  if (match[2]?.startsWith('s')) return frame(roundHalfUp(value * toNumber(rate)));
  if (match[2] === 'ms') return frame(roundHalfUp((value / 1000) * toNumber(rate)));
  return frame(roundHalfUp(value));
}

/** Percent from `200`, `200 %` or `2x`; undefined when it is none of these. */
export function parsePercent(text: string): number | undefined {
  const match = /^(\d+(?:\.\d+)?)\s*(%|x|×)?$/.exec(text.trim().toLowerCase().replace(',', '.'));
  if (!match) return undefined;
  const value = Number(match[1]);
  return match[2] === 'x' || match[2] === '×' ? value * 100 : value;
}

/** A percentage with as many decimals as it needs, two at most. */
export function percentText(percent: number): string {
  return `${Number(percent.toFixed(Math.abs(percent) < 10 ? 2 : 1))} %`;
}
