import type { Drawn } from '@skipback/core/looks/resolve';

/** A picture of source pictures: plain data, so that it can go to another thread. */
export interface DrawnMade {
  /** What it is made of: I420, BT.709 in limited range, rows without gaps; or pictures in RGBA. */
  readonly sources: readonly Uint8Array[];
  /** How much each of several has of it, 32768ths; missing for one alone. */
  readonly weights: readonly number[] | undefined;
  /** Where it is the mean of pictures along the motion: their instants (`Gather.along`), and the motion from each source to the next. */
  readonly along?:
    | { readonly instants: readonly number[]; readonly fields: readonly (Uint8Array | undefined)[] }
    | undefined;
}

/** One picture before others come to it. */
export interface DrawnSide extends DrawnMade {
  readonly stack: readonly Drawn[];
  /** What treatments lay over it, in their order. */
  readonly layers: readonly DrawnMade[];
  /** Of which source frames it is made, in a text: equal texts, equal pictures, as long as nothing is forgotten. */
  readonly content?: string | undefined;
}

/** One picture to be made. */
export interface DrawJob extends DrawnSide {
  /** At a dissolve the other picture, its share in 32768ths, and what is drawn on both together. */
  readonly other?:
    | (DrawnSide & { readonly share: number; readonly over: Pick<DrawnSide, 'stack' | 'layers' | 'content'> })
    | undefined;
  /** What all pictures that go into it are in; of RGBA with layers none is drawn coarser. */
  readonly from: 'i420' | 'rgba';
  /** Its size. */
  readonly width: number;
  readonly height: number;
  /** Pixels of the picture to one of the project's. */
  readonly unit: number;
  /** 1 draws at the picture's own size, 2 and 3 at a half and a third of it. */
  readonly coarseness: number;
  readonly into: 'i420' | 'rgba';
}

export interface DrawnPicture {
  /** The picture; the receiver may give its buffer back for the next one. */
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly width: number;
  readonly height: number;
  /** The part of what moves whose motion was needed and not trusted, 0 to 1. */
  readonly lost: number;
  /** What each treatment took, by its id, in milliseconds. */
  readonly costs: readonly (readonly [look: string, ms: number])[];
}
