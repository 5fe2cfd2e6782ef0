import type { RenderSettings } from '../messages';

/** One picture on its way into a file: RGBA, opaque. */
export interface SunkPicture {
  readonly rgba: Uint8Array<ArrayBuffer>;
  /** When it begins and ends, seconds. */
  readonly fromS: number;
  readonly toS: number;
}

/** Makes a file of pictures, one after the other. */
export interface PictureSink {
  add(picture: SunkPicture): Promise<void>;
  /** Ends the file. */
  finish(): Promise<void>;
}

/** What a sink is made from. */
export interface SinkOrder {
  readonly settings: RenderSettings;
  readonly width: number;
  readonly height: number;
  /** Pictures it will be given. */
  readonly count: number;
  /** A name for the pictures of a sequence. */
  readonly name: string;
  readonly target: FileSystemWritableFileStream;
  /** Some pictures from all over it, where it has to know them beforehand. */
  samples(): Promise<readonly Uint8Array[]>;
}

/** A span of time in whole parts of a second, counted so that rounding never adds up. */
export const wholeParts = (fromS: number, toS: number, parts: number): number =>
  Math.max(1, Math.round(toS * parts) - Math.round(fromS * parts));
