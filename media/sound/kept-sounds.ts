import type { Stereo } from '@skipback/core/sound/stereo';

/** Sounds that were worked out, by what they were worked out from; those used longest ago go first. */
export class KeptSounds {
  private readonly kept = new Map<string, Stereo>();
  private samples = 0;

  constructor(private readonly mostSamples: number) {}

  /** The sound of a key, made if it is not kept. */
  get(key: string, make: () => Stereo): Stereo {
    const known = this.kept.get(key);
    if (known) {
      this.kept.delete(key);
      this.kept.set(key, known);
      return known;
    }
    const sound = make();
    this.kept.set(key, sound);
    this.samples += sound.left.length;
    for (const [old, { left }] of this.kept) {
      if (this.samples <= this.mostSamples || old === key) break;
      this.kept.delete(old);
      this.samples -= left.length;
    }
    return sound;
  }
}
