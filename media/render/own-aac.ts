import { MIX_RATE_HZ } from '@skipback/core/sound/stereo';

/** Samples of nothing that our own encoder puts first: one frame of AAC-LC, as its transform overlaps. */
const LEAD_SAMPLES = 1024;

let registered = false;

/**
 * Sees to it that AAC is made by the media package's encoder, in every browser: what a browser's own puts before the sound
 * (1024 samples, 2112, or none) is not told by any. Gives the seconds of nothing that come before the sound.
 */
export async function ownAac(): Promise<number> {
  if (!registered) {
    const { registerAacEncoder } = await import('@mediabunny/aac-encoder');
    registerAacEncoder();
    registered = true;
  }
  return LEAD_SAMPLES / MIX_RATE_HZ;
}
