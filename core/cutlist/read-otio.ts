import { z } from 'zod';
import { foreignJson } from '../foreign';
import { type Rational, toNumber } from '../time/rational';
import { type ReadCutList, type ReadEvent, plural } from './events';

/** Characters a timeline has at most. */
const MOST_TEXT = 64_000_000;

const Time = z.object({ value: z.number(), rate: z.number().positive() });
const Range = z.object({ start_time: Time, duration: Time });
const Media = z.object({
  available_range: Range.nullish(),
  target_url: z.string().max(4000).nullish(),
});
const Item = z.object({
  OTIO_SCHEMA: z.string(),
  name: z.string().nullish(),
  enabled: z.boolean().nullish(),
  source_range: Range.nullish(),
  in_offset: Time.nullish(),
  out_offset: Time.nullish(),
  effects: z.array(z.object({ OTIO_SCHEMA: z.string(), time_scalar: z.number().nullish() })).nullish(),
  media_reference: Media.nullish(),
  media_references: z.record(z.string(), Media.nullish()).nullish(),
  active_media_reference_key: z.string().nullish(),
});
type Item = z.infer<typeof Item>;
const Timeline = z.object({
  OTIO_SCHEMA: z.string().startsWith('Timeline.'),
  tracks: z.object({
    children: z.array(z.object({ kind: z.string().nullish(), children: z.array(Item).nullish() })),
  }),
});

const secondsOf = ({ value, rate }: z.infer<typeof Time>): number => value / rate;

/** The media a clip reads, of either version of its schema. */
function mediaOf({ media_reference, media_references, active_media_reference_key }: Item) {
  return media_references?.[active_media_reference_key ?? 'DEFAULT_MEDIA'] ?? media_reference ?? undefined;
}

/** A file's name from a URL, which may be a name alone. */
function fileOf(url: string | null | undefined): string | undefined {
  const last = url?.split(/[\\/]/).at(-1);
  if (!last) return undefined;
  try {
    return decodeURIComponent(last);
  } catch {
    return last;
  }
}

/** The clips of a timeline's first picture track, in order, in frames of the project's rate. */
export function readOtio(text: string, rate: Rational): ReadCutList {
  const foreign = foreignJson(text, 'timeline', MOST_TEXT);
  if (!foreign.ok) return foreign;
  const parsed = Timeline.safeParse(foreign.data);
  const tracks = (parsed.data?.tracks.children ?? []).filter((t) => (t.kind ?? 'Video') === 'Video');
  const track = tracks.find((t) => (t.children ?? []).length > 0) ?? tracks[0];
  if (!track) return { ok: false, sentence: 'There is no timeline with a picture track in this file.' };
  const hz = toNumber(rate);
  const left = { gaps: 0, nested: 0, off: 0 };
  let dissolve = 0;
  const events = (track.children ?? []).flatMap((item): ReadEvent[] => {
    const kind = item.OTIO_SCHEMA.split('.')[0];
    if (kind === 'Transition') {
      const [before, after] = [item.in_offset, item.out_offset].map((t) => (t ? secondsOf(t) : 0));
      dissolve = Math.round((before! + after!) * hz);
      return [];
    }
    if (kind === 'Gap') left.gaps++;
    else if (kind !== 'Clip') left.nested++;
    else if (item.enabled === false) left.off++;
    if (kind !== 'Clip' || item.enabled === false) return [];
    const over = dissolve;
    dissolve = 0;
    return [{ ...eventOf(item, hz), ...(over > 0 && { dissolve: over }) }];
  });
  if (events.length === 0) return { ok: false, sentence: 'There is no clip on this timeline.' };
  const others = tracks.length - 1;
  const said = [
    ...(others > 0
      ? [`${plural(others, 'further picture track is', 'further picture tracks are')} left out.`]
      : []),
    ...(left.gaps > 0
      ? [`${plural(left.gaps, 'gap is', 'gaps are')} closed: pieces follow each other.`]
      : []),
    ...(left.nested > 0
      ? [`${plural(left.nested, 'nested timeline is', 'nested timelines are')} left out.`]
      : []),
    ...(left.off > 0
      ? [`${plural(left.off, 'clip that is switched off is', 'clips that are switched off are')} left out.`]
      : []),
  ];
  return { ok: true, events, said };
}

function eventOf(item: Item, hz: number): ReadEvent {
  const media = mediaOf(item);
  const available = media?.available_range;
  const named = {
    clipName: item.name || fileOf(media?.target_url) || '',
    fileName: fileOf(media?.target_url),
  };
  const known = {
    clipName: named.clipName,
    ...(named.fileName !== undefined && { fileName: named.fileName }),
  };
  const warp = (item.effects ?? []).find((e) => e.time_scalar !== undefined && e.time_scalar !== null);
  const speed = warp?.time_scalar ?? 1;
  const range = item.source_range ?? available;
  if (!range) return { ...known, inS: 0, outS: Infinity, frames: undefined, speed };
  // Media that say where their own time begins are counted from there.
  const start = secondsOf(range.start_time) - (available ? secondsOf(available.start_time) : 0);
  const lasts = secondsOf(range.duration);
  // Played backward it is the first frame shown that the range begins at: its end is a step later.
  const from = speed < 0 ? start - speed / hz : start;
  const to = from + lasts * speed;
  return {
    ...known,
    inS: Math.min(from, to),
    outS: Math.max(from, to),
    frames: Math.round(lasts * hz),
    speed,
  };
}
