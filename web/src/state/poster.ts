import type { PreviewReply } from '@skipback/media/preview/messages';
import { usePlaying } from './playing';
import { saveNow, shelfFacts } from './saving';

const AFTER_MS = 1500;

/** Renews the shelf's picture of the project, unhurried: once a frame of a changed result is on the screen. */
export class Poster {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private isOld = true;

  /** `ask` has the picture make one. */
  constructor(private readonly ask: () => void) {}

  /** The result is another one. */
  outdate(): void {
    this.isOld = true;
  }

  /** A frame of the result is on the screen. */
  shown(): void {
    if (!this.isOld) return;
    this.isOld = false;
    this.stop();
    this.timer = setTimeout(this.ask, AFTER_MS);
  }

  take({ poster }: Extract<PreviewReply, { kind: 'poster' }>): void {
    const first = shelfFacts.poster === null;
    shelfFacts.poster = poster;
    shelfFacts.at = usePlaying.getState().position;
    if (first) void saveNow();
  }

  stop(): void {
    clearTimeout(this.timer);
  }
}
