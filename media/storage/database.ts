import type { KnownShots } from '@skipback/core/moments/known-shots';
import type { Project } from '@skipback/core/project/schema';
import type { Recipe } from '@skipback/core/recipe/recipe';
import { Dexie, type EntityTable, liveQuery } from 'dexie';
import type { ThumbnailSheet } from '../import/messages';
import type { RenderProof, RenderSettings } from '../render/messages';
import type { ClipFacts } from '../import/clip-facts';

/** A project as it is kept: the document as plain data, checked again when read. */
export interface ProjectRecord {
  readonly id: string;
  readonly name: string;
  /** Milliseconds since 1970. */
  readonly savedAt: number;
  /** Counts the writes; a write of an older one is refused. Missing in records of before. */
  readonly revision?: number;
  readonly document: Project;
  /** Which of its two versions the document is, A where nothing is said, and the other one where there is one. */
  readonly letter?: 'A' | 'B';
  readonly other?: Project | null;
  /** Picture for the shelf. */
  readonly poster: Blob | null;
  /** Result frame of that picture: the project opens there. Missing in records of before. */
  readonly at?: number;
  /** Result length, for the shelf. */
  readonly lengthFrames: number;
}

/** What is known of an imported file; its bytes are in the media files. */
export interface MediaRecord {
  readonly id: string;
  readonly name: string;
  readonly bytes: number;
  /** Tells two files apart without reading them whole. */
  readonly fingerprint: string;
  readonly facts: ClipFacts;
  readonly thumbnails: ThumbnailSheet | null;
  /** Of a long clip, which is not read whole for its thumbnails: its cuts as far as it was looked through. */
  readonly shots?: KnownShots;
}

/** What is known of a kept song file. */
export interface SongRecord {
  readonly id: string;
  readonly name: string;
  readonly bytes: number;
  readonly fingerprint: string;
}

/** A recipe as it is kept: plain data, checked again when read. */
export interface RecipeRecord {
  readonly id: string;
  /** Milliseconds since 1970. */
  readonly savedAt: number;
  readonly document: Recipe;
}

/** A file that is to be made, is being made, or was made and not taken away yet. */
export interface QueueRecord {
  readonly id: string;
  /** Its place in the row. */
  readonly place: number;
  /** The file's name, with its ending. */
  readonly name: string;
  /** The project as it was when it was put here. */
  readonly document: Project;
  readonly settings: RenderSettings;
  readonly withSound: boolean;
  readonly state: 'waiting' | 'rendering' | 'done' | 'failed' | 'cancelled';
  /** Why it failed. */
  readonly sentence?: string;
  /** What the reopened file was found to be; the file is kept under the record's id. */
  readonly proof?: RenderProof;
}

class SkipBackDatabase extends Dexie {
  projects!: EntityTable<ProjectRecord, 'id'>;
  media!: EntityTable<MediaRecord, 'id'>;
  songs!: EntityTable<SongRecord, 'id'>;
  recipes!: EntityTable<RecipeRecord, 'id'>;
  queue!: EntityTable<QueueRecord, 'id'>;

  constructor() {
    super('skip-back');
    this.version(1).stores({ projects: 'id, savedAt', media: 'id, fingerprint' });
    this.version(2).stores({ songs: 'id, fingerprint' });
    this.version(3).stores({ recipes: 'id, savedAt', queue: 'id, place' });
  }
}

export const database = new SkipBackDatabase();

/** Reads, and reads again whenever this tab or another has changed what was read; gives what ends that. */
export function watch<T>(read: () => Promise<T>, heard: (data: T) => void): () => void {
  // What cannot be read is said where it is read first.
  const watching = liveQuery(read).subscribe({ next: heard, error: () => undefined });
  return () => watching.unsubscribe();
}

let newer = false;

/** Whether a newer version of the program keeps its projects here: then nothing of them is read or written. */
export const keptByNewer = (): boolean => newer;

/**
 * Looks whether the database is of a newer version before it is opened: opening it, the package would add to it what this
 * version knows. To be done before anything is asked of it.
 */
export async function guardDatabase(): Promise<void> {
  const all = await indexedDB.databases?.().catch(() => []);
  const version = all?.find((d) => d.name === database.name)?.version ?? 0;
  // The package counts in tenths; what it adds by itself are tenths too.
  newer = Math.floor(version / 10) > database.verno;
  if (newer) database.close({ disableAutoOpen: true });
}
