import { CutFinder, SMALL } from '@skipback/core/moments/cuts';
import type { ClipSource } from '../frames/clip-row';
import { type OpenClip, OpenClips, type Orientation } from '../frames/open-clips';
import type { PacketIndex } from '../reader/packet-index';
import { readFrames } from '../frames/read-frames';
import { SmallPictures } from '../frames/small-picture';
import { greyOf } from './small-frames';
import { READ_WHOLE } from './clip-facts';
import type { ThumbnailSheet } from './messages';

const CELL_HEIGHT = 56;
const MOST = 160;

/** Draws a clip's thumbnails, reading each frame at most once. `calm` is awaited now and then: what is more urgent goes before. */
export async function drawThumbnails(
  clip: ClipSource,
  calm: () => Promise<unknown>,
): Promise<ThumbnailSheet> {
  const { index } = clip;
  const count = index.times.length;
  const whole = count <= READ_WHOLE;
  const candidates = whole ? Array.from({ length: count }, (_, n) => n) : index.keys;
  const wanted = Math.min(MOST, candidates.length);
  const frames = Array.from(
    { length: wanted },
    (_, i) => candidates[Math.floor((i * candidates.length) / wanted)]!,
  );
  const clips = new OpenClips();
  const { orientation } = await clips.get(clip);
  const cellWidth = Math.max(8, Math.round((CELL_HEIGHT * orientation.width) / orientation.height));
  const columns = Math.max(1, Math.min(wanted, Math.floor(4096 / cellWidth)));
  const sheetPixels = new ImageData(columns * cellWidth, Math.ceil(wanted / columns) * CELL_HEIGHT);
  const places = new Map(frames.map((f, i) => [f, i]));
  const damaged: number[] = [];
  const small = new SmallPictures(orientation, cellWidth, CELL_HEIGHT);
  const shots = whole ? new Shots(orientation, count, index) : undefined;
  const take = async (picture: VideoFrame, open: OpenClip): Promise<true> => {
    await shots?.take(picture, open);
    const place = places.get(picture.timestamp);
    if (place === undefined) return true;
    const pixels = await small.read(picture, open);
    const [column, row] = [place % columns, Math.floor(place / columns)];
    for (let y = 0; y < CELL_HEIGHT; y++)
      sheetPixels.data.set(
        pixels.subarray(4 * y * cellWidth, 4 * (y + 1) * cellWidth),
        4 * ((row * CELL_HEIGHT + y) * columns + column) * cellWidth,
      );
    return true;
  };
  try {
    const parts = whole ? [{ first: 0, end: count }] : frames.map((f) => ({ first: f, end: f + 1 }));
    for (const part of parts)
      for await (const { frame, damaged: bad } of readFrames(clips, clip, part, take)) {
        if (bad && whole) damaged.push(frame);
        shots?.goOnTo(frame + 1);
        await calm();
      }
    // One by one, each would cost what putting the whole sheet does.
    const canvas = new OffscreenCanvas(sheetPixels.width, sheetPixels.height);
    canvas.getContext('2d')!.putImageData(sheetPixels, 0, 0);
    const sheet = await canvas.convertToBlob({ type: 'image/webp', quality: 0.8 });
    const cuts = shots?.cuts() ?? null;
    return { sheet, frames, cellWidth, cellHeight: CELL_HEIGHT, columns, damaged, cuts };
  } finally {
    clips.close();
  }
}

/** Looks for cuts in a clip's frames as they come, those of them that cannot be decoded left out. */
class Shots {
  private readonly finder: CutFinder;
  private readonly small: SmallPictures;
  private readonly grey = new Uint8Array(SMALL.width * SMALL.height);
  private next = 0;

  constructor(orientation: Orientation, count: number, { times }: PacketIndex) {
    const lastsS = times[count - 1]! - times[0]!;
    this.finder = new CutFinder(count, lastsS > 0 ? (count - 1) / lastsS : 30);
    this.small = new SmallPictures(orientation, SMALL.width, SMALL.height);
  }

  async take(picture: VideoFrame, open: OpenClip): Promise<void> {
    const frame = picture.timestamp;
    this.goOnTo(frame);
    if (frame < this.next) return;
    greyOf(await this.small.read(picture, open), this.grey, 0);
    this.finder.take(this.grey);
    this.next = frame + 1;
  }

  /** Everything before this frame was read, or cannot be. */
  goOnTo(frame: number): void {
    for (; this.next < frame; this.next++) this.finder.take(undefined);
  }

  cuts(): readonly number[] {
    return this.finder.cuts();
  }
}
