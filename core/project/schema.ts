import { z } from 'zod';
import { DEFAULT_ENVELOPES, EnvelopesSchema } from '../beats/envelope';
import { AccentSchema, BeatGridSchema } from '../beats/grid';
import { BetweenSchema } from '../gather/gather';
import { ValueSchema } from '../looks/driver';
import { LookSchema, MOST_LOOKS } from '../looks/look';
import { ConditionSchema } from '../looks/scope';
import { ChainStepSchema } from '../moves/registry';
import { MADE_KINDS, type MadeKind, MadeKindSchema } from '../sound/made/kinds';
import { PlaceSchema } from '../places/place';
import { SteadySchema } from '../steady/steady';
import { RationalSchema } from '../time/rational';
import { MOST_TRACKS, TrackSchema } from '../tracks/track';

/** The version this program writes. A file with a greater one is refused with a sentence. */
export const PROJECT_VERSION = 1;

const name = z.string().trim().min(1).max(200);
const id = z.string().min(1).max(100);
const gainDb = z.number().min(-60).max(12);

/** A named instant of a clip, at the start of one of its frames. */
export const MarkSchema = z.object({ id, name, frame: z.int().min(0) });
export type Mark = z.infer<typeof MarkSchema>;

/** An imported video as the project knows it; its frames are in the media store under `mediaId`. */
export const ClipSchema = z.object({
  id,
  mediaId: id,
  name,
  marks: z.array(MarkSchema),
  /** Read at this rate instead of its own; null for its own. */
  readAt: RationalSchema.nullable(),
  /** How a picture of another shape stands in the project's: whole, filling it, or pixel for pixel in its middle. */
  framing: z.enum(['fit', 'fill', 'centre']).default('fit'),
  /** What is followed through it. */
  tracks: z.array(TrackSchema).max(MOST_TRACKS).default([]),
  /** Frames that look as if another shot began with them, and are of the same one. */
  notCuts: z.array(z.int().min(1)).max(10_000).optional(),
});
export type Framing = z.infer<typeof ClipSchema>['framing'];
export type Clip = z.infer<typeof ClipSchema>;

/** Frames [in, out) of the clip. */
export const SpanSchema = z
  .object({ in: z.int().min(0), out: z.int().min(1) })
  .refine((s) => s.out > s.in, 'a span ends after it begins');
export type Span = z.infer<typeof SpanSchema>;

/** A song under the result, as the project knows it; its sound is in the media store under `mediaId`. */
export const SongSchema = z.object({
  mediaId: id,
  name,
  /** Length of the whole file, seconds. */
  lengthS: z.number().positive(),
  /** Result frame at which the song's instant `fromS` sounds; negative when the result begins inside it. */
  startFrame: z.int().min(-10_000_000).max(10_000_000),
  /** Where the song begins to be used, seconds. */
  fromS: z.number().min(0),
  gainDb,
  grid: BeatGridSchema,
  accents: z.array(AccentSchema).max(100_000),
  /** Found accents that a person took away: they stay away when accents are found again. */
  accentsGone: z
    .array(AccentSchema.pick({ at: true, band: true }))
    .max(100_000)
    .default([]),
  /** How likely the beats were found as people tap them, 0 to 1; null where that is not known. */
  likely: z.number().min(0).max(1).nullable().default(null),
  /** The same of where its bars begin. */
  barsLikely: z.number().min(0).max(1).nullable().default(null),
  /** The next likely way to hear them; null where there is none. */
  second: BeatGridSchema.nullable().default(null),
  envelopes: EnvelopesSchema.default(DEFAULT_ENVELOPES),
});
export type Song = z.infer<typeof SongSchema>;

/** How the clips sound: along the time path, or not at all. */
export const ClipSoundSchema = z.object({
  on: z.boolean(),
  gainDb,
  /** Whether the pitch follows the speed, or stays the clip's own. */
  pitch: z.enum(['follows', 'keeps']).default('follows'),
  /** What is heard while the picture holds. */
  holds: z.enum(['silent', 'grain']).default('silent'),
});
export type ClipSound = z.infer<typeof ClipSoundSchema>;

export const DEFAULT_CLIP_SOUND: ClipSound = { on: false, gainDb: 0, pitch: 'follows', holds: 'silent' };

const MadeSettingSchema = z.object({ on: z.boolean(), gainDb });
export type MadeSetting = z.infer<typeof MadeSettingSchema>;

/** Sounds that the path makes by itself, each kind on or off and with its level. */
export const MadeSchema = z.object(
  Object.fromEntries(
    MADE_KINDS.map((kind) => [kind, MadeSettingSchema.default({ on: false, gainDb: -8 })]),
  ) as Record<MadeKind, z.ZodDefault<typeof MadeSettingSchema>>,
);
export type Made = z.infer<typeof MadeSchema>;

export const DEFAULT_MADE: Made = Object.fromEntries(
  MADE_KINDS.map((kind) => [kind, { on: false, gainDb: -8 }]),
) as Made;

/** A sound file of the user's. */
export const OwnSoundSchema = z.object({
  mediaId: id,
  name,
  lengthS: z.number().min(0).max(86_400),
  /** Its first second that is heard, counted in the way it plays. */
  fromS: z.number().min(0).max(86_400).default(0),
  /** Whether it plays from its end. */
  backward: z.boolean().default(false),
});
export type OwnSound = z.infer<typeof OwnSoundSchema>;

const placing = {
  id,
  on: z.boolean(),
  /** Whether it stays with the song when that is slid, or with the result. */
  with: z.enum(['song', 'result']),
  /** Frame at which it begins, counted from the song's first frame or the result's. */
  at: z.int().min(-10_000_000).max(10_000_000),
  frames: z.int().min(1).max(100_000),
  gainDb,
};

/** A sound placed by hand: made here, or a file of the user's. */
export const PlacedSchema = z.discriminatedUnion('kind', [
  z.object({ ...placing, kind: MadeKindSchema }),
  z.object({ ...placing, kind: z.literal('own'), own: OwnSoundSchema }),
]);
export type Placed = z.infer<typeof PlacedSchema>;
/** What is heard of a placed sound, without its place. */
export type PlacedSource = { readonly kind: MadeKind } | { readonly kind: 'own'; readonly own: OwnSound };

/** Frames a dissolve may last. */
export const LONGEST_DISSOLVE = 1000;
const DissolveSchema = z.union([
  z.number().min(0).max(LONGEST_DISSOLVE),
  z.object({ beats: z.number().min(0).max(LONGEST_DISSOLVE) }),
  /** Until a place of the piece it leads to; it begins as long before the join. */
  z.object({ until: PlaceSchema }),
]);

/** One span with its chain of moves. */
export const PieceSchema = z.object({
  id,
  clipId: id,
  span: SpanSchema,
  chain: z.array(ChainStepSchema),
  /** How its pictures are made at instants between source frames. */
  between: BetweenSchema.default('repeat'),
  /** Degrees over which each picture is gathered: 360 is from one to the next; 0 gathers nothing. */
  shutter: ValueSchema.default(0),
  /** Frames of the clip [from, to): what would be flow between each of them and the next is mixed. */
  mixed: z
    .array(z.object({ from: z.int().min(0), to: z.int().min(1) }).refine((m) => m.to > m.from))
    .max(10_000)
    .default([]),
  looks: z.array(LookSchema).max(MOST_LOOKS).default([]),
  /** By what its picture is held; null where the clip's framing alone places it. */
  steady: SteadySchema.nullable().default(null),
  /** How long the piece before runs into this one at their join: frames, or beats of the song; 0 is a cut. */
  dissolve: DissolveSchema.default(0),
});
export type Piece = z.infer<typeof PieceSchema>;

type Optional = 'between' | 'shutter' | 'mixed' | 'looks' | 'steady' | 'dissolve';

/** A piece; what is not given of how it looks is as the clip has it. */
export const pieceOf = (given: Omit<Piece, Optional> & Partial<Pick<Piece, Optional>>): Piece => ({
  between: 'repeat',
  shutter: 0,
  mixed: [],
  looks: [],
  steady: null,
  dissolve: 0,
  ...given,
});

/** One piece of work, whole: everything but the media itself. */
export const ProjectSchema = z
  .object({
    format: z.literal('skip-back-project'),
    version: z.literal(PROJECT_VERSION),
    id,
    name,
    /** Milliseconds since 1970. */
    createdAt: z.number(),
    rate: RationalSchema,
    /** Picture size of the result, even numbers. */
    size: z.object({
      width: z.int().min(16).max(8192).multipleOf(2),
      height: z.int().min(16).max(8192).multipleOf(2),
    }),
    clips: z.array(ClipSchema),
    pieces: z.array(PieceSchema),
    song: SongSchema.nullable().default(null),
    clipSound: ClipSoundSchema.default(DEFAULT_CLIP_SOUND),
    made: MadeSchema.default(DEFAULT_MADE),
    placed: z.array(PlacedSchema).max(1000).default([]),
    /** Of the whole result, after those of its pieces. */
    looks: z.array(LookSchema).max(MOST_LOOKS).default([]),
    /** What new pieces begin with. */
    between: BetweenSchema.default('repeat'),
    /** Set when the warning of fast flashing was dismissed. */
    flashingIsMeant: z.boolean().default(false),
  })
  .superRefine((project, context) => {
    const clips = new Set(project.clips.map((c) => c.id));
    project.pieces.forEach((piece, i) => {
      if (!clips.has(piece.clipId))
        context.addIssue({
          code: 'custom',
          path: ['pieces', i, 'clipId'],
          message: 'names a clip that is not there',
        });
    });
  });
export type Project = z.infer<typeof ProjectSchema>;

/** Whooshes and scratches once had one switch and level, kept with the clips' sound. */
const OlderSoundSchema = z.object({
  made: z.undefined().optional(),
  clipSound: z.object({ made: z.boolean(), madeDb: gainDb.default(-8) }),
});

/** What a project of before, or of a version that knew less, is in today's words. */
export function inTodaysWords(data: unknown): unknown {
  return withConditionsKnown(withMadeSounds(data));
}

/** Conditions that the version which wrote it did not know, and this one does. */
function withConditionsKnown(data: unknown): unknown {
  if (Array.isArray(data))
    return data.length > 0 && typeof data[0] === 'object' ? data.map(withConditionsKnown) : data;
  if (typeof data !== 'object' || data === null) return data;
  const { kind, was } = data as { kind?: unknown; was?: unknown };
  if (kind === 'unknown' && ConditionSchema.safeParse(was).success) return was;
  return Object.fromEntries(Object.entries(data).map(([key, value]) => [key, withConditionsKnown(value)]));
}

function withMadeSounds(data: unknown): unknown {
  const older = OlderSoundSchema.safeParse(data);
  if (!older.success || typeof data !== 'object') return data;
  const { made, madeDb } = older.data.clipSound;
  const setting = { on: made, gainDb: madeDb };
  return { ...data, made: { ...DEFAULT_MADE, whoosh: setting, scratch: setting } };
}
