import { PixelPool } from '@skipback/media/pixels/pixel-pool';
import { usePlaying } from '../state/playing';
import { type SmallFrame, drawSmall } from '../variations/small-frames';
import type { Preview } from './previews';

/** Threads that draw the small loops: never the page's own. */
const THREADS = 2;
/** How long drawing waits between two pictures while the result itself is playing, milliseconds. */
const GIVES_WAY_MS = 120;

/** One small loop: what it shows, and where. */
interface Loop {
  readonly preview: Preview;
  readonly canvas: HTMLCanvasElement;
  /** Its pictures as they are drawn one after the other. */
  readonly drawn: (ImageBitmap | undefined)[];
}

const isPlain = ({ made, stack }: SmallFrame): boolean => stack.length === 0 && made.frames.length === 1;

/**
 * Plays small loops side by side from one row of small pictures. Every loop moves from the start; what is drawn on its pictures
 * comes in as threads get to it, and is kept, so that a loop costs no more than copying once it was through.
 */
export class LoopPlayer {
  private readonly pool = new PixelPool(THREADS);
  private readonly pixels = new Map<number, Uint8Array>();
  private readonly reader = new OffscreenCanvas(1, 1);
  private loops: readonly Loop[] = [];
  private closed = false;
  private request = 0;

  constructor(
    /** The small picture of a source frame. */
    private readonly pictureOf: (frame: number) => ImageBitmap | undefined,
    /** Pixels of a small picture to one of the project's. */
    private readonly unit: number,
  ) {}

  /** Begins to play; `dressed` hears when every picture of every loop is as it should be. */
  play(
    given: readonly { readonly preview: Preview; readonly canvas: HTMLCanvasElement }[],
    dressed: () => void,
  ): void {
    this.loops = given.map((g) => ({ ...g, drawn: [] }));
    this.pool.setTables(Object.assign({}, ...given.map((g) => g.preview.tables)) as Record<string, string>);
    const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
    const began = performance.now();
    let shown = -1;
    const tick = () => {
      const passed = (performance.now() - began) / 1000;
      const at = Math.floor(passed * 30);
      if (at !== shown) this.show(still ? 0 : passed);
      shown = at;
      this.request = requestAnimationFrame(tick);
    };
    tick();
    void Promise.all(Array.from({ length: THREADS }, (_, thread) => this.fill(thread))).then(
      () => !this.closed && dressed(),
      () => undefined,
    );
  }

  close(): void {
    this.closed = true;
    cancelAnimationFrame(this.request);
    this.pool.close();
    for (const { drawn } of this.loops) drawn.forEach((p) => p?.close());
    this.loops = [];
  }

  private show(passedS: number): void {
    for (const { preview, canvas, drawn } of this.loops) {
      const { frames, hz } = preview;
      const at = Math.floor(passedS * hz) % frames.length;
      const picture = drawn[at] ?? this.pictureOf(frames[at]!.made.frames[0]!);
      if (picture) canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
    }
  }

  /** Draws what one thread takes: the first picture of every loop, then the second ... */
  private async fill(thread: number): Promise<void> {
    const longest = Math.max(0, ...this.loops.map((l) => l.preview.frames.length));
    for (let at = 0; at < longest; at++)
      for (const [i, { preview, canvas, drawn }] of this.loops.entries()) {
        const frame = preview.frames[at];
        if (i % THREADS !== thread || !frame || isPlain(frame)) continue;
        if (usePlaying.getState().step !== 0)
          await new Promise((resolve) => setTimeout(resolve, GIVES_WAY_MS));
        if (this.closed) return;
        const { width, height } = canvas;
        const made = await drawSmall(
          this.pool,
          frame,
          (f) => this.rgbaOf(f, width, height),
          { width, height },
          this.unit,
        );
        if (!made || this.closed) continue;
        const image = new ImageData(new Uint8ClampedArray(made.bytes), width, height);
        this.pool.giveBack(made.bytes);
        const picture = await createImageBitmap(image);
        if (this.closed) return picture.close();
        drawn[at] = picture;
      }
  }

  /** Pixels of a source frame, read once. */
  private rgbaOf(frame: number, width: number, height: number): Uint8Array | undefined {
    const known = this.pixels.get(frame);
    if (known) return known;
    const picture = this.pictureOf(frame);
    if (!picture) return undefined;
    if (this.reader.width !== width || this.reader.height !== height)
      [this.reader.width, this.reader.height] = [width, height];
    const context = this.reader.getContext('2d', { willReadFrequently: true })!;
    context.drawImage(picture, 0, 0, width, height);
    const { data } = context.getImageData(0, 0, width, height);
    const bytes = this.pool.sourceBytes(data.length);
    bytes.set(data);
    this.pixels.set(frame, bytes);
    return bytes;
  }
}
