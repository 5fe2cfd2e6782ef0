/** How a picture's brightness and colour differences are made of red, green and blue (ITU-T H.273). */
export type Matrix = 'bt709' | 'bt601' | 'bt2020';
/** How its values stand for light. `sdr` is what BT.709 and BT.601 share. */
export type Transfer = 'sdr' | 'hlg' | 'pq';

/** The colour of a picture's planes. */
export interface Colour {
  readonly matrix: Matrix;
  readonly transfer: Transfer;
  readonly fullRange: boolean;
}

/** The colour of every file this program makes, and of every picture it works on. */
export const WORKING_COLOUR: Colour = { matrix: 'bt709', transfer: 'sdr', fullRange: false };

export const sameColour = (a: Colour, b: Colour): boolean =>
  a.matrix === b.matrix && a.transfer === b.transfer && a.fullRange === b.fullRange;

/** What decoders tell of a picture; null or absent where a file does not say. */
export interface ColourTags {
  readonly matrix?: string | null;
  readonly transfer?: string | null;
  readonly fullRange?: boolean | null;
}

/** Lines from which an untagged picture is taken for high definition, and so for BT.709. */
const HD_LINES = 720;

/** A picture's colour as tagged; what is not tagged follows from its size, as players take it. */
export function colourOf(tags: ColourTags, lines: number): Colour {
  const untagged: Matrix = lines >= HD_LINES ? 'bt709' : 'bt601';
  const matrix: Matrix =
    tags.matrix === 'bt709'
      ? 'bt709'
      : tags.matrix === 'smpte170m' || tags.matrix === 'bt470bg'
        ? 'bt601'
        : tags.matrix?.startsWith('bt2020')
          ? 'bt2020'
          : untagged;
  const transfer = tags.transfer === 'hlg' || tags.transfer === 'pq' ? tags.transfer : 'sdr';
  return { matrix, transfer, fullRange: tags.fullRange === true };
}

/** Shares of red and blue in brightness. */
export const SHARES: Record<Matrix, { readonly red: number; readonly blue: number }> = {
  bt709: { red: 0.2126, blue: 0.0722 },
  bt601: { red: 0.299, blue: 0.114 },
  bt2020: { red: 0.2627, blue: 0.0593 },
};

/** Colour differences to red, green and blue, all less brightness: what each difference adds. */
export function differencesToRgb(matrix: Matrix) {
  const { red, blue } = SHARES[matrix];
  const green = 1 - red - blue;
  return {
    redOfCr: 2 * (1 - red),
    greenOfCb: (-2 * blue * (1 - blue)) / green,
    greenOfCr: (-2 * red * (1 - red)) / green,
    blueOfCb: 2 * (1 - blue),
  };
}
