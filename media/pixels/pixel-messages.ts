import type { DrawJob, DrawnPicture } from './draw-job';

/** What a pixel worker is told. `bytes` goes there and comes back with the picture in it. */
export type PixelRequest =
  | { readonly kind: 'tables'; readonly tables: Readonly<Record<string, string>> }
  | {
      readonly kind: 'draw';
      readonly id: number;
      readonly job: DrawJob;
      readonly bytes: Uint8Array<ArrayBuffer>;
    };

export type PixelReply =
  { readonly id: number; readonly drawn: DrawnPicture } | { readonly id: number; readonly problem: string };
