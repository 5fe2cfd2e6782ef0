import { z } from 'zod';
import type { RenderJob, Setting } from './messages';

const KEY = 'skip-back-settings';
/** Settings kept; the ones used longest ago go first. */
const MOST = 60;

const FoundSchema = z.array(
  z.tuple([
    z.string().max(500),
    z.union([z.object({ quantizer: z.number() }), z.object({ bitrate: z.number().positive() })]),
  ]),
);

/** The settings that were right last, by what they were for; kept in this browser. */
let found: Map<string, Setting> | undefined;

function all(): Map<string, Setting> {
  if (found) return found;
  try {
    found = new Map(FoundSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? '[]')));
  } catch {
    found = new Map();
  }
  return found;
}

/** What a file's setting hangs on: of these clips first, and of any clips of this size. */
function keysOf({ settings, width, height, rate, clips }: RenderJob): [string, string] {
  const { format, quality, scale } = settings;
  const size = `${format} ${quality} ${scale} ${width} ${height} ${rate.num}/${rate.den}`;
  const files = [...new Set(clips.map(({ file, index }) => `${file.size}:${index.times.length}`))].sort();
  return [`${size} ${files.slice(0, 12).join()}`, size];
}

/** What was right for a file like this one last, on this visit or another. */
export function settingBefore(job: RenderJob): Setting | undefined {
  const [exact, size] = keysOf(job);
  return all().get(exact) ?? all().get(size);
}

/** Keeps what was right for a file. */
export function keepSetting(job: RenderJob, setting: Setting): void {
  const kept = all();
  for (const key of keysOf(job)) {
    kept.delete(key);
    kept.set(key, setting);
  }
  for (const oldest of [...kept.keys()].slice(0, Math.max(0, kept.size - MOST))) kept.delete(oldest);
  try {
    localStorage.setItem(KEY, JSON.stringify([...kept]));
  } catch {
    // No room: it is looked for anew on the next visit.
  }
}
