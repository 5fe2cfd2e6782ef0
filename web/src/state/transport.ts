import type { CompiledProject } from '@skipback/core/project/compile';
import { toNumber, type Rational } from '@skipback/core/time/rational';
import type { PreviewReply } from '@skipback/media/preview/messages';
import { PreviewClient } from '@skipback/media/preview/preview-client';
import { resultArrays } from './compiled';
import type { LoadedClip } from './library';
import { setPlayback, usePlayback } from './playback';
import { saveNow, shelfFacts } from './saving';

/** Steps that J and L go through when pressed again, result frames a step. */
const FASTER = [1, 2, 4, 8];
const POSTER_AFTER_MS = 1500;

/** Tells the picture what to show and hears what it shows. One for the open bench. */
class Transport {
  private client: PreviewClient | undefined;
  private clips: readonly LoadedClip[] = [];
  private total = 0;
  private posterTimer: ReturnType<typeof setTimeout> | undefined;
  private sourcePlace = 0;
  private posterIsOld = true;

  connect(canvas: HTMLCanvasElement): () => void {
    const client = (this.client = new PreviewClient(canvas, (reply) => this.hear(reply)));
    return () => {
      clearTimeout(this.posterTimer);
      client.close();
      if (this.client === client) this.client = undefined;
      this.clips = [];
      setPlayback({ step: 0 });
    };
  }

  resize(width: number, height: number, projectWidth: number): void {
    this.client?.send({ kind: 'resize', width, height, projectWidth });
    this.refresh();
  }

  setClips(clips: readonly LoadedClip[]): void {
    const same =
      clips.length === this.clips.length &&
      clips.every(
        (c, i) =>
          c.source.file === this.clips[i]!.source.file &&
          c.clip.id === this.clips[i]!.clip.id &&
          c.clip.framing === this.clips[i]!.clip.framing,
      );
    if (same) return;
    this.clips = clips;
    this.client?.send({ kind: 'clips', clips: clips.map((c) => c.source) });
  }

  setResult(compiled: CompiledProject, rate: Rational): void {
    this.total = compiled.totalFrames;
    const arrays = resultArrays(
      compiled,
      this.clips.map((c) => c.clip.id),
    );
    shelfFacts.lengthFrames = compiled.totalFrames;
    this.client?.send({ kind: 'result', ...arrays, rateHz: toNumber(rate) });
    const { position } = usePlayback.getState();
    if (position >= this.total) setPlayback({ position: Math.max(0, this.total - 1) });
    this.refresh();
    this.posterIsOld = true;
  }

  /** Plays `step` result frames at a time, from the playhead. */
  play(step: number): void {
    if (this.total === 0) return;
    const { position, loops } = usePlayback.getState();
    const atEnd = !loops && (step > 0 ? position >= this.total - 1 : position <= 0);
    const from = atEnd ? (step > 0 ? 0 : this.total - 1) : position;
    setPlayback({ step, showing: 'result', position: from });
    this.client?.send({ kind: 'play', from, step, first: 0, end: this.total, loops });
  }

  toggle(): void {
    if (usePlayback.getState().step !== 0) this.pause();
    else this.play(1);
  }

  /** Plays on in one direction, faster with each call. */
  shuttle(direction: 1 | -1): void {
    const { step } = usePlayback.getState();
    const place = FASTER.indexOf(step * direction);
    this.play(direction * FASTER[Math.min(FASTER.length - 1, place + 1)]!);
  }

  pause(): void {
    setPlayback({ step: 0 });
    this.refresh();
  }

  seekResult(frame: number): void {
    const position = Math.min(Math.max(0, frame), Math.max(0, this.total - 1));
    const now = usePlayback.getState();
    // A press and its release seek the same frame: asking twice would begin the decoding anew.
    if (now.step === 0 && now.showing === 'result' && now.position === position) return;
    setPlayback({ step: 0, showing: 'result', position });
    this.client?.send({ kind: 'still-result', position });
  }

  seekSource(clipId: string, frame: number): void {
    const clipPlace = this.clips.findIndex((c) => c.clip.id === clipId);
    if (clipPlace < 0) return;
    const now = usePlayback.getState();
    const same = now.step === 0 && now.showing === 'source' && now.sourceFrame === frame;
    if (same && this.sourcePlace === clipPlace) return;
    this.sourcePlace = clipPlace;
    setPlayback({ step: 0, showing: 'source', sourceFrame: frame });
    this.client?.send({ kind: 'still-source', clipPlace, frame });
  }

  private refresh(): void {
    const { showing, step, position, sourceFrame, loops } = usePlayback.getState();
    if (!this.client || this.clips.length === 0) return;
    if (step !== 0)
      this.client.send({ kind: 'play', from: position, step, first: 0, end: this.total, loops });
    else if (showing === 'result') this.client.send({ kind: 'still-result', position });
    else this.client.send({ kind: 'still-source', clipPlace: this.sourcePlace, frame: sourceFrame });
  }

  /** Once a frame of the result is on the screen, the shelf's picture is made of it, unhurried. */
  private renewPoster(): void {
    if (!this.posterIsOld) return;
    this.posterIsOld = false;
    clearTimeout(this.posterTimer);
    this.posterTimer = setTimeout(() => this.client?.send({ kind: 'poster' }), POSTER_AFTER_MS);
  }

  private hear(reply: PreviewReply): void {
    if (reply.kind === 'shown-result') {
      if (usePlayback.getState().step !== 0) setPlayback({ position: reply.position });
      this.renewPoster();
    } else if (reply.kind === 'shown-source') this.sourcePlace = reply.clipPlace;
    else if (reply.kind === 'ended') setPlayback({ step: 0 });
    else if (reply.kind === 'stats') setPlayback({ stats: reply.stats });
    else if (reply.kind === 'trouble') setPlayback({ trouble: reply.sentence });
    else if (reply.kind === 'poster') {
      const first = shelfFacts.poster === null;
      shelfFacts.poster = reply.poster;
      if (first) void saveNow();
    }
  }
}

export const transport = new Transport();
