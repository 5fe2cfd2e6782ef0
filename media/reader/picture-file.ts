/** How long a still picture lasts as a clip, seconds. */
export const STILL_S = 5;
/** Of an animated picture whose frame says nothing of its length. */
const UNSAID_S = 0.1;

/** Kinds of picture by how their files begin. */
const BEGINNINGS: readonly (readonly [type: string, name: string, begins: RegExp])[] = [
  ['image/png', 'PNG', /^\x89PNG\r\n/],
  ['image/gif', 'GIF', /^GIF8/],
  ['image/jpeg', 'JPEG', /^\xff\xd8\xff/],
  ['image/webp', 'WebP', /^RIFF[^]{4}WEBP/],
  ['image/avif', 'AVIF', /^[^]{4}ftypavi[fs]/],
  ['image/bmp', 'BMP', /^BM[^]{4}\0\0\0\0/],
];

/** A still or animated picture held open. Whoever opened it closes it. */
export interface PictureFile {
  readonly kind: 'picture';
  readonly name: string;
  readonly count: number;
  /** Of the first frame, upright. */
  readonly width: number;
  readonly height: number;
  /** Set where every frame lasts as long, seconds: then none has to be decoded to know it. */
  readonly evenS?: number;
  /** Of numbered pictures: how many numbers are missing between the first and the last. */
  readonly missing?: number;
  /** The n-th frame; how long it lasts in seconds. Colours are not multiplied by what is transparent. Throws where it is damaged. */
  decode(n: number): Promise<{ picture: VideoFrame; durationS: number }>;
  close(): void;
}

/** What kind of picture a file is by its first bytes; undefined for anything else. */
export async function pictureType(blob: Blob): Promise<{ type: string; name: string } | undefined> {
  const bytes = new Uint8Array(await blob.slice(0, 16).arrayBuffer());
  const text = String.fromCharCode(...bytes);
  const found = BEGINNINGS.find(([, , begins]) => begins.test(text));
  return found && { type: found[0], name: found[1] };
}

/** Opens a picture; undefined where the file is none, or where there is nothing here that could decode it. Throws on one that is broken. */
export async function openPictureFile(blob: Blob): Promise<PictureFile | undefined> {
  const kind = await pictureType(blob);
  if (!kind || typeof ImageDecoder === 'undefined' || !(await ImageDecoder.isTypeSupported(kind.type)))
    return undefined;
  const decoder = new ImageDecoder({
    type: kind.type,
    data: await blob.arrayBuffer(),
    premultiplyAlpha: 'none',
    // Its own colours, so that what is laid on has the ones it was drawn with.
    colorSpaceConversion: 'default',
  });
  try {
    await decoder.tracks.ready;
    await decoder.completed;
    const count = decoder.tracks.selectedTrack?.frameCount ?? 1;
    const decode = async (n: number) => {
      if (kind.type === 'image/jpeg') return { picture: await uprightFrame(blob), durationS: STILL_S };
      const { image } = await decoder.decode({ frameIndex: n });
      const durationS = count === 1 ? STILL_S : image.duration ? image.duration / 1e6 : UNSAID_S;
      return { picture: image, durationS };
    };
    const { picture } = await decode(0);
    const { displayWidth: width, displayHeight: height } = picture;
    picture.close();
    return { kind: 'picture', name: kind.name, count, width, height, decode, close: () => decoder.close() };
  } catch (error) {
    decoder.close();
    throw error;
  }
}

/** A photograph as it is to be seen: how the camera was held is written in its file, and drawing heeds it. */
async function uprightFrame(blob: Blob): Promise<VideoFrame> {
  const bitmap = await createImageBitmap(blob);
  try {
    const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
    canvas.getContext('2d', { alpha: false })!.drawImage(bitmap, 0, 0);
    return new VideoFrame(canvas, { timestamp: 0, alpha: 'discard' });
  } finally {
    bitmap.close();
  }
}

/** Whether some of a picture is transparent. */
export async function isClear(picture: VideoFrame): Promise<boolean> {
  if (!/^(RGBA|BGRA)$/.test(picture.format ?? '')) return false;
  const { width, height } = picture.visibleRect!;
  const rgba = new Uint8Array(4 * width * height);
  await picture.copyTo(rgba, { format: 'RGBA' });
  for (let i = 3; i < rgba.length; i += 4) if (rgba[i]! < 255) return true;
  return false;
}
