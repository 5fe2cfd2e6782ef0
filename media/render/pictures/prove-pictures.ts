import { entriesOf, unfold } from '../../zip';
import { Said } from '../../worker-client';
import { type GivenPicture, alike, smallGrey } from '../proof-samples';
import type { PictureFormat } from '../messages';
import type { Proven } from '../prove';
import { pictureKind } from './kinds';

/** Mean difference that a palette of few colours may make of a picture's brightness. */
const BY_PALETTE = 26;

/** Reopens a file of pictures, counts what is in it, and looks at some of its pictures. */
export async function provePictures(
  file: Blob,
  format: PictureFormat,
  ordered: { frames: number; durationS: number; given: readonly GivenPicture[] },
): Promise<Proven> {
  const kind = pictureKind(format);
  const opened = kind.loops ? await openedAnimation(file, kind.mime) : await openedZip(file, ordered);
  let compared = 0;
  let differing = 0;
  let durationS = 0;
  const wanted = new Map(ordered.given.map((g) => [g.atFrame, g.small]));
  try {
    for (let n = 0; n < opened.count; n++) {
      const small = wanted.get(n);
      if (!small && !kind.loops) continue;
      const { picture, lastsS } = await opened.picture(n);
      durationS += lastsS;
      if (small) {
        compared++;
        if (!alike(smallGrey(picture), small, format === 'gif' ? BY_PALETTE : undefined)) differing++;
      }
      picture.close();
    }
  } finally {
    opened.close();
  }
  const lasts = kind.loops ? durationS : ordered.durationS;
  const whole = opened.count === ordered.frames && Math.abs(lasts - ordered.durationS) < 0.011;
  return {
    ...{ frames: opened.count, durationS: lasts, bytes: file.size, codec: format, compared, differing },
    ...{ soundCodec: '', soundDurationS: 0, asOrdered: whole && differing === 0 },
  };
}

interface Opened {
  readonly count: number;
  picture(n: number): Promise<{ picture: VideoFrame; lastsS: number }>;
  close(): void;
}

async function openedAnimation(file: Blob, type: string): Promise<Opened> {
  const decoder = new ImageDecoder({ type, data: file.stream(), preferAnimation: true });
  await decoder.tracks.ready;
  await decoder.completed;
  return {
    count: decoder.tracks.selectedTrack?.frameCount ?? 0,
    async picture(n) {
      const { image } = await decoder.decode({ frameIndex: n });
      return { picture: image, lastsS: (image.duration ?? 0) / 1e6 };
    },
    close: () => decoder.close(),
  };
}

async function openedZip(file: Blob, { frames }: { frames: number }): Promise<Opened> {
  const entries = await entriesOf(file, { entries: frames });
  if (entries.length === 0) throw new Said('The finished file has no picture. Try another format.');
  return {
    count: entries.length,
    async picture(n) {
      const bitmap = await createImageBitmap(await unfold(file, entries[n]!));
      const picture = new VideoFrame(bitmap, { timestamp: 0 });
      bitmap.close();
      return { picture, lastsS: 0 };
    },
    close: () => undefined,
  };
}
