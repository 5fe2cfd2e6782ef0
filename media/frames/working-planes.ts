import { type Colour, WORKING_COLOUR, colourOf, sameColour } from '@skipback/core/pixels/colour';
import { fromRgba, toWorkingColour } from '@skipback/core/pixels/convert';
import { type DeepPlanes, HighRange } from '@skipback/core/pixels/high-range';
import { turned } from '@skipback/core/pixels/place';
import { type Planes, halfOf, planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Said } from '../worker-client';
import type { Orientation } from './open-clips';

/** How a decoded picture's colour is to be read. */
export const colourOfFrame = (picture: VideoFrame): Colour =>
  colourOf(picture.colorSpace, picture.codedHeight);

/** Whether a decoded picture is what files are made of already: I420 in BT.709, limited range. */
export const isWorking = (picture: VideoFrame): boolean =>
  picture.format === 'I420' && sameColour(colourOfFrame(picture), WORKING_COLOUR);

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
  const { format } = picture;
  const size = { width: picture.visibleRect!.width, height: picture.visibleRect!.height };
  const buffer = into ?? new Uint8Array(planesBytes(size.width, size.height));
  const planes = planesIn(buffer, size.width, size.height);
  const bits = /P1([02])$/.exec(format ?? '');
  if (format === null || /^(RGB|BGR)/.test(format)) {
    // Pictures the browser will not give as they are it can still give as red, green and blue.
    const rgba = new Uint8Array(size.width * size.height * 4);
    await picture.copyTo(rgba, { format: 'RGBA', colorSpace: 'srgb' });
    if (hasAlpha(picture)) multiplied(rgba);
    fromRgba(rgba, 'rgb', planes);
  } else if (bits) await fromDeep(picture, format, 10 + 2 * Number(bits[1] === '2'), colour, planes);
  else {
    await fromEight(picture, format, planes);
    if (colour.matrix === 'bt2020' || colour.transfer !== 'sdr') {
      const deep = { ...size, bits: 8, y: words(planes.y), u: words(planes.u), v: words(planes.v) };
      new HighRange(colour.transfer, colour.matrix, colour.fullRange, 8).convert(deep, planes);
    } else if (!sameColour(colour, WORKING_COLOUR)) toWorkingColour(planes, colour);
  }
  return turned(planes, orientation.rotation, orientation.flip);
}

/**
 * The same where only light and dark count: the usual formats keep the values they were decoded with, whatever colour
 * they stand for.
 */
export async function lightPlanes(picture: VideoFrame, orientation: Orientation): Promise<Planes> {
  const { format } = picture;
  if (format !== 'I420' && format !== 'NV12') return workingPlanes(picture, orientation);
  const { width, height } = picture.visibleRect!;
  const planes = planesIn(new Uint8Array(planesBytes(width, height)), width, height);
  await fromEight(picture, format, planes);
  return turned(planes, orientation.rotation, orientation.flip);
}

/** Whether points of a picture may be transparent. */
const hasAlpha = ({ format }: VideoFrame): boolean => format === 'RGBA' || format === 'BGRA';

/** Colours by how much of each point is there, so that what is transparent is black. */
function multiplied(rgba: Uint8Array): void {
  for (let i = 0; i < rgba.length; i += 4) {
    const a = rgba[i + 3]!;
    if (a < 255) for (let k = i; k < i + 3; k++) rgba[k] = Math.round((rgba[k]! * a) / 255);
  }
}

/** How much of each point of a picture is there, as grey in the working colour; all of it where it says nothing of that. */
export async function clearPlanes(
  picture: VideoFrame,
  orientation: Orientation,
  into?: Uint8Array,
): Promise<Planes> {
  const { width, height } = picture.visibleRect!;
  const planes = planesIn(into ?? new Uint8Array(planesBytes(width, height)), width, height);
  planes.u.fill(128);
  planes.v.fill(128);
  if (!hasAlpha(picture)) planes.y.fill(235);
  else {
    const rgba = new Uint8Array(4 * width * height);
    await picture.copyTo(rgba, { format: 'RGBA' });
    for (let i = 0; i < planes.y.length; i++) planes.y[i] = 16 + Math.round((rgba[4 * i + 3]! * 219) / 255);
  }
  return turned(planes, orientation.rotation, orientation.flip);
}

const words = (bytes: Uint8Array): Uint16Array => Uint16Array.from(bytes);

/** Planes of a picture in their own layout, without gaps between rows. */
async function copied(picture: VideoFrame): Promise<{ bytes: Uint8Array; layout: PlaneLayout[] }> {
  const bytes = new Uint8Array(picture.allocationSize());
  return { bytes, layout: await picture.copyTo(bytes) };
}

function rows(
  bytes: Uint8Array,
  layout: PlaneLayout,
  rowBytes: number,
  height: number,
  step: number,
  take: (row: Uint8Array, y: number) => void,
): void {
  for (let y = 0; y * step < height; y++) {
    const at = layout.offset + y * step * layout.stride;
    take(bytes.subarray(at, at + rowBytes), y);
  }
}

async function fromEight(picture: VideoFrame, format: string, to: Planes): Promise<void> {
  const { width, height } = to;
  if (format === 'I420') {
    const [w, h] = [halfOf(width), halfOf(height)];
    const layout = [
      { offset: 0, stride: width },
      { offset: width * height, stride: w },
      { offset: width * height + w * h, stride: w },
    ];
    await picture.copyTo(new Uint8Array(to.y.buffer, to.y.byteOffset, planesBytes(width, height)), {
      layout,
    });
    return;
  }
  const { bytes, layout } = await copied(picture);
  rows(bytes, layout[0]!, width, height, 1, (row, y) => to.y.set(row, y * width));
  const across = halfOf(width);
  const kind = format.replace(/A$/, '');
  if (kind === 'NV12')
    return rows(bytes, layout[1]!, 2 * across, halfOf(height), 1, (row, y) => {
      for (let i = 0; i < across; i++) {
        to.u[y * across + i] = row[2 * i]!;
        to.v[y * across + i] = row[2 * i + 1]!;
      }
    });
  for (const [plane, out] of [
    [1, to.u],
    [2, to.v],
  ] as const) {
    if (kind === 'I420')
      rows(bytes, layout[plane]!, across, halfOf(height), 1, (row, y) => out.set(row, y * across));
    else if (kind === 'I422')
      rows(bytes, layout[plane]!, across, height, 2, (row, y) => out.set(row, y * across));
    else if (kind === 'I444')
      rows(bytes, layout[plane]!, width, height, 2, (row, y) => {
        for (let i = 0; i < across; i++)
          out[y * across + i] = (row[2 * i]! + row[Math.min(width - 1, 2 * i + 1)]! + 1) >> 1;
      });
    else throw new Said(`This clip's pictures come as ${format}, which cannot be used yet.`);
  }
}

async function fromDeep(
  picture: VideoFrame,
  format: string,
  bits: number,
  colour: Colour,
  to: Planes,
): Promise<void> {
  const { width, height } = to;
  const { bytes, layout } = await copied(picture);
  const kind = format.slice(0, 4);
  const [across, down] = [halfOf(width), halfOf(height)];
  const plane = (at: number, w: number, h: number, stepX: number, stepY: number): Uint16Array => {
    const out = new Uint16Array(w * h);
    const { offset, stride } = layout[at]!;
    const view = new DataView(bytes.buffer, bytes.byteOffset);
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++)
        out[y * w + x] = view.getUint16(offset + y * stepY * stride + 2 * x * stepX, true);
    return out;
  };
  const stepX = kind === 'I444' ? 2 : 1;
  const stepY = kind === 'I420' ? 1 : 2;
  const deep: DeepPlanes = {
    ...{ width, height, bits },
    y: plane(0, width, height, 1, 1),
    u: plane(1, across, down, stepX, stepY),
    v: plane(2, across, down, stepX, stepY),
  };
  if (colour.matrix !== 'bt2020' && colour.transfer === 'sdr') {
    // More bits of the same colours: rounded to eight.
    const shift = bits - 8;
    const round = (from: Uint16Array, out: Uint8Array) =>
      from.forEach((v, i) => (out[i] = Math.min(255, (v + (1 << (shift - 1))) >> shift)));
    round(deep.y, to.y);
    round(deep.u, to.u);
    round(deep.v, to.v);
    if (!sameColour(colour, WORKING_COLOUR)) toWorkingColour(to, colour);
  } else new HighRange(colour.transfer, colour.matrix, colour.fullRange, bits).convert(deep, to);
}
