import type { ThumbnailSheet } from '@skipback/media/import/messages';
import type { Track } from '@skipback/core/tracks/track';
import { colors } from '../theme';
import type { Ribbon } from './threads/ribbons';
import type { MotionReady, Spans } from '@skipback/media/preview/messages';
import type { Scale } from './scales';

/** Heights of the weave's parts, CSS pixels from its top. */
export interface WeaveLayout {
  readonly width: number;
  readonly height: number;
  readonly rulerBottom: number;
  readonly sourceBottom: number;
  readonly resultTop: number;
  readonly resultBottom: number;
  /** The lanes of looks end where the song's begins, which ends where that of made sounds begins. */
  readonly looksTop: number;
  /** Which lane shows a driver, and is higher for that; -1 where none does. */
  readonly driverLane: number;
  /** How far the lanes of looks are scrolled, and can be: there may be more of them than are seen. */
  readonly lanesScroll: number;
  readonly mostScroll: number;
  readonly songTop: number;
  readonly soundsTop: number;
}

/** Heights of the lanes under the result: the song's, and that of made sounds. */
const SONG_LANE = 48;
const SOUNDS_LANE = 24;
const LOW_SONG_LANE = 36;
const LOW_SOUNDS_LANE = 16;
/** The same of a look, what a lane that shows a driver has more, and of what stands above the lanes. */
export const LOOK_LANE = 13;
export const DRIVER_EXTRA = 27;
const RULER = 22;
const STRIP = 32;
const LEAST_THREADS = 34;

/** The lanes that a weave has under the result's ruler. */
export interface Lanes {
  readonly song: boolean;
  readonly sounds: boolean;
  /** How many looks there are. */
  readonly looks: number;
  /** Which of them shows a driver; -1 where none does. */
  readonly driver: number;
  /** Which of them is selected; -1 where none is. */
  readonly selected: number;
}

/**
 * The parts of a weave of a size, with room for the lanes under the result's ruler. Lanes of looks scroll where there
 * are more than fit: as far as `scroll` says, or so that the selected one is seen.
 */
export function layoutFor(width: number, height: number, lanes?: Lanes, scroll?: number): WeaveLayout {
  const rulerBottom = 24;
  const sourceBottom = rulerBottom + Math.min(96, Math.max(48, Math.round(height * 0.18)));
  const looks = lanes?.looks ?? 0;
  // Where looks need room the others take less.
  const [song, sounds] = looks > 0 ? [LOW_SONG_LANE, LOW_SOUNDS_LANE] : [SONG_LANE, SOUNDS_LANE];
  const soundsTop = height - (lanes?.sounds ? sounds : 0);
  const songTop = soundsTop - (lanes?.song ? song : 0);
  const room = songTop - RULER - STRIP - LEAST_THREADS - sourceBottom;
  const driverLane = lanes?.driver ?? -1;
  const all = looks * LOOK_LANE + (driverLane >= 0 ? DRIVER_EXTRA : 0);
  const shown = Math.min(all, Math.max(LOOK_LANE, room));
  const mostScroll = all - shown;
  const selected = lanes?.selected ?? -1;
  // With a lane of what comes after it, where there is one.
  const above =
    Math.max(0, selected) * LOOK_LANE + (driverLane >= 0 && driverLane < selected ? DRIVER_EXTRA : 0);
  const seen = above + 2 * LOOK_LANE + (driverLane === selected ? DRIVER_EXTRA : 0);
  const lanesScroll = Math.min(mostScroll, Math.max(0, scroll ?? Math.min(above, seen - shown)));
  const looksTop = songTop - shown;
  const resultBottom = looksTop - RULER;
  return {
    width,
    height,
    rulerBottom,
    sourceBottom,
    resultTop: resultBottom - STRIP,
    resultBottom,
    looksTop,
    driverLane,
    lanesScroll,
    mostScroll,
    songTop,
    soundsTop,
  };
}

/** Where the lane of look `i` lies, pixels from the weave's top. */
export function laneBox(
  { looksTop, driverLane, lanesScroll }: WeaveLayout,
  i: number,
): { top: number; height: number } {
  const extra = driverLane >= 0 && i > driverLane ? DRIVER_EXTRA : 0;
  return {
    top: looksTop - lanesScroll + i * LOOK_LANE + extra,
    height: LOOK_LANE + (i === driverLane ? DRIVER_EXTRA : 0),
  };
}

/** Whether a lane is seen so far that it can be taken hold of. */
export function laneInSight(layout: WeaveLayout, i: number): boolean {
  const { top, height } = laneBox(layout, i);
  return top >= layout.looksTop - 2 && top + Math.min(height, LOOK_LANE) <= layout.songTop + 2;
}

export type Thumbnails = ThumbnailSheet & { readonly bitmap: ImageBitmap };

/** Everything the weave's pictures are drawn from. */
export interface WeaveScene {
  readonly layout: WeaveLayout;
  readonly sourceX: Scale;
  readonly resultX: Scale;
  readonly ribbons: readonly Ribbon[];
  /** Only ribbons of the clip on the source strip have a place there. */
  readonly clipId: string | undefined;
  readonly clipFrames: number;
  /** What the first frame is called. */
  readonly firstFrame: number;
  readonly totalFrames: number;
  readonly span: { readonly in: number; readonly out: number } | undefined;
  readonly thumbnails: Thumbnails | undefined;
  /** The selected piece, where there are several. */
  readonly pieceId: string | null;
  readonly selected: Ribbon | undefined;
  readonly hovered: Ribbon | undefined;
  readonly rateHz: number;
  /** Result frames at which a skip is, with the source frames on either side. */
  readonly skips: readonly {
    readonly at: number;
    readonly clipId: string;
    readonly before: number;
    readonly after: number;
  }[];
  /** Result frames at which a turn rests on its frame. */
  readonly doubled: readonly number[];
  /** How often each frame of the clip is shown in the result. */
  readonly uses: Uint32Array;
  /** Pixels along the source ruler that flags cover, left and right ends. */
  readonly covered: readonly (readonly [number, number])[];
  /** Where pieces run into each other: result frames [first, end). */
  /** What is followed through the clip, where that is looked at or holds the piece. */
  readonly track: Track | undefined;
  readonly dissolves: readonly { readonly first: number; readonly end: number }[];
  /** Result frames where motion was needed and not trusted, and of which part of what moves. */
  readonly lost: MotionReady['lost'];
  /** Result frames whose looks are drawn already; null where there are none to draw. */
  readonly ready: Spans | null;
  /** Result frames that playing keeps to. */
  readonly range: { readonly first: number; readonly end: number } | null;
}

const COLOR = {
  forward: colors.forward,
  ramp: colors.forward,
  backward: colors.backward,
  hold: colors.hold,
} as const;

/** The colour of a segment's direction; its form says it first. */
export const colorOf = (r: Pick<Ribbon, 'kind' | 'speed'>): string =>
  r.kind === 'ramp' && r.speed < 0 ? colors.backward : COLOR[r.kind];

/** The ribbons that reach into a stretch of the result, ascending: found by halving, not by looking at all. */
export function visibleRibbons(ribbons: readonly Ribbon[], from: number, to: number): readonly Ribbon[] {
  let low = 0;
  let high = ribbons.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ribbons[middle]!.resultTo <= from) low = middle + 1;
    else high = middle;
  }
  let end = low;
  while (end < ribbons.length && ribbons[end]!.resultFrom < to) end++;
  return low === 0 && end === ribbons.length ? ribbons : ribbons.slice(low, end);
}
