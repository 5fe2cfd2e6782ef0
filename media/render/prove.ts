import { VideoSampleSink } from 'mediabunny';
import { openFilmFile } from '../reader/clip-file';
import { Said } from '../worker-client';
import { type GivenPicture, alike, isNeighbour, nearness, rowsOf, smallGrey } from './proof-samples';
import type { RenderProof } from './messages';

/** What the file itself says. */
export type Proven = Omit<RenderProof, 'lacks' | 'damaged' | 'notes'>;

/** Sound may be longer or shorter by so much: encoders fill their last block. */
const SOUND_SLACK_S = 0.15;

/** Reopens a rendered file, counts what is in it, and looks at some of its pictures. */
export async function proveFile(
  file: Blob,
  ordered: {
    frames: number;
    durationS: number;
    given: readonly GivenPicture[];
    /** Seconds of sound; 0 for none. */
    soundS: number;
  },
): Promise<Proven> {
  const open = await openFilmFile(file);
  if (!open) throw new Said('The finished file has no picture. Try another format.');
  try {
    let frames = 0;
    let endS = 0;
    for await (const packet of open.packets.packets(undefined, undefined, { metadataOnly: true })) {
      frames++;
      endS = Math.max(endS, packet.timestamp + packet.duration);
    }
    const heard = await open.input.getPrimaryAudioTrack();
    const frameS = ordered.durationS / ordered.frames;
    // The middle of each frame, so that a container's rounding finds no neighbour.
    const instants = ordered.given.map(({ atFrame }) => (atFrame + 0.5) * frameS);
    let compared = 0;
    let differing = 0;
    const along: { atFrame: number; db: number }[] = [];
    for await (const sample of new VideoSampleSink(open.track).samplesAtTimestamps(instants)) {
      const given = ordered.given[compared]!;
      const beside = [ordered.given[compared - 1], ordered.given[compared + 1]];
      compared++;
      const frame = sample?.toVideoFrame();
      const rows = frame && (await rowsOf(frame).catch(() => undefined));
      const isOther = beside.some(
        (g) =>
          rows &&
          given.rows &&
          g?.rows &&
          Math.abs(g.atFrame - given.atFrame) === 1 &&
          isNeighbour(rows, given.rows, g.rows),
      );
      if (!frame || isOther || !alike(smallGrey(frame), given.small)) differing++;
      const db = rows && given.rows && nearness(given.rows, rows);
      if (db !== undefined) along.push({ atFrame: given.atFrame, db });
      frame?.close();
      sample?.close();
    }
    const soundS = heard ? await heard.computeDuration() : 0;
    const sounds = Math.abs(soundS - ordered.soundS) < SOUND_SLACK_S;
    const whole = frames === ordered.frames && Math.abs(endS - ordered.durationS) < frameS / 2 + 0.002;
    return {
      frames,
      durationS: endS,
      bytes: file.size,
      codec: (await open.track.getCodec()) ?? '',
      soundCodec: (heard && (await heard.getCodec())) ?? '',
      soundDurationS: soundS,
      compared,
      differing,
      along,
      asOrdered: whole && sounds && differing === 0,
    };
  } finally {
    open.close();
  }
}
