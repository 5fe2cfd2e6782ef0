import type { DrawJob, DrawnPicture } from './draw-job';

/** What a pixel worker is told. `bytes` goes there and comes back with the picture in it. */
export type PixelRequest =
  | { readonly kind: 'tables'; readonly tables: Readonly<Record<string, string>> }
  | { readonly kind: 'forget' }
  | {
      readonly kind: 'draw';
      readonly id: number;
      readonly job: DrawJob;
      readonly bytes: Uint8Array<ArrayBuffer>;
    }
  /** The motion from one picture to another, into `field`, which all threads can read. */
  | {
      readonly kind: 'motion';
      readonly id: number;
      readonly first: Uint8Array;
      readonly second: Uint8Array;
      readonly width: number;
      readonly height: number;
      readonly field: Uint8Array;
    };

export type PixelReply =
  | { readonly id: number; readonly drawn: DrawnPicture }
  | { readonly id: number; readonly found: true }
  | { readonly id: number; readonly problem: string };
