import type { Notice } from '@skipback/core/notice';
import { failure, info, warning } from '@skipback/core/notice';
import { DEFAULT_ENVELOPES } from '@skipback/core/beats/envelope';
import { NO_GRID } from '@skipback/core/beats/grid';
import type { Project, Song } from '@skipback/core/project/schema';
import { setSong, takeFound } from '@skipback/core/project/song-actions';
import type { SoundFacts } from '@skipback/media/sound/messages';
import { soundClient } from '@skipback/media/sound/sound-client';
import { database } from '@skipback/media/storage/database';
import { sentenceOf } from '@skipback/media/worker-client';
import { fingerprintOf, keepMediaFile, mediaFile } from '@skipback/media/storage/media-files';
import { useQuery } from '@tanstack/react-query';
import { freshId } from './ids';
import { queryClient } from './query-client';
import { landed, openProjectId } from './act-in';
import { type JobHand, Stopped, beginJob } from './jobs';
import { setOpen } from './open';
import { useProjectStore } from './project-store';
import { pageReady } from './tab-locks';

const SOUND_FILES = /\.(wav|mp3|flac|ogg|oga|opus|m4a|aac)$/i;

/** Whether a file is a song by its name or kind. */
export const isSong = (file: File): boolean => file.type.startsWith('audio/') || SOUND_FILES.test(file.name);

/** Keeps a song's file; one kept before is not kept twice. */
export async function storeSong(file: File): Promise<{ id: string; kept: boolean }> {
  await pageReady();
  const fingerprint = await fingerprintOf(file);
  const known = await database.songs
    .where('fingerprint')
    .equals(fingerprint)
    .first()
    .catch(() => undefined);
  if (known && (await mediaFile(known.id))) return { id: known.id, kept: true };
  const id = known?.id ?? freshId();
  const { kept } = await keepMediaFile(id, file);
  await database.songs.put({ id, name: file.name, bytes: file.size, fingerprint }).catch(() => undefined);
  await queryClient.invalidateQueries({ queryKey: ['sound', id] });
  return { id, kept };
}

/** Brings a song into a project and finds its beats, as a job of its own or as part of one. Gives what is to be said of it, if anything is. */
export async function importSong(
  file: File,
  projectId: string,
  within?: JobHand,
): Promise<Notice | undefined> {
  const words = `Reading ${file.name}`;
  const job = within ?? beginJob({ projectId, kind: 'song', name: file.name, words });
  job.tell({ kind: 'song', words, share: 0 });
  const end = (notice?: Notice) => {
    if (!within) job.end(notice);
    return notice;
  };
  try {
    const { id, kept } = await job.part(storeSong(file));
    const told = (share: number) => job.tell({ share });
    const facts = await job.part(soundClient.load(id, file, file.name, told));
    queryClient.setQueryData(['sound', id], facts);
    const song: Song = {
      mediaId: id,
      name: file.name.slice(0, 200),
      lengthS: facts.lengthS,
      startFrame: 0,
      fromS: 0,
      gainDb: 0,
      grid: NO_GRID,
      accents: [],
      accentsGone: [],
      likely: null,
      barsLikely: null,
      second: null,
      envelopes: DEFAULT_ENVELOPES,
    };
    const lost = await landed(projectId, file.name, `import ${file.name}`, (p) => setSong(p, song));
    if (lost) return end(lost);
    const notice = await beatsOf(song, projectId, job);
    if (openProjectId() === projectId) setOpen({ listens: id });
    if (kept) return end(notice);
    return end(
      warning(
        'not-kept',
        `The browser would not keep ${file.name}: its storage is full or switched off.`,
        'It works until this page closes. Save the project as a file to keep it.',
      ),
    );
  } catch (error) {
    if (!(error instanceof Stopped))
      return end(failure('song', sentenceOf(error, `${file.name} could not be read. Try it again.`)));
    if (within) throw error;
    return undefined;
  }
}

/** Finds the beats of a project's song from its sound, and takes them as its grid. */
export async function findBeats(song: Song, projectId: string): Promise<void> {
  const job = beginJob({ projectId, kind: 'song', name: song.name, words: 'Finding the beats', share: 0 });
  try {
    job.end(await beatsOf(song, projectId, job));
  } catch (error) {
    if (!(error instanceof Stopped))
      job.end(failure('beats', sentenceOf(error, 'The beats could not be found. Try it again.')));
  }
}

/** Finds and takes the beats as part of a job; what is to be said, if anything is. Throws `Stopped`. */
async function beatsOf(song: Song, projectId: string, job: JobHand): Promise<Notice | undefined> {
  job.tell({ words: 'Finding the beats', share: 0 });
  const analysis = await job.part(soundClient.analyse(song.mediaId, (share) => job.tell({ share })));
  const lost = await landed(projectId, `The beats of ${song.name}`, 'find the beats', (p) =>
    p.song?.mediaId === song.mediaId ? takeFound(p, analysis) : p,
  );
  if (lost || analysis.grid.beats.length > 0) return lost;
  return info('no-beats', 'No beats were found: type the tempo, or tap along.');
}

/** A sound of the store, loaded into the sound worker; its length and peaks. */
export async function loadSound(mediaId: string, name: string): Promise<SoundFacts | null> {
  const file = await mediaFile(mediaId);
  return file ? soundClient.load(mediaId, file, name) : null;
}

/** The open project's song, loaded; null when its file is not there any more. */
export function useSongSound(project: Project): SoundFacts | null | undefined {
  const { song } = project;
  const { data } = useQuery({
    queryKey: ['sound', song?.mediaId],
    enabled: song !== null,
    queryFn: () => loadSound(song!.mediaId, song!.name),
  });
  return song ? data : undefined;
}

/** The open project's song, now. */
export const songNow = (): Song | null => useProjectStore.getState().project?.song ?? null;
