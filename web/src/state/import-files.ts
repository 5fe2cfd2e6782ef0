import { frameCount } from '@skipback/core/clip/frame-table';
import { type Notice, failure, info, warning } from '@skipback/core/notice';
import { addClip, addPiece, relinkClip, setFormat } from '@skipback/core/project/actions';
import type { Clip, Project } from '@skipback/core/project/schema';
import { formatFor, newPiece } from '@skipback/core/project/new-project';
import { importClient } from '@skipback/media/import/import-client';
import type { Inspection } from '@skipback/media/import/inspect';
import { type ClipFacts, FACTS_VERSION } from '@skipback/media/import/clip-facts';
import { type MediaRecord, database } from '@skipback/media/storage/database';
import { sentenceOf } from '@skipback/media/worker-client';
import { fingerprintOf, keepMediaFile, mediaFile } from '@skipback/media/storage/media-files';
import { type Converting, convertRefused, mayConvert } from './converting';
import { freshId } from './ids';
import { importCutList, isCutList } from './import-cut-list';
import { queryClient } from './query-client';
import { isSong } from './song';
import { importSound } from './sound-question';
import { withSequences } from './sequences';
import { landed, openProjectId, projectNow } from './act-in';
import { type JobHand, Stopped, beginJob } from './jobs';
import { select } from './selection';
import { aroundSpan } from './views';
import { pageReady } from './tab-locks';

type Stored =
  | { readonly record: MediaRecord; readonly notice?: Notice }
  | { readonly record: undefined; readonly notice: Notice };

/** Files that are being kept now, by what tells them apart. */
const storing = new Map<string, Promise<unknown>>();

/** Reads a file and keeps it; a file kept before, or just now, is not kept twice. The notice is set where something is to be said. */
export async function storeMedia(
  given: File,
  tell: (converting: Converting | undefined) => void = () => undefined,
  projectId = openProjectId(),
): Promise<Stored> {
  await pageReady();
  // Of what was given: a file that was converted before is known by that.
  const fingerprint = await fingerprintOf(given);
  const before = storing.get(fingerprint) ?? Promise.resolve();
  const mine = before.catch(() => undefined).then(() => store(given, fingerprint, tell, projectId));
  storing.set(fingerprint, mine);
  try {
    return await mine;
  } finally {
    if (storing.get(fingerprint) === mine) storing.delete(fingerprint);
  }
}

async function store(
  given: File,
  fingerprint: string,
  tell: (converting: Converting | undefined) => void,
  projectId: string | undefined,
): Promise<Stored> {
  let file = given;
  let changes: readonly string[] = [];
  let inspection = await inspected(file);
  if (!inspection.ok && !mayConvert(file, inspection.notice))
    return { record: undefined, notice: inspection.notice };
  const known = await database.media
    .where('fingerprint')
    .equals(fingerprint)
    .first()
    .catch(() => undefined);
  if (known?.facts.version === FACTS_VERSION && (await mediaFile(known.id))) return { record: known };
  if (!inspection.ok) {
    const converted = await convertRefused(file, inspection.notice, tell);
    if (!('file' in converted)) return { record: undefined, notice: converted };
    ({ file, changes } = converted);
    inspection = await inspected(file);
    if (!inspection.ok) return { record: undefined, notice: inspection.notice };
  }
  const record: MediaRecord = {
    id: known?.id ?? freshId(),
    name: file.name,
    bytes: file.size,
    fingerprint,
    facts:
      file === given
        ? inspection.facts
        : { ...inspection.facts, notices: [...inspection.facts.notices, convertedNotice(changes)] },
    thumbnails: null,
  };
  const beside = file.size > LARGE_BYTES;
  if (beside) void keepBeside(record.id, file, projectId);
  const kept = beside || (await keepMediaFile(record.id, file)).kept;
  void askToPersist();
  await database.media.put(record).catch(() => undefined);
  queryClient.setQueryData(['media', record.id], { record, file: (await mediaFile(record.id)) ?? file });
  return kept ? { record } : { record, notice: notKept(file) };
}

/** Files above this are used while they are copied, bytes: ten gigabytes take minutes. */
const LARGE_BYTES = 64 * 1024 * 1024;

const notKept = (file: File): Notice =>
  warning(
    'not-kept',
    `The browser would not keep ${file.name}: its storage is full or switched off.`,
    'It works until this page closes. Save the project as a file to keep it.',
  );

/** Keeps a file while it is used already, and says how far that is. This page goes on with the one that was given: another would empty what is held of it. */
async function keepBeside(mediaId: string, file: File, projectId: string | undefined): Promise<void> {
  const words = (share: number) =>
    `Copying ${file.name} into this browser, ${Math.floor(share * 100)} %. Work with it meanwhile, but leave the page open.`;
  const job = beginJob({ projectId, kind: 'file', name: file.name, words: words(0), beside: true });
  let told = 0;
  const { kept } = await keepMediaFile(mediaId, file, (share) => {
    if (share - told < 0.01) return;
    told = share;
    job.tell({ words: words(share), share });
  });
  job.end(kept ? undefined : notKept(file));
}

const convertedNotice = (changes: readonly string[]): Notice =>
  info(
    'converted',
    [
      'Converted by the local server, near-lossless, every frame at its own time: this browser does not decode the original.',
      ...changes,
    ].join(' '),
  );

const inspected = (file: File): Promise<Inspection> =>
  importClient.inspect(file, file.name).catch((problem: unknown) => ({
    ok: false as const,
    notice: failure(
      'reader',
      `${file.name} could not be read. ${sentenceOf(problem, 'The file reader gave it up.')}`,
      'It may be damaged: copy or export it again.',
    ),
  }));

/** Asks the browser once not to clear this page's storage by itself when the disk runs low. */
async function askToPersist(): Promise<void> {
  if (!navigator.storage?.persist || (await navigator.storage.persisted().catch(() => true))) return;
  await navigator.storage.persist().catch(() => false);
}

/**
 * Brings files into the project that is open now, whatever is open when they have been read: the first makes its format,
 * and its first piece where there is none. Gives what is to be said of each, if anything is.
 */
export async function importFiles(
  given: readonly File[],
): Promise<{ readonly name: string; readonly notice: Notice | undefined }[]> {
  const projectId = openProjectId();
  if (projectId === undefined) return [];
  const files = await withSequences(given);
  const coming = files.map((file) => ({
    file,
    job: beginJob({ projectId, kind: 'file', name: file.name, words: `Reading ${file.name}` }),
  }));
  const came: { name: string; notice: Notice | undefined }[] = [];
  // Cut lists last: they name clips that may come with them.
  for (const { file, job } of coming.toSorted(
    (a, b) => Number(isCutList(a.file)) - Number(isCutList(b.file)),
  )) {
    try {
      const importing = isCutList(file)
        ? importCutList(file, projectId)
        : isSong(file)
          ? importSound(file, projectId, job)
          : importVideo(file, projectId, job);
      const notice = await importing;
      job.end(notice);
      came.push({ name: file.name, notice });
    } catch (problem) {
      if (problem instanceof Stopped) continue;
      const notice = failure(
        'import',
        `${file.name} could not be imported. ${sentenceOf(problem, 'The browser gave it up.')}`,
        'Try it again, or reload the page: everything else is saved.',
      );
      job.end(notice);
      came.push({ name: file.name, notice });
    }
  }
  return came;
}

async function importVideo(file: File, projectId: string, job: JobHand): Promise<Notice | undefined> {
  // A conversion is stopped where it is made, and says so.
  let converting: Converting | undefined;
  job.signal.addEventListener('abort', () => converting?.cancel());
  const tell = (now: Converting | undefined) => {
    converting = now;
    if (job.signal.aborted) return now?.cancel();
    job.tell({ words: now?.words ?? `Reading ${file.name}` });
  };
  const { record, notice } = await job.part(storeMedia(file, tell, projectId));
  job.tell({ stop: undefined });
  if (!record) return notice;
  return (await addToProject(projectId, record.id, file.name, record.facts)) ?? notice;
}

/** Gives a clip its media back from a file a person chose. Says what is wrong, if anything is. */
export async function relink(clip: Clip, file: File): Promise<Notice | undefined> {
  const projectId = openProjectId();
  if (projectId === undefined) return undefined;
  const job = beginJob({ projectId, kind: 'file', name: file.name, words: `Reading ${file.name}` });
  let stored: Stored;
  try {
    stored = await job.part(storeMedia(file, undefined, projectId));
  } catch (problem) {
    if (problem instanceof Stopped) return undefined;
    throw problem;
  } finally {
    job.end();
  }
  const { record, notice } = stored;
  if (!record) return notice;
  const lost = await landed(projectId, file.name, `find ${clip.name} again`, (project) =>
    relinkClip(project, clip.id, record.id),
  );
  if (lost) return lost;
  await queryClient.invalidateQueries({ queryKey: ['media', record.id] });
  const pieces = (await projectNow(projectId))?.pieces ?? [];
  const furthest = Math.max(0, ...pieces.filter((p) => p.clipId === clip.id).map((p) => p.span.out));
  const count = frameCount(record.facts.table);
  return count < furthest
    ? warning(
        'shorter',
        `${file.name} has ${count} frames, but a span of ${clip.name} reaches frame ${furthest}.`,
        'The span ends where the file does; undo if it is the wrong file.',
      )
    : notice;
}

/** A clip so many times as long as its first span is shown close around that. */
const LONG = 8;

/** A file's name as a clip's: as much of it as a name may have, its ending kept. */
function clipName(name: string): string {
  const ending = /\.[^.]{1,8}$/.exec(name)?.[0] ?? '';
  return name.length <= 200 ? name : `${name.slice(0, 199 - ending.length)}…${ending}`;
}

/** A clip of a file as it comes in. */
export const clipOf = (mediaId: string, name: string): Clip => ({
  id: freshId(),
  mediaId,
  name: clipName(name),
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
});

/**
 * Brings a file in as a clip that something of the project shows: the clip's id, and the project with it. Where it
 * cannot be read, only its sentence comes back.
 */
export async function bringIn(
  file: File,
  projectId: string,
): Promise<{ clipId: string; add: (project: Project) => Project; notice?: Notice } | { notice: Notice }> {
  const { record, notice } = await storeMedia(file, undefined, projectId);
  if (!record) return { notice };
  const known = (await projectNow(projectId))?.clips.find((c) => c.mediaId === record.id);
  const clip = known ?? clipOf(record.id, file.name);
  const add = (project: Project) =>
    project.clips.some((c) => c.id === clip.id) ? project : addClip(project, clip);
  return { clipId: clip.id, add, ...(notice && { notice }) };
}

async function addToProject(
  projectId: string,
  mediaId: string,
  name: string,
  facts: ClipFacts,
): Promise<Notice | undefined> {
  const clip = clipOf(mediaId, name);
  const known = (await projectNow(projectId))?.clips.find((c) => c.mediaId === mediaId);
  if (known) {
    // It is where one looks for it.
    if (openProjectId() === projectId) select({ clipId: known.id });
    return info(
      'known',
      `${name} is in the project already${known.name === name ? '' : `, as ${known.name}`}.`,
    );
  }
  return landed(projectId, name, `import ${name}`, (project) => {
    if (project.clips.some((c) => c.mediaId === mediaId)) return project;
    const first = project.clips.length === 0;
    const formatted = first ? setFormat(project, formatFor(facts.table, facts)) : project;
    const added = addClip(formatted, clip);
    if (project.pieces.length > 0 || frameCount(facts.table) === 0) return added;
    const piece = newPiece(freshId(), clip.id, facts.table, project.between);
    // A long clip is shown close around its first span, which else would be a hair on the strip.
    const count = frameCount(facts.table);
    if (piece.span.out - piece.span.in < count / LONG && openProjectId() === projectId)
      aroundSpan(clip.id, piece.span, count);
    return addPiece(added, piece);
  });
}
