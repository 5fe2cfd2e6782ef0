import { z } from 'zod';
import { type Rational, toNumber } from '../time/rational';
import { type CutEvent, type CutListFile, type ReadEvent, rampLimit } from './events';

const time = (value: number, rate: number) => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate });
const range = (start: number, duration: number, rate: number) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start, rate),
  duration: time(duration, rate),
});

/** A dissolve: how much of the clip before, and of the one after, it covers. */
const transition = (before: number, after: number, rate: number) => ({
  OTIO_SCHEMA: 'Transition.1',
  metadata: {},
  name: 'dissolve',
  transition_type: 'SMPTE_Dissolve',
  in_offset: time(before, rate),
  out_offset: time(after, rate),
});

function effectsOf(e: CutEvent) {
  const effect = (schema: string, scalar: number) => ({
    OTIO_SCHEMA: schema,
    metadata: {},
    name: '',
    effect_name: schema.split('.')[0],
    time_scalar: scalar,
  });
  if (e.kind === 'hold') return [effect('FreezeFrame.1', 0)];
  return Math.abs(e.speed - 1) > 1e-9 ? [effect('LinearTimeWarp.1', e.speed)] : [];
}

/**
 * An OpenTimelineIO timeline: one clip a segment. Its source range begins where the segment begins to read
 * and lasts as long as it plays; speed and direction are a LinearTimeWarp, holds a FreezeFrame. The exact
 * ends and speeds stand in each clip's metadata under `skip_back`.
 */
export function writeOtio(events: readonly CutEvent[], title: string, rate: Rational): CutListFile {
  const hz = toNumber(rate);
  const clips = events.map((e, i) => ({
    OTIO_SCHEMA: 'Clip.2',
    metadata: { skip_back: { from_s: e.fromS, to_s: e.toS, speed_in: e.speedIn, speed_out: e.speedOut } },
    name: e.clipName,
    source_range: range(e.fromS * hz, e.recordOut - e.recordIn, hz),
    effects: effectsOf(e),
    markers:
      e.kind === 'ramp'
        ? [
            {
              OTIO_SCHEMA: 'Marker.2',
              metadata: {},
              name: `ramp ${Math.round(e.speedIn * 100)} to ${Math.round(e.speedOut * 100)} %`,
              color: 'YELLOW',
              marked_range: range(e.fromS * hz, 0, hz),
              comment: '',
            },
          ]
        : [],
    enabled: true,
    media_references: {
      DEFAULT_MEDIA: {
        OTIO_SCHEMA: 'ExternalReference.1',
        metadata: {},
        name: '',
        available_range: null,
        available_image_bounds: null,
        target_url: e.clipName,
      },
    },
    active_media_reference_key: 'DEFAULT_MEDIA',
    ...(i === 0 && { color: null }),
  }));
  const children = clips.flatMap((clip, i) => {
    const dissolve = events[i]!.dissolve;
    return dissolve ? [transition(dissolve.before, dissolve.after, hz), clip] : [clip];
  });
  const group = { metadata: {}, source_range: null, effects: [], markers: [], enabled: true };
  const timeline = {
    OTIO_SCHEMA: 'Timeline.1',
    metadata: {},
    name: title,
    global_start_time: null,
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      ...group,
      name: 'tracks',
      children: [{ OTIO_SCHEMA: 'Track.1', ...group, name: 'Skip Back', kind: 'Video', children }],
    },
  };
  return { text: `${JSON.stringify(timeline, null, 2)}\n`, limits: rampLimit(events) };
}

const Time = z.object({ value: z.number(), rate: z.number().positive() });
const Item = z.object({
  OTIO_SCHEMA: z.string(),
  name: z.string().default(''),
  source_range: z.object({ start_time: Time, duration: Time }).nullish(),
  in_offset: Time.optional(),
  out_offset: Time.optional(),
  effects: z.array(z.object({ OTIO_SCHEMA: z.string(), time_scalar: z.number().optional() })).default([]),
});
const Timeline = z.object({
  OTIO_SCHEMA: z.string().startsWith('Timeline.'),
  tracks: z.object({
    children: z.array(z.object({ kind: z.string().default('Video'), children: z.array(Item) })),
  }),
});

/** The clips of a timeline's first picture track, in order; or the sentence that says what is wrong. */
export function readOtio(text: string): { ok: true; events: ReadEvent[] } | { ok: false; sentence: string } {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return { ok: false, sentence: 'This timeline is not readable: the file is damaged.' };
  }
  const parsed = Timeline.safeParse(data);
  const track = parsed.data?.tracks.children.find((t) => t.kind === 'Video');
  if (!track) return { ok: false, sentence: 'There is no timeline with a picture track in this file.' };
  let dissolve = 0;
  const events = track.children.flatMap((item): ReadEvent[] => {
    if (item.OTIO_SCHEMA.startsWith('Transition.'))
      dissolve = Math.round((item.in_offset?.value ?? 0) + (item.out_offset?.value ?? 0));
    if (!item.OTIO_SCHEMA.startsWith('Clip.') || !item.source_range) return [];
    const { start_time: start, duration } = item.source_range;
    const speed = item.effects.find((e) => e.time_scalar !== undefined)?.time_scalar ?? 1;
    const from = start.value / start.rate;
    const to = from + (duration.value / duration.rate) * speed;
    const over = dissolve;
    dissolve = 0;
    return [
      {
        clipName: item.name,
        inS: Math.min(from, to),
        outS: Math.max(from, to),
        frames: Math.round(duration.value),
        speed,
        ...(over > 0 && { dissolve: over }),
      },
    ];
  });
  return events.length > 0
    ? { ok: true, events }
    : { ok: false, sentence: 'There is no clip on this timeline.' };
}
