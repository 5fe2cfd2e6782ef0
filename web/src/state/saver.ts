import type { Project } from '@skipback/core/project/schema';
import type { Written } from '@skipback/media/storage/project-records';

/** Where a saver writes to, and the clock it goes by. */
export interface SaverPorts {
  /** Writes a revision to the database. */
  write(project: Project, revision: number): Promise<Written>;
  /** Notes a change at once, for as long as the database does not have it; false where there is no room. */
  note(project: Project, revision: number): boolean;
  /** Forgets what was noted up to a revision. */
  forget(project: Project, revision: number): void;
  now(): number;
  after(ms: number, work: () => void): () => void;
  /** `why` is what the database threw, where it refused. */
  tell(state: SaveState, why?: unknown): void;
}

/** `overtaken`: a newer state was written elsewhere; this tab writes no more. */
export type SaveState = 'saved' | 'saving' | 'refused' | 'overtaken';

/** Longest time from a change to its writing, however many more come meanwhile. */
const DELAY_MS = 300;
/** Changes in quick succession are noted this often. */
const NOTE_EVERY_MS = 250;

/**
 * Keeps one open project saved: every change is noted at once, written soon, one write after the other, each a
 * revision newer than the last. Nothing is read before it is written.
 */
export class Saver {
  private waiting: Project | undefined;
  private cancelTimer: (() => void) | undefined;
  private writing: Promise<void> = Promise.resolve();
  private notedAt = -Infinity;
  private stopped = false;

  /** `revision` is that of the record the project was opened from. */
  constructor(
    private readonly ports: SaverPorts,
    private revision: number,
  ) {}

  /** Takes a change. */
  change(project: Project): void {
    if (this.stopped) return;
    this.waiting = project;
    this.ports.tell('saving');
    if (this.ports.now() - this.notedAt >= NOTE_EVERY_MS) this.note();
    this.cancelTimer ??= this.ports.after(DELAY_MS, () => void this.flush());
  }

  /** The page may be gone in a moment: what is not written yet is noted, and its writing begun. */
  leave(): void {
    if (this.waiting) this.note();
    void this.flush();
  }

  /** Writes what waits; done when the database has it. */
  flush(): Promise<void> {
    this.cancelTimer?.();
    this.cancelTimer = undefined;
    const project = this.waiting;
    if (!project || this.stopped) return this.writing;
    this.waiting = undefined;
    const revision = ++this.revision;
    this.writing = this.writing.then(() => this.write(project, revision));
    return this.writing;
  }

  /** Writes no more, whatever comes. */
  stop(): void {
    this.cancelTimer?.();
    this.stopped = true;
  }

  private note(): void {
    this.notedAt = this.ports.now();
    this.ports.note(this.waiting!, this.revision + 1);
  }

  private async write(project: Project, revision: number): Promise<void> {
    try {
      const written = await this.ports.write(project, revision);
      if (written === 'overtaken') {
        this.stop();
        return this.ports.tell('overtaken');
      }
      this.ports.forget(project, revision);
      if (!this.waiting) this.ports.tell('saved');
    } catch (why) {
      // It waits for the next try, unless something newer does.
      this.waiting ??= project;
      this.ports.note(project, revision);
      this.ports.tell('refused', why);
    }
  }
}
