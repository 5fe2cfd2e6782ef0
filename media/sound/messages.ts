import { z } from 'zod';
import { bulk, count } from '../heard';
import type { LaidSound, SpeedSound } from '@skipback/core/looks/heard';
import type { BandPeaks } from '@skipback/core/beats/band-peaks';
import type { Analysis } from '@skipback/core/beats/analyse';
import type { SongPlace } from '@skipback/core/beats/music';
import type { SoundRange } from './decode-sound';
import type { TimePath } from '@skipback/core/path/path';
import type { Following } from '@skipback/core/sound/follow';
import type { MadeLevels, OwnVoice, PlacedSound } from '@skipback/core/sound/mix';
import type { Stereo } from '@skipback/core/sound/stereo';
import { type Rational, rational } from '@skipback/core/time/rational';

/** What the sound of a whole result is made of; sounds are named by the ids they were loaded under. */
export interface MixRequest {
  readonly totalFrames: number;
  readonly rate: Rational;
  readonly song: { readonly soundId: string; readonly place: SongPlace; readonly gainDb: number } | undefined;
  readonly pieces: readonly {
    readonly startFrame: number;
    readonly path: TimePath;
    readonly soundId: string | undefined;
    readonly clipPace: number;
  }[];
  readonly clipGainDb: number;
  /** Clips keep their own pitch at every speed. */
  readonly keepsPitch: boolean;
  readonly holds: Following['holds'];
  readonly made: MadeLevels;
  readonly placed: readonly PlacedSound<Omit<OwnVoice, 'sound'> & { readonly soundId: string }>[];
  readonly laid: readonly { readonly laid: LaidSound; readonly soundId: string }[];
  readonly along: readonly SpeedSound[];
}

/** A song alone, at its own level. */
export const songAlone = (soundId: string, lengthS: number): MixRequest => ({
  totalFrames: Math.ceil(lengthS * 100),
  rate: rational(100),
  song: { soundId, place: { startFrame: 0, fromS: 0 }, gainDb: 0 },
  pieces: [],
  clipGainDb: 0,
  keepsPitch: false,
  holds: 'silent',
  made: {},
  placed: [],
  laid: [],
  along: [],
});

/** What is known of a sound once it is loaded. */
export interface SoundFacts {
  readonly lengthS: number;
  /** Greatest samples of each `PEAK_SAMPLES`, for drawing. */
  readonly peaks: Float32Array;
  /** The same in three bands. */
  readonly bands: BandPeaks;
}

/** Samples that one value of the drawn peaks stands for: two milliseconds. */
export const PEAK_SAMPLES = 96;

export type SoundRequest =
  | {
      readonly id: number;
      readonly kind: 'load';
      readonly soundId: string;
      readonly file: Blob;
      readonly name: string;
      /** Only this stretch of it. */
      readonly range?: SoundRange | undefined;
    }
  | { readonly id: number; readonly kind: 'analyse'; readonly soundId: string }
  | { readonly id: number; readonly kind: 'mix'; readonly mix: MixRequest }
  | { readonly id: number; readonly kind: 'copy'; readonly soundId: string };

export type SoundReply =
  | { readonly id: number; readonly kind: 'progress'; readonly share: number }
  | { readonly id: number; readonly kind: 'loaded'; readonly facts: SoundFacts }
  | { readonly id: number; readonly kind: 'analysed'; readonly analysis: Analysis }
  | { readonly id: number; readonly kind: 'mixed'; readonly sound: Stereo }
  | { readonly id: number; readonly kind: 'copied'; readonly sound: Stereo }
  | { readonly id: number; readonly kind: 'failed'; readonly sentence: string };

const asked = { id: count, soundId: z.string() };

export const SoundRequestSchema: z.ZodType<SoundRequest> = z.discriminatedUnion('kind', [
  z.object({
    ...asked,
    kind: z.literal('load'),
    file: bulk<Blob>(),
    name: z.string(),
    range: bulk<SoundRange>().optional(),
  }),
  z.object({ ...asked, kind: z.literal('analyse') }),
  z.object({ id: count, kind: z.literal('mix'), mix: bulk<MixRequest>() }),
  z.object({ ...asked, kind: z.literal('copy') }),
]);

export const SoundReplySchema: z.ZodType<SoundReply> = z.discriminatedUnion('kind', [
  z.object({ id: count, kind: z.literal('progress'), share: z.number() }),
  z.object({ id: count, kind: z.literal('loaded'), facts: bulk<SoundFacts>() }),
  z.object({ id: count, kind: z.literal('analysed'), analysis: bulk<Analysis>() }),
  z.object({ id: count, kind: z.enum(['mixed', 'copied']), sound: bulk<Stereo>() }),
  z.object({ id: count, kind: z.literal('failed'), sentence: z.string() }),
]);
