import type { RenderJob, RenderReply, RenderRequest } from './messages';
import { proveFile } from './prove';
import { sentenceOf as sentenceFrom } from '../worker-client';
import { Cancelled, renderFile } from './render';

const reply = (message: RenderReply) => self.postMessage(message);
const abort = new AbortController();

async function run(job: RenderJob): Promise<void> {
  const frames = job.clipFrames.length * job.settings.loops;
  const began = performance.now();
  let told = 0;
  const progress = (done: number) => {
    const now = performance.now();
    if (now - told < 100 && done < frames) return;
    told = now;
    reply({ kind: 'progress', done, total: frames, framesPerS: done / ((now - began) / 1000) });
  };
  try {
    const { counts, damaged } = await renderFile(job, abort.signal, progress);
    const durationS = (frames * job.rate.den) / job.rate.num;
    const proof = await proveFile(await job.target.getFile(), { frames, durationS });
    reply({ kind: 'done', proof, counts, damaged });
  } catch (error) {
    reply(
      error instanceof Cancelled ? { kind: 'cancelled' } : { kind: 'failed', sentence: sentenceOf(error) },
    );
  }
}

function sentenceOf(error: unknown): string {
  if (error instanceof DOMException && error.name === 'QuotaExceededError')
    return 'There is no room left for the file. Free some space, or choose a smaller size, and render again.';
  return sentenceFrom(
    error,
    'The render stopped: a clip could not be read, or the encoder gave up. Try another format or a smaller size.',
  );
}

self.addEventListener('message', ({ data }: MessageEvent<RenderRequest>) => {
  if (data.kind === 'cancel') abort.abort();
  else void run(data.job);
});
