import { findLoops } from '@skipback/core/checks/likeness';
import { cleanPlateOf } from './clean-plate';
import { cutsIn } from './cuts-in';
import { inspectClip } from './inspect';
import { seamBetween } from './seam';
import { signaturesOf, smallOf, stillOf } from './small-frames';
import { hearing } from '../heard';
import { type ImportReply, type ImportRequest, ImportRequestSchema, type Pace } from './messages';
import { sentenceOf } from '../worker-client';
import { drawThumbnails } from './thumbnails';

const reply = (message: ImportReply) =>
  self.postMessage(message, { transfer: message.kind === 'small' ? [...message.pictures] : [] });

type Question = Exclude<ImportRequest, { kind: 'give-way' }>;

/** Thumbnails are drawn one clip after the other, in the order asked for, so that the first is there soon. */
let drawing: Promise<unknown> = Promise.resolve();

/** What somebody waits for just now: thumbnails give way to it. */
const urgent = new Set<Promise<unknown>>();

function answer(request: Question): Promise<ImportReply> {
  const answering = answered(request);
  if ('urgent' in request && !request.urgent) return answering;
  const done = answering.then(
    () => undefined,
    () => undefined,
  );
  urgent.add(done);
  void done.then(() => urgent.delete(done));
  return answering;
}

let pace: Pace = 'free';
let paceSince = 0;

/** How long thumbnails rest after each frame while something plays, and at most for a first picture, milliseconds. */
const PLAYING_REST_MS = 60;
const FIRST_PICTURE_MS = 20_000;

const calm = async (): Promise<void> => {
  while (urgent.size > 0) await Promise.all(urgent);
  const rest = () => new Promise((resolve) => setTimeout(resolve, PLAYING_REST_MS));
  while (pace === 'rests' && performance.now() - paceSince < FIRST_PICTURE_MS) await rest();
  if (pace !== 'free') await rest();
};

async function answered(request: Question): Promise<ImportReply> {
  const { id } = request;
  if (request.kind === 'inspect')
    return {
      ...{ id, kind: 'inspected' },
      inspection: await inspectClip(request.file, request.name, () =>
        reply({ id, kind: 'progress', share: 0 }),
      ),
    };
  if (request.kind === 'loops') {
    const signatures = await signaturesOf(request.clip, request.first, request.end);
    return { id, kind: 'loops', loops: findLoops(signatures, request.least, request.most) };
  }
  if (request.kind === 'seam')
    return {
      id,
      kind: 'seam',
      ...(await seamBetween(request.clip, request.before, request.after, request.looks)),
    };
  if (request.kind === 'cuts')
    return {
      ...{ id, kind: 'cuts' },
      cuts: await cutsIn(request.clip, request, request.urgent ? () => Promise.resolve() : calm),
    };
  if (request.kind === 'small') return { id, kind: 'small', pictures: await smallOf(request.clip, request) };
  if (request.kind === 'still') return { id, kind: 'still', png: await stillOf(request.clip, request.frame) };
  if (request.kind === 'clean-plate') return { id, kind: 'still', png: await cleanPlateOf(request.clip) };
  if (request.urgent)
    return { id, kind: 'thumbnails', sheet: await drawThumbnails(request.clip, () => Promise.resolve()) };
  const sheet = drawing.then(() => drawThumbnails(request.clip, calm));
  drawing = sheet.catch(() => undefined);
  return { id, kind: 'thumbnails', sheet: await sheet };
}

hearing(
  ImportRequestSchema,
  (data) => {
    if (data.kind === 'give-way') {
      if (data.pace !== pace) [pace, paceSince] = [data.pace, performance.now()];
      return;
    }
    answer(data)
      .catch((error: unknown): ImportReply => {
        return {
          id: data.id,
          kind: 'failed',
          sentence: sentenceOf(error, 'This clip cannot be read just now.'),
        };
      })
      .then(reply);
  },
  (id, sentence) => reply({ id, kind: 'failed', sentence }),
);
