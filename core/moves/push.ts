import { z } from 'zod';
import { durationOf } from '../clip/frame-table';
import { info, type Notice } from '../notice';
import { type TimePath, instantAt, joinPaths, pathFrames, slicePath } from '../path/path';
import { type Segment, evenSegment } from '../path/segment';
import { type Stretch, knotsOf, warpPath } from '../path/warp';
import { toNumber } from '../time/rational';
import type { Move } from './move';
import { withoutBeats } from './on-beats';

const schema = z.object({
  band: z.enum(['low', 'mid', 'high', 'all']),
  least: z.number().min(0).max(100),
  amount: z.number().min(1).max(3000),
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
  summary: 'Every kick shoves time forward, and lets it go on or come back.',
  schema,
  onMusic: true,
  defaults: { band: 'low', least: 40, amount: 300, fall: 8, then: 'carries' },
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
      key: 'fall',
      kind: 'frames',
      label: 'Fades over',
      help: 'Frames until it is as before.',
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
    const end = pathFrames(path);
    const strong = music.accents.filter(
      (a) =>
        (values.band === 'all' || a.band === values.band) &&
        a.strength * 100 >= values.least &&
        a.at >= 0 &&
        a.at < end,
    );
    const apart = strong.filter((a, i) => i === 0 || a.at - strong[i - 1]!.at >= 2);
    const result =
      values.then === 'carries'
        ? carryOn(path, apart, values)
        : comeBack(path, apart, values, durationOf(table));
    const notices: Notice[] = [
      info('pushes', `${apart.length} accent${apart.length === 1 ? '' : 's'} push.`),
    ];
    return { path: result, notices };
  },
};

type Hits = readonly { readonly at: number; readonly strength: number }[];

/** Pace jumps at each accent and falls back to 1. */
function carryOn(path: TimePath, hits: Hits, { amount, fall }: Values): TimePath {
  const stretches: Stretch[] = [];
  let time = 0;
  hits.forEach(({ at, strength }, i) => {
    if (at > time) stretches.push({ from: 1, to: 1, time: at - time });
    const till = Math.min(at + fall, hits[i + 1]?.at ?? Infinity);
    const top = Math.max(1, (amount / 100) * Math.min(1.5, strength));
    stretches.push({ from: top, to: top + (1 - top) * ((till - at) / fall), time: till - at });
    time = till;
  });
  stretches.push({ from: 1, to: 1, old: pathFrames(path) });
  return warpPath(path, knotsOf(stretches));
}

/** Out and back at each accent, between stretches that stay as they are. Never off the clip. */
function comeBack(path: TimePath, hits: Hits, { amount, fall }: Values, clipEndS: number): TimePath {
  const { rate } = path;
  const end = pathFrames(path);
  const parts: TimePath[] = [];
  let at = 0;
  for (const [i, hit] of hits.entries()) {
    const from = Math.max(at, Math.round(hit.at));
    const back = Math.min(end, from + OUT_FRAMES + fall, Math.round(hits[i + 1]?.at ?? Infinity));
    if (back - from < 2) continue;
    parts.push(slicePath(path, at, from));
    const out = Math.min(OUT_FRAMES, back - from - 1);
    const start = instantAt(path, from);
    const reach = ((amount / 100) * Math.min(1.5, hit.strength) * OUT_FRAMES) / toNumber(rate);
    const top = Math.min(clipEndS, Math.max(0, instantAt(path, from + out) + reach));
    const segments: Segment[] = [
      evenSegment(out, start, top, rate),
      evenSegment(back - from - out, top, instantAt(path, back), rate),
    ];
    parts.push({ rate, segments });
    at = back;
  }
  parts.push(slicePath(path, at, end));
  return joinPaths(rate, parts);
}
