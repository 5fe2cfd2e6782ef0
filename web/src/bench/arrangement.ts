/** How the picture and what lies under it share the room left of the column. */
export interface Arrangement {
  /** Whether the picture stands as a column of the full height beside the weave, or over it. */
  readonly beside: boolean;
  /** What the picture's part takes of the room: of its height, or where it stands beside, of its width; pixels. */
  readonly picture: number;
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** The share that a picture's part usually has, over the weave and beside it. */
export const USUAL = { over: 0.55, beside: 0.43 } as const;
/** What the rest needs at least: two rows of readouts and clips, strips, threads and a lane; their width. */
const LEAST_REST = { over: 290, beside: 380 } as const;
const LEAST_PICTURE = 120;
/** Air around a picture, both sides together. */
export const AIR = 16;

const limited = (share: number, room: number, rest: number): number =>
  Math.round(Math.max(LEAST_PICTURE, Math.min(share * room, room - rest)));

/** Pixels of the screen that a picture of a shape covers in a room. */
function area(size: Size, width: number, height: number): number {
  const scale = Math.max(0, Math.min((width - AIR) / size.width, (height - AIR) / size.height));
  return size.width * size.height * scale * scale;
}

/**
 * Over the weave, or beside it where a picture is clearly larger there, as upright ones are. `share` is the picture's
 * part as it was dragged, null the usual.
 */
export function arrange(size: Size, room: Size, share: number | null): Arrangement {
  const over = limited(USUAL.over, room.height, LEAST_REST.over);
  const beside = limited(USUAL.beside, room.width, LEAST_REST.beside);
  const stands = area(size, beside, room.height) > 1.15 * area(size, room.width, over);
  const [usual, along, rest] = stands
    ? [USUAL.beside, room.width, LEAST_REST.beside]
    : [USUAL.over, room.height, LEAST_REST.over];
  return { beside: stands, picture: limited(share ?? usual, along, rest) };
}
