import type { Analysis } from '@skipback/core/beats/analyse';
import type { Stereo } from '@skipback/core/sound/stereo';
import type { MixRequest, SoundFacts, SoundReply, SoundRequest } from './messages';

type Unnumbered = SoundRequest extends infer R ? (R extends SoundRequest ? Omit<R, 'id'> : never) : never;

interface Waiter {
  resolve(reply: SoundReply): void;
  reject(error: Error): void;
  progress(share: number): void;
}

/** Asks the sound worker; one for the page, begun when first needed. */
class SoundClient {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiter>();
  private nextId = 1;
  /** What is known of each sound the worker keeps. */
  private readonly loaded = new Map<string, Promise<SoundFacts>>();

  /** Decodes a file once and keeps its sound in the worker under an id. */
  load(soundId: string, file: Blob, name: string, progress?: (share: number) => void): Promise<SoundFacts> {
    const known = this.loaded.get(soundId);
    if (known) return known;
    const loading = this.loadAnew(soundId, file, name, progress);
    this.loaded.set(soundId, loading);
    loading.catch(() => this.loaded.delete(soundId));
    return loading;
  }

  private async loadAnew(
    soundId: string,
    file: Blob,
    name: string,
    progress?: (share: number) => void,
  ): Promise<SoundFacts> {
    const reply = await this.ask({ kind: 'load', soundId, file, name }, progress);
    if (reply.kind !== 'loaded') throw new Error('unexpected reply');
    return reply.facts;
  }

  /** Beats and accents of a loaded sound. */
  async analyse(soundId: string, progress?: (share: number) => void): Promise<Analysis> {
    const reply = await this.ask({ kind: 'analyse', soundId }, progress);
    if (reply.kind !== 'analysed') throw new Error('unexpected reply');
    return reply.analysis;
  }

  /** The sound of a whole result. */
  async mix(mix: MixRequest): Promise<Stereo> {
    const reply = await this.ask({ kind: 'mix', mix });
    if (reply.kind !== 'mixed') throw new Error('unexpected reply');
    return reply.sound;
  }

  /** The samples of a loaded sound. */
  async copyOf(soundId: string): Promise<Stereo> {
    const reply = await this.ask({ kind: 'copy', soundId });
    if (reply.kind !== 'copied') throw new Error('unexpected reply');
    return reply.sound;
  }

  private ask(request: Unnumbered, progress: (share: number) => void = () => undefined): Promise<SoundReply> {
    const id = this.nextId++;
    this.worker ??= this.begin();
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject, progress });
      this.worker!.postMessage({ ...request, id });
    });
  }

  private begin(): Worker {
    const worker = new Worker(new URL('./sound-worker.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<SoundReply>) => {
      const waiter = this.waiting.get(data.id);
      if (data.kind === 'progress') return waiter?.progress(data.share);
      this.waiting.delete(data.id);
      if (data.kind === 'failed') waiter?.reject(new Error(data.sentence));
      else waiter?.resolve(data);
    });
    worker.addEventListener('error', () => {
      for (const waiter of this.waiting.values())
        waiter.reject(new Error('The sound stopped; reload the page.'));
      this.waiting.clear();
      this.loaded.clear();
      this.worker = undefined;
    });
    return worker;
  }
}

export const soundClient = new SoundClient();
