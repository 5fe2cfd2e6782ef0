import { type PictureFormat, type RenderSettings, isFilm } from '../messages';

/** What is to be known of a file of pictures before it is made. */
export interface PictureKind {
  readonly id: PictureFormat;
  readonly label: string;
  readonly extension: string;
  readonly mime: string;
  /** Whether it plays over and over by itself. */
  readonly loops: boolean;
  /** Pictures a second it can show at most: what is shorter is shown longer by those who play it. */
  readonly mostHz: number;
}

export const PICTURE_KINDS: readonly PictureKind[] = [
  { id: 'gif', label: 'GIF, animated', extension: 'gif', mime: 'image/gif', loops: true, mostHz: 50 },
  { id: 'apng', label: 'APNG, animated', extension: 'png', mime: 'image/png', loops: true, mostHz: 120 },
  {
    id: 'png-frames',
    label: 'PNG pictures, zipped',
    extension: 'zip',
    mime: 'application/zip',
    loops: false,
    mostHz: Infinity,
  },
  {
    id: 'jpeg-frames',
    label: 'JPEG pictures, zipped',
    extension: 'zip',
    mime: 'application/zip',
    loops: false,
    mostHz: Infinity,
  },
];

export const pictureKind = (id: PictureFormat): PictureKind => PICTURE_KINDS.find((k) => k.id === id)!;

/** Pictures that a file of a result so many frames long has. Throws for a film. */
export function pictureCount(length: number, { format, every, loops }: RenderSettings): number {
  if (isFilm(format)) throw new RangeError(`${format} is a film`);
  return Math.ceil(length / every) * (pictureKind(format).loops ? 1 : loops);
}
