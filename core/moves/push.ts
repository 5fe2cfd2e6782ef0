import { z } from 'zod';
import { type FrameTable, durationOf } from '../clip/frame-table';
import { info, type Notice } from '../notice';
import { type TimePath, instantAt, joinPaths, pathLength, slicePath } from '../path/path';
import { type Segment, evenSegment, holdSegment } from '../path/segment';
import { type Stretch, knotsOf, warpPath } from '../path/warp';
import { toNumber } from '../time/rational';
import type { Move } from './move';
import { accentsOf, withoutBeats, strongestApart } from './on-beats';

const schema = z.object({
  band: z.enum(['low', 'mid', 'high', 'all']),
  least: z.number().min(0).max(100),
  amount: z.number().min(1).max(3000),
  shape: z.enum(['own', 'envelope']).default('own'),
  fall: z.int().min(1).max(300),
  then: z.enum(['carries', 'returns']),
});
type Values = z.infer<typeof schema>;

/** Result frames that a shove out takes when it returns. */
const OUT_FRAMES = 2;

/** Every accent of a band shoves time forward, by its strength; time carries on from there, or comes back. */
export const push: Move<Values> = {
  id: 'push',
  name: 'Push',
  group: 'music',
  also: 'kick, hit, jolt',
  summary: 'Every kick shoves time forward, and lets it go on or come back.',
  schema,
  listens: () => true,
  defaults: { band: 'low', least: 40, amount: 300, shape: 'own', fall: 8, then: 'carries' },
  shape: [0, 0.1, 0.4, 0.36, 0.44, 0.74, 0.7, 0.78, 1],
  fields: [
    {
      key: 'band',
      kind: 'choice',
      label: 'By',
      help: 'Whose accents push.',
      options: [
        { value: 'low', label: 'low: kicks' },
        { value: 'mid', label: 'mid: snares' },
        { value: 'high', label: 'high: hats' },
        { value: 'all', label: 'all accents' },
      ],
    },
    {
      key: 'least',
      kind: 'percent',
      label: 'At least',
      help: 'Weaker accents do nothing; 100 is a strong one.',
      min: 0,
      max: 100,
    },
    {
      key: 'amount',
      kind: 'percent',
      label: 'Shove',
      help: 'Speed at the accent, for a strong one.',
      min: 1,
      max: 3000,
    },
    {
      key: 'shape',
      kind: 'choice',
      label: 'Shape',
      help: 'Its own is sudden and fades; the envelope of the band on Beats rises, holds and falls.',
      options: [
        { value: 'own', label: 'its own' },
        { value: 'envelope', label: 'as on Beats' },
      ],
    },
    {
      key: 'fall',
      kind: 'length',
      label: 'Fades over',
      help: 'Frames until it is as before, in its own shape.',
      min: 1,
      max: 300,
    },
    {
      key: 'then',
      kind: 'choice',
      label: 'Then',
      help: 'Carries on is ahead for good; returns comes back to where it would have been.',
      options: [
        { value: 'carries', label: 'carries on' },
        { value: 'returns', label: 'returns' },
      ],
    },
  ],
  apply(path, values, { music, table }) {
    if (!music || music.accents.length === 0) return withoutBeats(path, 'Push');
    const end = pathLength(path);
    const hz = toNumber(path.rate);
    const frames = (ms: number) => (ms / 1000) * hz;
    const follows = values.shape === 'envelope';
    const heard = accentsOf(music, values.band, (band) =>
      follows ? music.envelopes[band].leastPercent : values.least,
    ).filter((a) => a.at >= 0 && a.at < end);
    const apart = strongestApart(heard, 2).map(({ at, strength, band }): Shove => {
      const envelope = music.envelopes[band];
      return follows
        ? {
            at,
            strength,
            rise: frames(envelope.riseMs),
            hold: frames(envelope.holdMs),
            fall: Math.max(1, frames(envelope.fallMs)),
          }
        : { at, strength, rise: 0, hold: 0, fall: values.fall };
    });
    const result =
      values.then === 'carries'
        ? carryOn(path, apart, values.amount, table)
        : comeBack(path, apart, values.amount, durationOf(table));
    const lasts = pathLength(result);
    const pushed = apart.filter((a) => a.at < lasts - 1e-6).length;
    const notices: Notice[] = [info('pushes', pushed === 1 ? '1 accent pushes.' : `${pushed} accents push.`)];
    return { path: result, notices };
  },
};

/** An accent that shoves, and its shape around it: frames up to it, at the top, and until it is over. */
interface Shove {
  readonly at: number;
  readonly strength: number;
  readonly rise: number;
  readonly hold: number;
  readonly fall: number;
}

/** Pace rises to its top at each accent, holds, and falls back to 1. */
function carryOn(path: TimePath, shoves: readonly Shove[], amount: number, table: FrameTable): TimePath {
  const stretches: Stretch[] = [];
  let time = 0;
  shoves.forEach(({ at, strength, rise, hold, fall }, i) => {
    const next = shoves[i + 1];
    const till = next ? Math.max(at, next.at - next.rise) : Infinity;
    const top = Math.max(1, (amount / 100) * Math.min(1.5, strength));
    const up = Math.min(rise, at - time);
    const pace = (share: number) => 1 + (top - 1) * share;
    if (at - up > time) stretches.push({ from: 1, to: 1, time: at - up - time });
    if (up > 0) stretches.push({ from: pace(rise > 0 ? 1 - up / rise : 0), to: top, time: up });
    const held = Math.min(hold, till - at);
    stretches.push({ from: top, to: top, time: held });
    const fell = Math.min(fall, till - at - held);
    stretches.push({ from: top, to: pace(1 - fell / fall), time: fell });
    time = at + held + fell;
  });
  stretches.push({ from: 1, to: 1, old: pathLength(path) });
  return warpPath(path, knotsOf(stretches.map((s, part) => ({ ...s, part }))), table);
}

/** Out and back at each accent, between stretches that stay as they are. Never off the clip. */
function comeBack(path: TimePath, shoves: readonly Shove[], amount: number, clipEndS: number): TimePath {
  const { rate } = path;
  const end = pathLength(path);
  const parts: TimePath[] = [];
  let at = 0;
  for (const [i, shove] of shoves.entries()) {
    // A shape that rises is out when its accent sounds; a sudden one sets out then.
    const wanted = Math.max(OUT_FRAMES, Math.round(shove.rise));
    const from = Math.max(at, Math.round(shove.at) - (shove.rise > 0 ? wanted : 0));
    const hold = Math.round(shove.hold);
    const next = shoves[i + 1];
    const before = next ? Math.round(next.at - next.rise) : Infinity;
    const back = Math.min(end, from + wanted + hold + Math.round(shove.fall), before);
    if (back - from < 2) continue;
    parts.push(slicePath(path, at, from));
    const out = Math.min(wanted, back - from - 1);
    const held = Math.max(0, Math.min(hold, back - from - out - 1));
    const start = instantAt(path, from);
    const reach = ((amount / 100) * Math.min(1.5, shove.strength) * OUT_FRAMES) / toNumber(rate);
    const top = Math.min(clipEndS, Math.max(0, instantAt(path, from + out) + reach));
    const segments: Segment[] = [
      evenSegment(out, start, top, rate),
      ...(held > 0 ? [holdSegment(held, top)] : []),
      evenSegment(back - from - out - held, top, instantAt(path, back), rate),
    ];
    parts.push({ rate, segments });
    at = back;
  }
  parts.push(slicePath(path, at, end));
  return joinPaths(rate, parts);
}
