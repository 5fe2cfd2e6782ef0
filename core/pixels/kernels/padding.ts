/** Pixels repeated on every side of a grey picture, so that what looks beyond its border finds some. */
export const PAD: i32 = 24;
