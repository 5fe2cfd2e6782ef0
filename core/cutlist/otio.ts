import { type Rational, toNumber } from '../time/rational';
import { type CutEvent, type CutListFile, framesOff, offLimit, plural, rampLimit } from './events';

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

/** Where the first frame that is shown begins, frames of the project's rate: played backward a step before the instant it starts at. */
const firstShown = (e: CutEvent, hz: number): number => Math.max(0, e.fromS * hz + Math.min(0, e.speed));

/**
 * An OpenTimelineIO timeline: one clip a segment. Its source range begins at the frame it shows first
 * and lasts as long as it plays; speed and direction are a LinearTimeWarp, holds a FreezeFrame. The exact
 * ends and speeds stand in each clip's metadata under `skip_back`.
 */
export function writeOtio(events: readonly CutEvent[], title: string, rate: Rational): CutListFile {
  const hz = toNumber(rate);
  const clips = events.map((e) => ({
    OTIO_SCHEMA: 'Clip.2',
    metadata: { skip_back: { from_s: e.fromS, to_s: e.toS, speed_in: e.speedIn, speed_out: e.speedOut } },
    name: e.clipName,
    source_range: range(firstShown(e, hz), e.recordOut - e.recordIn, hz),
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
        target_url: encodeURIComponent(e.clipName),
      },
    },
    active_media_reference_key: 'DEFAULT_MEDIA',
    color: null,
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
  const between = events.filter(
    (e) => Math.abs(firstShown(e, hz) - Math.round(firstShown(e, hz))) > 1e-3,
  ).length;
  const limits = [
    ...rampLimit(events),
    ...(between > 0
      ? [
          `${plural(between, 'source time lies', 'source times lie')} between frames of the project’s rate: read exactly it is right, programs that take whole frames round it.`,
        ]
      : []),
    ...offLimit(events.filter((e) => e.kind !== 'ramp').flatMap((e) => framesOff(e, e.fromS, e.toS))),
  ];
  return { text: `${JSON.stringify(timeline, null, 2)}\n`, limits };
}
