import type { CompiledProject } from '@skipback/core/project/compile';
import { toNumber } from '@skipback/core/time/rational';
import type { PreviewReply } from '@skipback/media/preview/messages';
import type { Stereo } from '@skipback/core/sound/stereo';
import { type Frame, frame, frameWithin } from '@skipback/core/time/units';
import { flashingIn } from '@skipback/core/looks/flashing';
import { type Recipes, untouched } from '@skipback/core/looks/recipes';
import type { SeamLooks } from '@skipback/media/import/seam';
import type { Project } from '@skipback/core/project/schema';
import type { SmallCopy } from '@skipback/media/frames/small-copy';
import { type ResultArrays, resultOf } from './compiled';
import { KeptPicture } from './kept-picture';
import type { LoadedClip } from './library';
import { type Peek, setPlaying, usePlaying } from './playing';
import { Poster } from './poster';
import { shelfFacts } from './saving';
import { ShownSources } from './shown-sources';
import { Sounding } from './sounding';
import { setTold, useTold } from './told';

/** Steps that J and L go through when pressed again, result frames a step. */
const FASTER = [1, 2, 4, 8];

export interface PlayRange {
  readonly first: Frame;
  readonly end: Frame;
}

/** What looks draw on a result's last frame and on its first; undefined where that is the same. */
function endsOf({ stacks, stackOf, tables }: Recipes, projectWidth: number): SeamLooks | undefined {
  const [first, last] = [stackOf[0] ?? 0, stackOf[stackOf.length - 1] ?? 0];
  if (first === last) return undefined;
  return { before: stacks[last]!, after: stacks[first]!, tables, projectWidth };
}

/** Tells the picture what to show and hears what it shows. One for the open bench. */
class Transport {
  private readonly picture = new KeptPicture({
    hear: (reply) => this.hear(reply),
    died: (again) => this.died(again),
    returned: () => {
      this.sendResult(this.result);
      this.refresh();
    },
    left: () => {
      this.sounding.close();
      this.clips = [];
      this.sources.forget();
      setPlaying({ step: 0 });
    },
  });
  private clips: readonly LoadedClip[] = [];
  private readonly sources = new ShownSources((clips) => this.picture.send({ kind: 'clips', clips }));
  private readonly poster = new Poster(() => this.picture.send({ kind: 'poster' }));
  private total = frame(0);
  private playsNext = false;
  /** The result frame to begin with, once there is a result. */
  private opensAt = frame(0);
  private rateHz = 30;
  private result: ResultArrays = {
    clipPlaces: new Int32Array(),
    clipFrames: new Int32Array(),
    recipes: untouched(0),
  };
  /** Result frames [first, end) that playing keeps to; null for all. */
  private range: PlayRange | null = null;
  private readonly sounding = new Sounding({
    shiftClock: (byMs) => this.picture.send({ kind: 'clock', byMs }),
  });

  connect(canvas: HTMLCanvasElement): () => void {
    setTold({ standsIn: false });
    const disconnect = this.picture.connect(canvas);
    return () => {
      this.poster.stop();
      disconnect();
    };
  }

  /** The picture's worker is no more. */
  private died(again: boolean): void {
    // Whoever looks for the cause finds it in the console.
    console.error('The picture’s worker died.');
    this.sounding.stop();
    setPlaying({ step: 0 });
    setTold({
      trouble: again
        ? 'The picture stopped, and was started again.'
        : 'The picture stopped again and again. Remove what was imported last, or reload the page: everything is saved.',
      ...(again && { picture: useTold.getState().picture + 1 }),
    });
  }

  resize(width: number, height: number, projectWidth: number): void {
    this.picture.send({ kind: 'resize', width, height, projectWidth });
    this.refresh();
  }

  /** Takes the clips, and what is shown in place of some of their frames, by their files. */
  setClips(clips: readonly LoadedClip[], copies: ReadonlyMap<Blob, readonly SmallCopy[]>): void {
    this.clips = clips;
    this.sources.setCopies(copies);
  }

  setResult(compiled: CompiledProject, project: Project): void {
    this.total = frame(compiled.totalFrames);
    this.rateHz = toNumber(project.rate);
    const { arrays, sources } = resultOf(compiled, this.clips, project);
    this.sources.set(sources);
    this.result = arrays;
    const { recipes } = this.result;
    setTold({
      flashing: flashingIn(recipes, this.rateHz) ?? null,
      ends: endsOf(recipes, project.size.width),
      ready: null,
      motion: null,
    });
    shelfFacts.lengthFrames = compiled.totalFrames;
    if (usePlaying.getState().audition !== null) setPlaying({ audition: null });
    this.sendResult(this.result);
    const { position } = usePlaying.getState();
    if (this.total > 0 && this.opensAt > 0) {
      setPlaying({ position: frameWithin(this.opensAt, this.total) });
      this.opensAt = frame(0);
    } else if (position >= this.total) setPlaying({ position: frameWithin(position, this.total) });
    // Nothing will come in place of the picture of before.
    if (this.total === 0 && this.clips.length > 0) setTold({ seen: true });
    this.refresh();
    this.poster.outdate();
    if (!this.playsNext || this.total === 0) return;
    this.playsNext = false;
    this.play(1);
  }

  /** Begins with a result frame as soon as there is a result. */
  openAt(position: Frame): void {
    this.opensAt = position;
  }

  /** Plays as soon as there is a new result, from where the playhead is or from `from`. */
  playWhenReady(from?: Frame): void {
    this.playsNext = true;
    if (from !== undefined) setPlaying({ showing: 'result', position: from, peek: null });
  }

  private sendResult(arrays: ResultArrays): void {
    this.picture.send({ kind: 'result', ...arrays, rateHz: this.rateHz });
  }

  /** Loops something that is not in the project in the picture, until `endAudition`. */
  audition(compiled: CompiledProject, words: string): void {
    if (!this.picture.isThere || compiled.totalFrames === 0) return;
    this.sounding.stop();
    setPlaying({ audition: words, peek: null });
    const { arrays, sources } = resultOf(compiled, this.clips);
    // What it is read from stays where it can: all that is held would go.
    const known = this.sources.places();
    if (sources.some((s) => !known.has(s.clipId))) this.sources.set(sources);
    const places = this.sources.places();
    this.sendResult({
      ...arrays,
      clipPlaces: arrays.clipPlaces.map((p) => places.get(sources[p]?.clipId ?? '') ?? -1),
    });
    // Who wants no motion sees the present frame as it would be.
    if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) {
      const position = frameWithin(usePlaying.getState().position, compiled.totalFrames);
      return this.picture.send({ kind: 'still-result', position });
    }
    this.picture.send({
      kind: 'play',
      from: frame(0),
      step: 1,
      first: frame(0),
      end: frame(compiled.totalFrames),
      loops: true,
      pace: 1,
    });
  }

  /** Asks for the picture that is shown as each treatment would show it, `width` pixels wide. */
  tryLooks(width: number): void {
    if (usePlaying.getState().step === 0) this.picture.send({ kind: 'try-looks', width });
  }

  /** Makes pictures along the motion from now on, or mixes them. */
  setMotion(moves: boolean): void {
    this.picture.send({ kind: 'motion', moves, position: usePlaying.getState().position });
  }

  /** The picture shows the project again, as it was. */
  endAudition(): void {
    if (usePlaying.getState().audition === null) return;
    setPlaying({ audition: null });
    this.sendResult(this.result);
    this.refresh();
  }

  /** Shows what the pointer rests on, while nothing plays; null goes back. */
  peek(at: Peek | null): void {
    const { peek, step, audition } = usePlaying.getState();
    if (at === peek || (at === null && peek === null) || audition !== null) return;
    if (at === null) {
      setPlaying({ peek: null });
      return this.refresh();
    }
    if (step !== 0) return;
    setPlaying({ peek: at });
    setTold({ seen: true });
    if (at.kind === 'result') return this.picture.send({ kind: 'still-result', position: at.position });
    const clipPlace = this.clips.findIndex((c) => c.clip.id === at.clipId);
    if (clipPlace >= 0) this.picture.send({ kind: 'still-source', clipPlace, frame: at.frame });
  }

  /** Takes the sound of the result as it now is. */
  setMix(mix: Stereo | undefined): void {
    this.sounding.setMix(mix);
  }

  setMuted(muted: boolean): void {
    this.sounding.setMuted(muted);
  }

  toggleMuted(): boolean {
    const muted = !usePlaying.getState().muted;
    setPlaying({ muted });
    return muted;
  }

  /** How far picture and sound are apart now, and at most since playing ran warm, milliseconds; nothing before it is known. */
  get soundOff(): { readonly nowMs: number; readonly worstMs: number } | undefined {
    const { offMs, worstMs } = this.sounding;
    return offMs === undefined ? undefined : { nowMs: offMs, worstMs };
  }

  /** Keeps playing within [first, end) of the result from now on; null plays all. */
  setRange(range: PlayRange | null): void {
    if (range?.first === this.range?.first && range?.end === this.range?.end) return;
    this.range = range;
    const { step } = usePlaying.getState();
    if (step !== 0) this.play(step);
  }

  /** Plays at half speed, or at speed again. */
  togglePace(): number {
    const pace = usePlaying.getState().pace === 1 ? 0.5 : 1;
    setPlaying({ pace });
    const { step } = usePlaying.getState();
    if (step !== 0) this.play(step);
    return pace;
  }

  /** Plays `step` result frames at a time, from the playhead. */
  play(step: number): void {
    if (this.total === 0) return;
    const { position, loops } = usePlaying.getState();
    const { first, end } = this.bounds();
    const inside = position >= first && position < end;
    const atEnd = !loops && (step > 0 ? position >= end - 1 : position <= first);
    const from = inside && !atEnd ? position : step > 0 ? first : frame(end - 1);
    this.leaveAudition();
    setPlaying({ step, showing: 'result', position: from, peek: null });
    this.sendPlay(from, step);
  }

  private bounds(): PlayRange {
    const first = frameWithin(this.range?.first ?? 0, this.total);
    return { first, end: frame(Math.max(first + 1, Math.min(this.range?.end ?? this.total, this.total))) };
  }

  private sendPlay(from: Frame, step: number): void {
    const { loops, pace } = usePlaying.getState();
    // It is heard again when the picture has begun.
    this.sounding.stop();
    this.picture.send({ kind: 'play', from, step, ...this.bounds(), loops, pace });
  }

  private leaveAudition(): void {
    if (usePlaying.getState().audition === null) return;
    setPlaying({ audition: null });
    this.sendResult(this.result);
  }

  toggle(): void {
    if (usePlaying.getState().step !== 0) this.pause();
    else this.play(1);
  }

  /** Plays on in one direction, faster with each call. */
  shuttle(direction: 1 | -1): void {
    const { step } = usePlaying.getState();
    const place = FASTER.indexOf(step * direction);
    this.play(direction * FASTER[Math.min(FASTER.length - 1, place + 1)]!);
  }

  pause(): void {
    this.sounding.stop();
    setPlaying({ step: 0 });
    this.refresh();
  }

  seekResult(at: Frame): void {
    const position = frameWithin(at, this.total);
    const now = usePlaying.getState();
    // A press and its release seek the same frame: asking twice would begin the decoding anew.
    const same = now.step === 0 && now.showing === 'result' && now.position === position;
    if (same && now.peek === null && now.audition === null) return;
    this.leaveAudition();
    this.sounding.stop();
    setPlaying({ step: 0, showing: 'result', position, peek: null });
    this.picture.send({ kind: 'still-result', position });
  }

  /** The song runs from a result frame on, without the picture: the hand moves that. */
  soundAlone(position: Frame): void {
    const { pace } = usePlaying.getState();
    const playing = { first: frame(0), end: this.total, loops: false, pace, rateHz: this.rateHz };
    this.sounding.follow({ ...playing, atMs: performance.timeOrigin + performance.now(), position });
  }

  stopSound(): void {
    this.sounding.stop();
  }

  /** Looks at a frame of a clip; `keepsSound` while a hand plays it. */
  seekSource(clipId: string, frame: Frame, keepsSound = false): void {
    const clipPlace = this.clips.findIndex((c) => c.clip.id === clipId);
    if (clipPlace < 0) return;
    const now = usePlaying.getState();
    const same = now.step === 0 && now.showing === 'source' && now.sourceFrame === frame;
    if (same && now.sourceClipId === clipId && now.peek === null && now.audition === null) return;
    this.leaveAudition();
    if (!keepsSound) this.sounding.stop();
    const shows = { showing: 'source', sourceFrame: frame, sourceClipId: clipId } as const;
    setPlaying({ ...shows, step: 0, peek: null });
    setTold({ seen: true });
    this.picture.send({ kind: 'still-source', clipPlace, frame });
  }

  private refresh(): void {
    const { showing, step, position, sourceFrame, sourceClipId } = usePlaying.getState();
    if (!this.picture.isThere || this.clips.length === 0) return;
    if (step !== 0) this.sendPlay(position, step);
    else if (showing === 'result') this.picture.send({ kind: 'still-result', position });
    else {
      const clipPlace = this.clips.findIndex((c) => c.clip.id === sourceClipId);
      if (clipPlace >= 0) this.picture.send({ kind: 'still-source', clipPlace, frame: sourceFrame });
      else this.picture.send({ kind: 'still-result', position });
    }
  }

  private hear(reply: PreviewReply): void {
    const { step, audition } = usePlaying.getState();
    if (reply.kind === 'shown-result') {
      if (audition !== null) return;
      if (!useTold.getState().seen) setTold({ seen: true });
      if (step !== 0) setPlaying({ position: reply.position });
      this.poster.shown();
    } else if (reply.kind === 'ended') {
      this.sounding.stop();
      setPlaying({ step: 0 });
    } else if (reply.kind === 'began') {
      const { pace, loops } = usePlaying.getState();
      if (audition === null && step === 1)
        this.sounding.follow({ ...reply, ...this.bounds(), loops, pace, rateHz: this.rateHz });
    } else if (reply.kind === 'stats')
      setTold({ stats: { ...reply.stats, at: performance.now(), soundOff: this.soundOff } });
    else if (reply.kind === 'stands-in') setTold({ standsIn: reply.now });
    else if (reply.kind === 'trouble') setTold({ trouble: reply.sentence });
    else if (reply.kind === 'ready') setTold({ ready: reply.spans, motion: reply.motion ?? null });
    else if (reply.kind === 'tried') {
      const before = useTold.getState().tried;
      setTold({ tried: reply.pictures });
      Object.values(before).forEach((picture) => picture.close());
    } else if (reply.kind === 'poster') this.poster.take(reply);
  }
}

export const transport = new Transport();

// Whoever changes it, what is heard is what is said.
usePlaying.subscribe(({ muted }, before) => {
  if (muted !== before.muted) transport.setMuted(muted);
});
