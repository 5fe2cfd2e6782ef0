/** Pictures that are packed at once, at most, and the bytes that they may have together. */
const MOST = 8;
const MOST_BYTES = 256 << 20;

/** How many pictures of a size are packed at once: by what the machine has. */
export const packedAtOnce = (width: number, height: number, cores: number): number =>
  Math.max(1, Math.min(MOST, cores, Math.floor(MOST_BYTES / (4 * width * height))));

/** Does up to `depth` things at once, and takes what they come to in the order they were given. */
export class Abreast<T> {
  private readonly waiting: Promise<T>[] = [];
  /** Things that were done at once, at most. */
  most = 0;

  constructor(
    private readonly depth: number,
    private readonly take: (made: T) => Promise<void>,
  ) {}

  /** Begins something; ends when there is room for more. Throws what an earlier one threw. */
  async add(made: Promise<T>): Promise<void> {
    // Heard when it is its turn.
    made.catch(() => undefined);
    this.waiting.push(made);
    this.most = Math.max(this.most, this.waiting.length);
    if (this.waiting.length >= this.depth) await this.next();
  }

  async finish(): Promise<void> {
    while (this.waiting.length > 0) await this.next();
  }

  private async next(): Promise<void> {
    await this.take(await this.waiting.shift()!);
  }
}
