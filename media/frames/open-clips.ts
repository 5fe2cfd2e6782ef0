import type { Framing } from '@skipback/core/project/schema';
import { type ClipFile, openClipFile } from '../reader/clip-file';
import { type DecodeCounters, decodeRun } from '../reader/run-decoder';
import type { RunStep } from './frame-server';
import type { ClipRow, ClipSource } from './clip-row';

/** How a clip's pictures are meant to be seen: turned, and with square pixels. */
export interface Orientation {
  readonly rotation: 0 | 90 | 180 | 270;
  readonly flip: boolean;
  /** Size after turning and with square pixels. */
  readonly width: number;
  readonly height: number;
}

export interface OpenClip {
  readonly file: ClipFile;
  readonly orientation: Orientation;
}

/** The files of a row, opened when first needed and closed together. */
export class OpenClips {
  private readonly open = new Map<Blob, Promise<OpenClip>>();

  /** Opens a clip's file, or gives it when it is open already. */
  get(source: ClipSource): Promise<OpenClip> {
    const known = this.open.get(source.file);
    if (known) return known;
    const opening = openOriented(source.file);
    this.open.set(source.file, opening);
    return opening;
  }

  /**
   * Runs over the numbers of a row, their pictures turned into what is held by `develop`. Asked before each
   * picture, `keeping` may spare the work for those that are only passed over.
   */
  runsOf<T>(
    row: ClipRow,
    counters: DecodeCounters,
    develop: (picture: VideoFrame, clip: OpenClip, framing: Framing) => Promise<T> | T,
  ) {
    const get = (source: ClipSource) => this.get(source);
    return async function* (
      key: number,
      last: number,
      keeping: () => boolean = () => true,
    ): AsyncGenerator<RunStep<T>, void, void> {
      const { clip, frame } = row.locate(key);
      const offset = key - frame;
      const open = await get(clip);
      for await (const { frame: n, picture } of decodeRun(
        open.file,
        clip.index,
        frame,
        last - offset,
        counters,
      )) {
        let developed: T | undefined;
        if (picture)
          try {
            if (keeping()) developed = await develop(picture, open, clip.framing);
          } finally {
            picture.close();
          }
        yield { frame: n + offset, damaged: !picture, picture: developed };
      }
    };
  }

  close(): void {
    for (const opening of this.open.values()) void opening.then((c) => c.file.close()).catch(() => undefined);
    this.open.clear();
  }
}

async function openOriented(blob: Blob): Promise<OpenClip> {
  const file = await openClipFile(blob);
  if (!file) throw new Error('the file has no picture');
  const { track } = file;
  const orientation = {
    rotation: await track.getRotation(),
    flip: await track.getFlip(),
    width: await track.getDisplayWidth(),
    height: await track.getDisplayHeight(),
  };
  return { file, orientation };
}
