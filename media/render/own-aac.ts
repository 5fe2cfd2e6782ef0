import { MIX_RATE_HZ } from '@skipback/core/sound/stereo';
import { QUALITY_HIGH, canEncodeAudio } from 'mediabunny';

/** Samples of nothing that our own encoder puts first: one frame of AAC-LC, as its transform overlaps. */
const LEAD_SAMPLES = 1024;

let registered = false;

/**
 * Sees to it that AAC can be made: where the browser has no encoder of its own, by the media package's. Gives the seconds of
 * nothing that come before the sound then; what a browser's encoder puts there is not told, and taken as none.
 */
export async function ownAac(): Promise<number> {
  if (!registered) {
    const config = { numberOfChannels: 2, sampleRate: MIX_RATE_HZ, quality: QUALITY_HIGH };
    if (await canEncodeAudio('aac', config)) return 0;
    const { registerAacEncoder } = await import('@mediabunny/aac-encoder');
    registerAacEncoder();
    registered = true;
  }
  return LEAD_SAMPLES / MIX_RATE_HZ;
}
