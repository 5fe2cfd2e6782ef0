import { openClipFile } from '../reader/clip-file';
import type { RenderProof } from './messages';

/** Reopens a rendered file and counts what is in it. */
export async function proveFile(
  file: Blob,
  ordered: { frames: number; durationS: number },
): Promise<RenderProof> {
  const open = await openClipFile(file);
  if (!open) throw new Error('the rendered file has no picture');
  try {
    let frames = 0;
    let endS = 0;
    for await (const packet of open.packets.packets(undefined, undefined, { metadataOnly: true })) {
      frames++;
      endS = Math.max(endS, packet.timestamp + packet.duration);
    }
    const heard = await open.input.getPrimaryAudioTrack();
    const frameS = ordered.durationS / ordered.frames;
    return {
      frames,
      durationS: endS,
      bytes: file.size,
      codec: (await open.track.getCodec()) ?? '',
      soundCodec: (heard && (await heard.getCodec())) ?? '',
      soundDurationS: heard ? await heard.computeDuration() : 0,
      asOrdered: frames === ordered.frames && Math.abs(endS - ordered.durationS) < frameS / 2 + 0.002,
    };
  } finally {
    open.close();
  }
}
