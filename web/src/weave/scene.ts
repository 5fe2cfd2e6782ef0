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
  /** Height of one look's lane. */
  readonly lookLane: number;
  /** Which lane shows a driver, and how much higher it is than the others; -1 where none does. */
  readonly driverLane: number;
  readonly driverExtra: number;
  readonly songTop: number;
  readonly soundsTop: number;
}

/** Heights of the lanes under the result: the song's, and that of made sounds. */
const SONG_LANE = 48;
const SOUNDS_LANE = 24;
const LOW_SONG_LANE = 36;
const LOW_SOUNDS_LANE = 16;
/** The same of a look, at most, and of what stands above the lanes. */
const LOOK_LANE = 13;
/** What a lane that shows a driver has more, and the least that is worth it. */
const DRIVER_EXTRA = 27;
const LEAST_EXTRA = 14;
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
}

/** The parts of a weave of a size, with room for the lanes under the result's ruler. */
export function layoutFor(width: number, height: number, lanes?: Lanes): WeaveLayout {
  const rulerBottom = 24;
  const sourceBottom = rulerBottom + Math.min(96, Math.max(48, Math.round(height * 0.18)));
  const looks = lanes?.looks ?? 0;
  // Where looks need room the others take less, and their lanes are as high as leaves something to the threads.
  const [song, sounds] = looks > 0 ? [LOW_SONG_LANE, LOW_SOUNDS_LANE] : [SONG_LANE, SOUNDS_LANE];
  const soundsTop = height - (lanes?.sounds ? sounds : 0);
  const songTop = soundsTop - (lanes?.song ? song : 0);
  const room = songTop - RULER - STRIP - LEAST_THREADS - sourceBottom;
  const driven = (lanes?.driver ?? -1) >= 0;
  const lookLaneIn = (height: number) =>
    looks > 0 ? Math.max(3, Math.min(LOOK_LANE, Math.floor(height / looks))) : 0;
  // The driver that is looked at takes its room from the other lanes.
  const low = lookLaneIn(room - DRIVER_EXTRA);
  const spare = Math.min(DRIVER_EXTRA, room - looks * low);
  const driverExtra = driven && spare >= LEAST_EXTRA ? spare : 0;
  const lookLane = driverExtra > 0 ? low : lookLaneIn(room);
  const looksTop = songTop - looks * lookLane - driverExtra;
  const resultBottom = looksTop - RULER;
  return {
    width,
    height,
    rulerBottom,
    sourceBottom,
    resultTop: resultBottom - STRIP,
    resultBottom,
    looksTop,
    lookLane,
    driverLane: driverExtra > 0 ? lanes!.driver : -1,
    driverExtra,
    songTop,
    soundsTop,
  };
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
  /** Result frames where motion was needed and not trusted, and in which part of the picture. */
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
