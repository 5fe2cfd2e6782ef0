import { compareWays } from './compare-ways';
import {
  type PictureJob,
  type RenderJob,
  type RenderReply,
  RenderRequestSchema,
  type Setting,
  type Way,
  isFilm,
} from './messages';
import { stillOf } from './still';
import { hearing } from '../heard';
import { pictureKind } from './pictures/kinds';
import { provePictures } from './pictures/prove-pictures';
import { picturesOf, renderPictures } from './pictures/render-pictures';
import { proveFile } from './prove';
import { renderSentence } from './sentence';
import { Cancelled, type MadeFile, renderFile } from './render';

const reply = (message: RenderReply) => self.postMessage(message);
const abort = new AbortController();

/** How often the frame being written is shown, milliseconds, and how wide. */
const SHOW_EVERY_MS = 400;
const SHOWN_WIDTH = 480;

async function run(job: RenderJob): Promise<void> {
  const { format } = job.settings;
  const length = job.clipFrames.length;
  const frames = isFilm(format) ? length * job.settings.loops : picturesOf(length, job).length;
  let began = 0;
  let told = 0;
  let shown = -Infinity;
  const progress = (done: number, frame: VideoFrame) => {
    const now = performance.now();
    if (began === 0) began = now;
    if (now - told < 100 && done < frames) return;
    told = now;
    const message = {
      kind: 'progress',
      done,
      total: frames,
      framesPerS: done / Math.max(0.001, (now - began) / 1000),
    } as const;
    if (now - shown < SHOW_EVERY_MS) return reply({ ...message, picture: undefined });
    shown = now;
    const copy = frame.clone();
    createImageBitmap(copy, { resizeWidth: Math.min(SHOWN_WIDTH, copy.displayWidth) })
      .then((picture) => self.postMessage({ ...message, picture }, { transfer: [picture] }))
      .catch(() => reply({ ...message, picture: undefined }))
      .finally(() => copy.close());
  };
  try {
    reply({ kind: 'sampling' });
    const made: MadeFile & { readonly setting?: Setting } = isFilm(format)
      ? await renderFile(job, abort.signal, progress)
      : await renderPictures(job, abort.signal, progress);
    const { counts, damaged, given, notes } = made;
    const shown = isFilm(format) || !pictureKind(format).loops ? length * job.settings.loops : length;
    const durationS = (shown * job.rate.den) / job.rate.num;
    const ordered = { frames, durationS, given, soundS: job.sound ? durationS : 0 };
    const file = await job.target.getFile();
    const proven = isFilm(format)
      ? await proveFile(file, ordered)
      : await provePictures(file, format, ordered);
    const { lacks } = job;
    const proof = { ...proven, lacks, notes, damaged, asOrdered: proven.asOrdered && lacks.length === 0 };
    reply({ kind: 'done', setting: made.setting, proof, counts, damaged });
  } catch (error) {
    reply(
      error instanceof Cancelled
        ? { kind: 'cancelled' }
        : { kind: 'failed', sentence: renderSentence(error) },
    );
  }
}

async function compare(job: PictureJob, ways: readonly Way[]): Promise<void> {
  try {
    await compareWays(job, ways, abort.signal, (size) => reply({ kind: 'size', size }));
    reply({ kind: 'compared' });
  } catch (error) {
    reply({ kind: 'failed', sentence: renderSentence(error) });
  }
}

async function still(job: PictureJob, position: number): Promise<void> {
  try {
    reply({ kind: 'still', png: await stillOf(job, position, abort.signal) });
  } catch (error) {
    reply({ kind: 'failed', sentence: renderSentence(error) });
  }
}

hearing(
  RenderRequestSchema,
  (data) => {
    if (data.kind === 'cancel') abort.abort();
    else if (data.kind === 'compare') void compare(data.job, data.ways);
    else if (data.kind === 'still') void still(data.job, data.position);
    else void run(data.job);
  },
  (_, sentence) => reply({ kind: 'failed', sentence }),
);
