import { AccentSchema } from '@skipback/core/beats/grid';
import { frame } from '@skipback/core/time/units';
import { RenderSettingsSchema } from '@skipback/media/render/messages';
import { z } from 'zod';
import { useBeatsView } from './beats-view';
import { setOpen, useOpen } from './open';
import { setPlaying, usePlaying } from './playing';
import { fileWishesOf, setFileWishes, useWishes } from './rendering';
import { select, useSelection } from './selection';
import { useViews } from './views';

const keyOf = (projectId: string) => `skip-back-bench-${projectId}`;

const id = z.string().max(200).nullable();
const FrameSchema = z.int().min(0).transform(frame);
const ViewSchema = z.object({ from: z.number(), to: z.number() });
const BeatsSchema = z.object({ from: z.int().min(0), to: z.int().min(1) });

/** What of the bench is kept with a project, beside what the project is: where one was in it. */
const BenchSchema = z.object({
  playing: z.object({
    position: FrameSchema,
    loops: z.boolean(),
    pace: z.number().min(0.1).max(4),
    muted: z.boolean(),
    nearFrames: z.int().min(0).nullable(),
    beats: BeatsSchema.nullable(),
  }),
  selection: z.object({
    pieceId: id,
    segment: z.int().min(0).nullable(),
    stepId: id,
    lookId: id,
    drivenKey: id,
    selectedLast: z.enum(['move', 'look']),
    clipId: id,
  }),
  open: z.object({
    mode: z.enum(['threads', 'curve', 'speed', 'grid']),
    follows: z.boolean(),
    offered: z.enum(['moves', 'looks', 'recipes']),
    offerOpen: z.boolean().nullable().default(null),
    reading: z.boolean().default(false),
    column: z.boolean().default(true),
    split: z.number().min(0).max(1).nullable().default(null),
    shut: id.default(null),
    inside: z.object({ card: z.string(), what: z.string() }).nullable().default(null),
    onWhole: z.boolean(),
    safeAreas: z.boolean(),
    showStats: z.boolean(),
  }),
  views: z.object({
    source: z.object({ clipId: z.string(), view: ViewSchema }).nullable(),
    result: ViewSchema.nullable(),
  }),
  beats: z.object({
    view: ViewSchema.nullable(),
    atS: z.number().min(0),
    clicks: z.boolean(),
    chosen: z.int().min(0).nullable(),
    accent: AccentSchema.pick({ at: true, band: true }).nullable().default(null),
    bars: z.enum(['0', '1', '2', '4']),
    loop: ViewSchema.nullable(),
  }),
  file: z.object({ settings: RenderSettingsSchema, withSound: z.boolean() }),
});
type Bench = z.infer<typeof BenchSchema>;

const storage = (): Storage | undefined => {
  try {
    return localStorage;
  } catch {
    return undefined;
  }
};

/** The bench as it is now; what is not part of the schema falls away when it is read. */
const benchNow = (projectId: string): Bench => ({
  playing: usePlaying.getState(),
  selection: useSelection.getState(),
  open: useOpen.getState(),
  views: useViews.getState(),
  beats: useBeatsView.getState(),
  file: fileWishesOf(projectId),
});

/** Puts the bench as it was when the project was left; false where nothing is kept of it. */
export function restoreBench(projectId: string): boolean {
  let kept: unknown;
  try {
    kept = JSON.parse(storage()?.getItem(keyOf(projectId)) ?? 'null');
  } catch {
    return false;
  }
  const read = BenchSchema.safeParse(kept);
  if (!read.success) return false;
  const { playing, selection, open, views, beats, file } = read.data;
  setPlaying(playing);
  select(selection);
  setOpen(open);
  useViews.setState(views);
  useBeatsView.setState(beats);
  setFileWishes(projectId, file);
  return true;
}

/** How soon what changed is kept, milliseconds: not while it plays at every frame. */
const SOON_MS = 400;

/** Keeps the bench of the open project as it changes. Gives how to stop, which keeps it a last time. */
export function keepBench(projectId: string): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const write = () => {
    clearTimeout(timer);
    timer = undefined;
    try {
      // Only what the schema has is kept, without what workers and pointers said.
      storage()?.setItem(keyOf(projectId), JSON.stringify(BenchSchema.parse(benchNow(projectId))));
    } catch {
      // No room: it begins as at first the next time.
    }
  };
  // Where it stops is kept, not every frame on the way.
  const soon = () => {
    if (usePlaying.getState().step === 0) timer ??= setTimeout(write, SOON_MS);
  };
  const stops = [usePlaying, useSelection, useOpen, useViews, useBeatsView, useWishes].map((store) =>
    store.subscribe(soon),
  );
  window.addEventListener('pagehide', write);
  return () => {
    stops.forEach((stop) => stop());
    window.removeEventListener('pagehide', write);
    write();
  };
}

/** Forgets the benches of projects that are no more. */
export function tidyBenches(projectIds: ReadonlySet<string>): void {
  const kept = storage();
  if (!kept) return;
  for (const key of Object.keys(kept))
    if (key.startsWith(keyOf('')) && !projectIds.has(key.slice(keyOf('').length))) kept.removeItem(key);
}
