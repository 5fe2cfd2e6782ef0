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
import { create } from 'zustand';
import { freshId } from './ids';
import { queryClient } from './library';
import { actIn } from './act-in';
import { useProjectStore } from './project-store';
import { pageReady } from './tab-locks';

/** What is being done with a song, and what is to be said of it. */
interface SongWork {
  /** The project it is for. */
  readonly projectId: string | null;
  readonly doing: string | null;
  /** 0 to 1. */
  readonly share: number;
  readonly notice: Notice | null;
}

export const useSongWork = create<SongWork>(() => ({ projectId: null, doing: null, share: 0, notice: null }));

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

/** Brings a song into a project and finds its beats. Gives what is wrong, if anything is. */
export async function importSong(file: File, projectId: string): Promise<Notice | undefined> {
  const tell = (doing: string) => (share: number) => useSongWork.setState({ doing, share });
  useSongWork.setState({ projectId, doing: `Reading ${file.name}`, share: 0, notice: null });
  try {
    const { id, kept } = await storeSong(file);
    const facts = await soundClient.load(id, file, file.name, tell(`Reading ${file.name}`));
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
      likely: null,
      barsLikely: null,
      second: null,
      envelopes: DEFAULT_ENVELOPES,
    };
    await actIn(projectId, `import ${file.name}`, (p) => setSong(p, song));
    await findBeats(song, projectId);
    if (kept) return undefined;
    return warning(
      'not-kept',
      `The browser would not keep ${file.name}: its storage is full or switched off.`,
      'It works until this page closes. Save the project as a file to keep it.',
    );
  } catch (error) {
    const notice = failure('song', sentenceOf(error, `${file.name} could not be read. Try it again.`));
    useSongWork.setState({ notice });
    return notice;
  } finally {
    useSongWork.setState({ doing: null });
  }
}

/** Finds the beats of a project's song from its sound, and takes them as its grid. */
export async function findBeats(song: Song, projectId: string): Promise<void> {
  useSongWork.setState({ projectId, doing: 'Finding the beats', share: 0, notice: null });
  try {
    const analysis = await soundClient.analyse(song.mediaId, (share) => useSongWork.setState({ share }));
    await actIn(projectId, 'find the beats', (p) =>
      p.song?.mediaId === song.mediaId ? takeFound(p, analysis) : p,
    );
    if (analysis.grid.beats.length === 0)
      useSongWork.setState({
        notice: info('no-beats', 'No beats were found: type the tempo, or tap along.'),
      });
  } finally {
    useSongWork.setState({ doing: null });
  }
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
