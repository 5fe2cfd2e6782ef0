import type { Analysis } from '@skipback/core/beats/analyse';
import type { Stereo } from '@skipback/core/sound/stereo';
import { WorkerClient } from '../worker-client';
import type { SoundRange } from './decode-sound';
import {
  type MixRequest,
  type SoundFacts,
  type SoundReply,
  SoundReplySchema,
  type SoundRequest,
} from './messages';

/** Asks the sound worker; one for the page. */
class SoundClient {
  private readonly worker = new WorkerClient<SoundRequest, SoundReply>(
    () => new Worker(new URL('./sound-worker.ts', import.meta.url), { type: 'module' }),
    SoundReplySchema,
    { died: 'The sound stopped; play again.', onDeath: () => this.loaded.clear() },
  );
  /** What is known of each sound the worker keeps. */
  private readonly loaded = new Map<string, Promise<SoundFacts>>();

  /** Decodes a file once and keeps its sound in the worker under an id. */
  load(
    soundId: string,
    file: Blob,
    name: string,
    progress?: (share: number) => void,
    range?: SoundRange,
  ): Promise<SoundFacts> {
    const known = this.loaded.get(soundId);
    if (known) return known;
    const loading = this.loadAnew(soundId, file, name, progress, range);
    this.loaded.set(soundId, loading);
    loading.catch(() => this.loaded.delete(soundId));
    return loading;
  }

  private async loadAnew(
    soundId: string,
    file: Blob,
    name: string,
    progress: ((share: number) => void) | undefined,
    range: SoundRange | undefined,
  ): Promise<SoundFacts> {
    return (await this.worker.ask({ kind: 'load', soundId, file, name, range }, 'loaded', progress)).facts;
  }

  /** Beats and accents of a loaded sound. */
  async analyse(soundId: string, progress?: (share: number) => void): Promise<Analysis> {
    return (await this.worker.ask({ kind: 'analyse', soundId }, 'analysed', progress)).analysis;
  }

  /** The sound of a whole result. */
  async mix(mix: MixRequest): Promise<Stereo> {
    return (await this.worker.ask({ kind: 'mix', mix }, 'mixed')).sound;
  }

  /** The samples of a loaded sound. */
  async copyOf(soundId: string): Promise<Stereo> {
    return (await this.worker.ask({ kind: 'copy', soundId }, 'copied')).sound;
  }
}

export const soundClient = new SoundClient();
