import type { ClipSource } from '@skipback/media/frames/clip-row';
import type { SmallCopy } from '@skipback/media/frames/small-copy';

/** What the picture was told to read, the clips first; it is told again only where something differs. */
export class ShownSources {
  private now: readonly ClipSource[] = [];
  private copies: ReadonlyMap<Blob, readonly SmallCopy[]> = new Map();

  constructor(private readonly tell: (sources: readonly ClipSource[]) => void) {}

  /** What is shown in place of some frames, by the files these are from; holds for what is told from now on. */
  setCopies(copies: ReadonlyMap<Blob, readonly SmallCopy[]>): void {
    this.copies = copies;
  }

  set(own: readonly ClipSource[]): void {
    const sources = own.map((s) => ({ ...s, copies: this.copies.get(s.file) }));
    const same =
      sources.length === this.now.length &&
      sources.every((s, i) => {
        const before = this.now[i]!;
        const held = s.placing?.key === before.placing?.key;
        const placed = s.framing === before.framing && held;
        return s.file === before.file && s.clipId === before.clipId && placed && s.copies === before.copies;
      });
    if (same) return;
    this.now = sources;
    this.tell(sources);
  }

  /** The place of each clip in what is read, by its id. */
  places(): ReadonlyMap<string, number> {
    return new Map(this.now.map((s, i) => [s.clipId, i]));
  }

  forget(): void {
    this.now = [];
  }
}
