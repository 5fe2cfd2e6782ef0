import { type Colour, WORKING_COLOUR, colourOf, sameColour } from '@skipback/core/pixels/colour';
import { byTransparency } from '@skipback/core/pixels/transparent';
import { toWorkingColour } from '@skipback/core/pixels/convert';
import { highRange } from '@skipback/core/pixels/high-range';
import { fromRgba, splitPairs, toEightBits, turned } from '@skipback/core/pixels/incoming';
import { type Planes, halfOf, planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Said } from '../worker-client';
import { deepBits, inDeep } from './deep-words';
import type { Orientation } from './open-clips';
import { inScratch } from './scratch';

/** How a decoded picture's colour is to be read. */
export const colourOfFrame = (picture: VideoFrame): Colour =>
  colourOf(picture.colorSpace, picture.codedHeight);

/** Whether a decoded picture is what files are made of already: 4:2:0 of eight bits in BT.709, limited range. */
export const isWorking = (picture: VideoFrame): boolean =>
  (picture.format === 'I420' || picture.format === 'NV12') &&
  sameColour(colourOfFrame(picture), WORKING_COLOUR);

/** Whether a colour has more range, or other primaries, than this program works in. */
const isWide = ({ matrix, transfer }: Colour): boolean => matrix === 'bt2020' || transfer !== 'sdr';

/** Planes of eight bits, and their colour. */
export interface Seen {
  readonly planes: Planes;
  readonly colour: Colour;
}

/**
 * A decoded picture's planes as this program works with them: I420, BT.709 in limited range, upright. Every
 * format a decoder gives is brought in by name; one that cannot be read says so. `into` is a buffer to use, of
 * the picture's size.
 */
export async function workingPlanes(
  picture: VideoFrame,
  orientation: Orientation,
  into?: Uint8Array,
): Promise<Planes> {
  const colour = colourOfFrame(picture);
  const bits = deepBits(picture);
  if (bits && isWide(colour))
    return upright(picture, orientation, into, (to) =>
      inDeep(picture, (deep) => highRange(colour, bits).convert(deep, to)),
    );
  const seen = await seenPlanes(picture, orientation, into);
  toWorking(seen);
  return seen.planes;
}

/**
 * The same in eight bits of its own colour: for what is made smaller before it is brought to ours, and where only light
 * and dark count.
 */
export async function seenPlanes(
  picture: VideoFrame,
  orientation: Orientation,
  into?: Uint8Array,
): Promise<Seen> {
  const { format } = picture;
  const bits = deepBits(picture);
  const { width, height } = picture.visibleRect!;
  // Pictures the browser will not give as they are it can still give as red, green and blue.
  const asRgb = format === null || /^(RGB|BGR)/.test(format);
  const planes = await upright(picture, orientation, into, async (to) => {
    if (asRgb)
      await inScratch(4 * width * height, async (rgba) => {
        await picture.copyTo(rgba, { format: 'RGBA', colorSpace: 'srgb' });
        fromRgba(rgba, hasAlpha(picture), to);
      });
    else if (bits) await inDeep(picture, ({ words }) => toEightBits(words, bits, allOf(to)));
    else {
      await fromEight(picture, format, to);
      if (hasAlpha(picture))
        await inClear(picture, (clear) => byTransparency(to, clear, blackOf(colourOfFrame(picture))));
    }
  });
  return { planes, colour: asRgb ? WORKING_COLOUR : colourOfFrame(picture) };
}

/** Brings planes from their colour to the one that is worked in, in place. */
export function toWorking({ planes, colour }: Seen): void {
  if (isWide(colour)) highRange(colour, 8).convertEight(planes);
  else if (!sameColour(colour, WORKING_COLOUR)) toWorkingColour(planes, colour);
}

/** Black as a colour has it. */
export const blackOf = ({ fullRange }: Colour): number => (fullRange ? 0 : 16);

/** Whether points of a picture may be transparent. */
const hasAlpha = ({ format }: VideoFrame): boolean => /A$/.test(format ?? '');

/** The grey that stands for how much of a point is there. */
const GREYS = Uint8Array.from({ length: 256 }, (_, a) => 16 + Math.round((a * 219) / 255));

/** How much of each point of a picture is there, as grey in the working colour; all of it where it says nothing of that. */
export const clearPlanes = (
  picture: VideoFrame,
  orientation: Orientation,
  into?: Uint8Array,
): Promise<Planes> =>
  upright(picture, orientation, into, async ({ y, u, v }) => {
    u.fill(128);
    v.fill(128);
    if (!hasAlpha(picture)) return void y.fill(235);
    await inClear(picture, (clear) => {
      for (let i = 0; i < y.length; i++) y[i] = GREYS[clear[i]!]!;
    });
  });

/** Reads how much of each point of a picture is there, 0 to 255; what `use` gets is good until it returns. */
async function inClear(picture: VideoFrame, use: (clear: Uint8Array) => void): Promise<void> {
  const { width, height } = picture.visibleRect!;
  const planar = picture.format!.startsWith('I4');
  await inScratch(width * height, async (clear) => {
    await inScratch(planar ? picture.allocationSize() : 4 * width * height, async (bytes) => {
      if (planar) {
        const { offset, stride } = (await picture.copyTo(bytes))[3]!;
        for (let y = 0; y < height; y++)
          clear.set(bytes.subarray(offset + y * stride, offset + y * stride + width), y * width);
        return;
      }
      await picture.copyTo(bytes, { format: 'RGBA' });
      for (let i = 0; i < clear.length; i++) clear[i] = bytes[4 * i + 3]!;
    });
    use(clear);
  });
}

/** A picture's planes as `read` writes them, upright. */
async function upright(
  picture: VideoFrame,
  orientation: Orientation,
  into: Uint8Array | undefined,
  read: (to: Planes) => Promise<void>,
): Promise<Planes> {
  const { width, height } = picture.visibleRect!;
  const bytes = planesBytes(width, height);
  if (orientation.rotation === 0 && !orientation.flip) {
    const to = planesIn(into ?? new Uint8Array(bytes), width, height);
    await read(to);
    return to;
  }
  return inScratch(bytes, async (buffer) => {
    const to = planesIn(buffer, width, height);
    await read(to);
    return turned(to, orientation, into);
  });
}

/** The planes of a picture as one, which they lie in. */
const allOf = ({ width, height, y }: Planes): Uint8Array<ArrayBuffer> =>
  new Uint8Array(y.buffer as ArrayBuffer, y.byteOffset, planesBytes(width, height));

async function fromEight(picture: VideoFrame, format: string, to: Planes): Promise<void> {
  const { width, height } = to;
  const [across, down] = [halfOf(width), halfOf(height)];
  const luma = { offset: 0, stride: width };
  const second = width * height;
  if (format === 'I420') {
    const [u, v] = [second, second + across * down].map((offset) => ({ offset, stride: across }));
    return void (await picture.copyTo(allOf(to), { layout: [luma, u!, v!] }));
  }
  if (format === 'NV12') {
    await picture.copyTo(allOf(to), { layout: [luma, { offset: second, stride: 2 * across }] });
    return splitPairs(to);
  }
  const kind = format.replace(/A$/, '');
  if (!['I420', 'I422', 'I444', 'NV12'].includes(kind))
    throw new Said(`This clip's pictures come as ${format}, which cannot be used yet.`);
  await inScratch(picture.allocationSize(), async (bytes) => {
    const layout = await picture.copyTo(bytes);
    const rows = (plane: number, width: number, height: number, step: number, take: Take): void => {
      const { offset, stride } = layout[plane]!;
      for (let y = 0; y * step < height; y++) {
        const at = offset + y * step * stride;
        take(bytes.subarray(at, at + width), y);
      }
    };
    rows(0, width, height, 1, (row, y) => to.y.set(row, y * width));
    if (kind === 'NV12') {
      const pairs = allOf(to).subarray(second);
      rows(1, 2 * across, down, 1, (row, y) => pairs.set(row, 2 * y * across));
      return splitPairs(to);
    }
    for (const [plane, out] of [
      [1, to.u],
      [2, to.v],
    ] as const)
      if (kind === 'I444')
        rows(plane, width, height, 2, (row, y) => {
          for (let i = 0; i < across; i++)
            out[y * across + i] = (row[2 * i]! + row[Math.min(width - 1, 2 * i + 1)]! + 1) >> 1;
        });
      else
        rows(plane, across, kind === 'I422' ? height : down, kind === 'I422' ? 2 : 1, (row, y) =>
          out.set(row, y * across),
        );
  });
}

type Take = (row: Uint8Array, y: number) => void;
