/** What is used here of gifenc, which brings no types of its own. */
declare module 'gifenc' {
  export type Colour = readonly number[];
  export function quantize(rgba: Uint8Array, most: number): Colour[];
  export interface Encoder {
    writeHeader(): void;
    writeFrame(
      indices: Uint8Array,
      width: number,
      height: number,
      options: {
        palette?: readonly Colour[];
        first?: boolean;
        transparent?: boolean;
        transparentIndex?: number;
        /** Milliseconds. */
        delay?: number;
        /** 0 is for ever. */
        repeat?: number;
        dispose?: number;
      },
    ): void;
    finish(): void;
    bytes(): Uint8Array;
    reset(): void;
  }
  export function GIFEncoder(options?: { auto?: boolean }): Encoder;
}
