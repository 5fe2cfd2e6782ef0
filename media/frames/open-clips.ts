import { type ClipFile, openClipFile } from '../reader/clip-file';
import { type DecodeCounters, type RunPicture, decodeRun } from '../reader/run-decoder';
import { Said } from '../worker-client';
import type { RunStep } from './frame-server';
import type { ClipRow, ClipSource } from './clip-row';
import { type Placement, placementOf } from './placement';
import { type SmallCopy, type Stretch, copyIndex, stretchesOf } from './small-copy';
import { keyBefore } from '@skipback/core/plan/decode-plan';

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
    return this.opened(source.file, () => openOriented(source.file));
  }

  private opened(file: Blob, how: () => Promise<OpenClip>): Promise<OpenClip> {
    const known = this.open.get(file);
    if (known) return known;
    const opening = how();
    this.open.set(file, opening);
    return opening;
  }

  /** A copy of a clip, whose pictures are seen as the clip's are; undefined where it is not there any more. */
  private copyOf(copy: SmallCopy, { orientation }: OpenClip): Promise<OpenClip | undefined> {
    return this.opened(copy.file, async () => {
      const { file } = await openOriented(copy.file);
      return { file, orientation: { ...orientation, rotation: 0, flip: false } };
    }).catch(() => undefined);
  }

  /** Decodes frames of a clip, from a copy of it where that has them. */
  private async *read(
    clip: ClipSource,
    own: OpenClip,
    { first, last, copy }: Stretch,
    counters: DecodeCounters,
  ): AsyncGenerator<RunPicture & { readonly from: OpenClip }, void, void> {
    const small = copy && (await this.copyOf(copy, own));
    const from = small ?? own;
    const index = small ? copyIndex(copy!) : clip.index;
    const offset = small ? copy!.first : 0;
    const key = keyBefore(index.keys, first - offset);
    for await (const { frame, picture } of decodeRun(from.file, index, key, last - offset, counters))
      // What is decoded only to get there belongs to nobody.
      if (frame + offset < first) picture?.close();
      else yield { frame: frame + offset, picture, from };
  }

  /**
   * Runs over the numbers of a row, their pictures turned into what is held by `develop`. Asked before each
   * picture, `keeping` may spare the work for those that are only passed over.
   */
  runsOf<T>(
    row: ClipRow,
    counters: DecodeCounters,
    develop: (picture: VideoFrame, clip: OpenClip, placement: Placement) => Promise<T> | T,
  ) {
    const get = (source: ClipSource) => this.get(source);
    const read = this.read.bind(this);
    return async function* (
      key: number,
      last: number,
      keeping: () => boolean = () => true,
    ): AsyncGenerator<RunStep<T>, void, void> {
      const { clip, frame } = row.locate(key);
      const offset = key - frame;
      const open = await get(clip);
      // The good picture nearest to a damaged frame stands in for it: the one before, or else the one after.
      let good: { readonly picture: VideoFrame; readonly from: OpenClip } | undefined;
      const standIn = async (n: number) => {
        const picture = good ? undefined : await nearestGood(open, clip, n, counters);
        if (picture) good = { picture, from: open };
        return good;
      };
      try {
        for (const stretch of stretchesOf(frame, last - offset, clip.copies))
          for await (const { frame: n, picture, from } of read(clip, open, stretch, counters)) {
            if (picture) {
              good?.picture.close();
              good = { picture, from };
            }
            let developed: T | undefined;
            if (keeping()) {
              const shown = picture ? good : await standIn(n);
              if (shown) developed = await develop(shown.picture, shown.from, placementOf(clip, n));
            }
            yield { frame: n + offset, damaged: !picture, picture: developed };
          }
      } finally {
        good?.picture.close();
      }
    };
  }

  close(): void {
    for (const opening of this.open.values()) void opening.then((c) => c.file.close()).catch(() => undefined);
    this.open.clear();
  }
}

/** Groups of pictures looked through, each way, for a good picture. */
const GROUPS_AROUND = 3;

/** The good picture nearest to a damaged frame of a clip, before it where there is one; the caller closes it. */
async function nearestGood(
  open: OpenClip,
  clip: ClipSource,
  n: number,
  counters: DecodeCounters,
): Promise<VideoFrame | undefined> {
  const { keys, times } = clip.index;
  const at = Math.max(
    0,
    keys.findLastIndex((k) => k <= n),
  );
  const search = async (group: number, takesLast: boolean) => {
    let found: VideoFrame | undefined;
    const end = (keys[group + 1] ?? times.length) - 1;
    for await (const { picture } of decodeRun(open.file, clip.index, keys[group]!, end, counters)) {
      if (!picture) continue;
      found?.close();
      found = picture;
      if (!takesLast) break;
    }
    return found;
  };
  for (let group = at - 1; group >= 0 && group >= at - GROUPS_AROUND; group--) {
    const found = await search(group, true);
    if (found) return found;
  }
  for (let group = at; group < keys.length && group <= at + GROUPS_AROUND; group++) {
    const found = await search(group, false);
    if (found) return found;
  }
  return undefined;
}

async function openOriented(blob: Blob): Promise<OpenClip> {
  const file = await openClipFile(blob);
  if (!file) throw new Said('A clip has no picture any more: its file was changed.');
  if (file.kind === 'picture') {
    const { width, height } = file;
    return { file, orientation: { rotation: 0, flip: false, width, height } };
  }
  const { track } = file;
  const orientation = {
    rotation: await track.getRotation(),
    flip: await track.getFlip(),
    width: await track.getDisplayWidth(),
    height: await track.getDisplayHeight(),
  };
  return { file, orientation };
}
