import { keyBefore } from '@skipback/core/plan/decode-plan';
import { type Frame, frame } from '@skipback/core/time/units';
import { budgets } from '../budgets';
import { ClipRow, type ClipSource } from '../frames/clip-row';
import { FrameServer, type Served } from '../frames/frame-server';
import { OpenClips } from '../frames/open-clips';
import { FrameSets } from '../frames/frame-sets';
import type { SharedPicture } from '../frames/shared-picture';
import type { DecodeCounters } from '../reader/run-decoder';
import { Filling, type Making } from './filling';
import { PictureClock, ReadyPictures, aheadOf } from './picture-clock';
import type { PreviewReply, PreviewRequest, PreviewStats } from './messages';
import { playOrder, stillOrder } from './play-order';
import { sentenceOf } from '../worker-client';
import { inOrder } from '../pixels/in-order';
import type { PixelPool } from '../pixels/pixel-pool';
import type { Screen, SourcePicture } from './screen';
import { ScreenLooks } from './screen-looks';
import { StandIn } from './stand-in';
import { triedOn } from './tried-looks';

/** Source frames kept around a still one, each side. */
const STILL_REACH = 24;

/** How long another frame than the one asked for may be on the screen before that is told, milliseconds. */
const SAID_AFTER_MS = 250;

/** Result frames above which it is not told which of them are ready. */
const LONG_FOR_A_LINE = 50_000;

/**
 * Plays the result into a canvas: the plan runs ahead of a monotonic clock, the screen shows what is
 * due, and what comes too late is counted and passed over.
 */
export class Player {
  private row = new ClipRow([]);
  private clips = new OpenClips();
  private readonly counters: DecodeCounters = { decoded: 0, open: 0 };
  private server: FrameServer<SourcePicture>;
  /** What the result's frames are made of; undefined while its clips are not there. */
  private sets: FrameSets | undefined;
  private rateHz = 30;
  private abort = new AbortController();
  private serving: Promise<void> = Promise.resolve();
  private playing = false;
  private readonly follower: PictureClock;
  private readonly looks: ScreenLooks;
  /** Whether the still that was asked for is not there yet, and how wide it is wanted with each look once it is. */
  private stillComes = false;
  private wantedWidth: number | undefined;
  /** Whether it was told that another frame is on the screen in its place. */
  private standsIn = false;
  /** The result frame that stood still last: what comes after it is made ready. */
  private shownLast = 0;
  /** The source picture on the screen, before any looks. */
  private source: SharedPicture<SourcePicture> | undefined;

  constructor(
    private readonly screen: Screen,
    private readonly budgetBytes: number,
    private readonly tell: (reply: PreviewReply) => void,
    pool: PixelPool,
  ) {
    this.server = this.newServer();
    this.looks = new ScreenLooks(screen, pool, (number) => {
      const { clip, frame } = this.row.locate(number);
      const small = clip.copies?.some((c) => frame >= c.first && frame < c.end) ? 'small' : '';
      return `${clip.file.size} ${clip.file instanceof File ? `${clip.file.name} ${clip.file.lastModified}` : ''} ${clip.framing} ${clip.clear ? 'clear' : ''} ${small} ${clip.placing?.key ?? ''} ${frame}`;
    });
    this.follower = new PictureClock(screen, this.looks, tell, () => this.tellStats());
  }

  get stats(): PreviewStats {
    return {
      playing: this.playing,
      shown: this.follower.shown,
      late: this.follower.late,
      decoded: this.counters.decoded,
      open: this.counters.open,
      heldBytes: this.server.bytes + this.looks.heldBytes,
      budgetBytes: this.budgetBytes,
      coarseness: this.looks.coarseness,
      looksMs: this.looks.meanMs,
      costs: Object.fromEntries(this.looks.costs),
    };
  }

  /** Takes the clips of the project; what is held of the ones before is let go. */
  async setClips(clips: readonly ClipSource[]): Promise<void> {
    await this.stop();
    await this.server.clear();
    this.looks.clear();
    this.setSource(undefined);
    this.clips.close();
    this.clips = new OpenClips();
    this.row = new ClipRow(clips);
    this.server = this.newServer();
    this.sets = undefined;
  }

  async setResult({
    clipPlaces,
    clipFrames,
    recipes,
    rateHz,
  }: Extract<PreviewRequest, { kind: 'result' }>): Promise<void> {
    await this.stop();
    this.rateHz = rateHz;
    const clipIds = this.row.clips.map((c) => c.clipId);
    const known = clipPlaces.every((place) => place >= 0 && place < clipIds.length);
    this.sets = known ? new FrameSets(this.row, clipIds, { clipPlaces, clipFrames, recipes }) : undefined;
    this.looks.setRecipes(recipes, this.sets);
  }

  async resize(width: number, height: number, projectWidth: number): Promise<void> {
    await this.stop();
    if (!this.screen.resize(width, height, projectWidth)) return;
    await this.server.clear();
    this.looks.clear();
    this.setSource(undefined);
  }

  private setSource(picture: SharedPicture<SourcePicture> | undefined): void {
    this.source?.release();
    this.source = picture;
  }

  async stillResult(position: Frame): Promise<void> {
    await this.stop();
    const number = this.sets?.numbers[position];
    if (number === undefined) return this.screen.show(undefined);
    this.still(number, position);
  }

  async stillSource(clipPlace: number, frame: number): Promise<void> {
    await this.stop();
    const clip = this.row.clips[clipPlace];
    const number = clip && this.row.numberOf(clip.clipId, frame);
    if (number !== undefined) this.still(number);
  }

  /** Plays within [first, end) from `from`, `step` frames at a time, at `pace` times the rate. */
  async play(
    from: number,
    step: number,
    first: number,
    end: number,
    loops: boolean,
    pace: number,
  ): Promise<void> {
    await this.stop();
    const { sets } = this;
    if (!sets || sets.length === 0) return;
    const order = playOrder(from, step, first, Math.min(end, sets.length));
    this.playing = true;
    this.stillComes = false;
    this.follower.begin();
    const abort = (this.abort = new AbortController());
    const ahead = aheadOf(this.screen.pictureBytes);
    const waiting = new ReadyPictures(ahead);
    const filling = new Filling(
      order,
      loops,
      this.rateHz * pace,
      waiting,
      this.making(sets, ahead, abort.signal),
    );
    abort.signal.addEventListener('abort', () => {
      waiting.clear();
      waiting.taken();
    });
    this.serving = this.report(filling.fill(abort.signal));
    const begins = frame(order.positions[order.start]!);
    void this.follower
      .follow(waiting, begins, filling.lastTurn, this.rateHz * pace, abort.signal)
      .then((ended) => {
        if (!ended) return;
        this.playing = false;
        this.tellStats();
        this.tell({ kind: 'ended' });
      });
  }

  /** Pictures of result frames as playing asks for them. */
  private making(sets: FrameSets, ahead: number, signal: AbortSignal): Making {
    const { server, looks, row } = this;
    const capacity = this.capacity(ahead);
    return {
      async *serve(positions, start, loops) {
        const { keys, starts: clipStarts } = row;
        const request = { ...sets.inOrder(positions), loops, start, keys, clipStarts, capacity };
        for await (const { position: at, pictures } of server.serve(request, signal)) {
          const sources = whole(pictures);
          yield {
            at,
            make: async () => sources && looks.treat(sources, positions[at]!, { hurry: true }),
            release: () => sources?.forEach((s) => s.release()),
          };
        }
      },
      depth: () => looks.threads,
      wayTo: (position) => {
        const number = sets.numbers[position]!;
        return number - keyBefore(row.keys, number) + 1;
      },
      passingMs: () => server.passingMs,
      decoded: () => this.counters.decoded,
    };
  }

  private tellStandsIn(now: boolean): void {
    if (now === this.standsIn) return;
    this.standsIn = now;
    this.tell({ kind: 'stands-in', now });
  }

  private tellStats(): void {
    this.tell({ kind: 'stats', stats: this.stats });
  }

  /** Moves the clock on, for the sound that leads it. */
  shiftClock(byMs: number): void {
    this.follower.shiftClock(byMs);
  }

  /** What is on the screen, small. */
  async poster(): Promise<void> {
    this.tell({ kind: 'poster', poster: await this.screen.poster() });
  }

  /** Stops whatever runs and waits until it has let go. */
  async stop(): Promise<void> {
    this.abort.abort();
    this.playing = false;
    await this.serving;
  }

  /** Shows a source frame, as result frame `position` shows it if one is given; then gets ready what lies around. */
  private still(number: number, position?: Frame): void {
    const abort = (this.abort = new AbortController());
    this.stillComes = true;
    const { clip, frame: inClip } = this.row.locate(number);
    const highest = number + clip.index.times.length - 1 - inClip;
    const lowest = number - inClip;
    const around = stillOrder(number, lowest, highest, STILL_REACH);
    const own = position === undefined ? [number] : (this.sets?.framesOf(position) ?? [number]);
    const request = {
      wanted: Int32Array.from([...own, ...around.subarray(1)]),
      ends: Int32Array.from({ length: around.length }, (_, i) => own.length + i),
      loops: false,
      start: 0,
      keys: this.row.keys,
      clipStarts: this.row.starts,
      capacity: this.capacity(1),
    };
    this.looks.coarseness = 1;
    const show = (near: SharedPicture<SourcePicture>) =>
      this.looks.plain(near).then(
        (plain) => {
          if (this.stillComes && !abort.signal.aborted) this.screen.show(plain.picture);
          plain.release();
        },
        // What is wrong with it is said of the still itself.
        () => undefined,
      );
    const nearest = () => this.server.nearest(number, lowest, highest);
    // Where looks are drawn, the picture without them would flash up.
    const standIn = this.looks.any
      ? undefined
      : new StandIn<SourcePicture>(nearest, (near) => void show(near));
    // Also where nothing stands in: then what was there before still is.
    const said = setTimeout(() => this.tellStandsIn(true), SAID_AFTER_MS);
    const isThere = () => {
      clearTimeout(said);
      this.tellStandsIn(false);
    };
    abort.signal.addEventListener('abort', () => {
      standIn?.end();
      isThere();
    });
    const serve = async () => {
      for await (const served of this.server.serve(
        request,
        abort.signal,
        this.looks.any ? undefined : standIn,
      )) {
        if (served.position !== 0 || abort.signal.aborted) {
          served.pictures.forEach((p) => p?.release());
          continue;
        }
        const sources = whole(served.pictures);
        this.setSource(sources?.[0]!.retain());
        this.stillComes = false;
        standIn?.end();
        const shown =
          sources &&
          (await (position === undefined
            ? this.looks.plain(sources[0]!)
            : this.looks.treat(sources, position, { first: true })));
        this.screen.show(shown?.picture);
        shown?.release();
        isThere();
        if (position !== undefined) this.tell({ kind: 'shown-result', position });
        this.tellStats();
        if (this.wantedWidth !== undefined) await this.tryLooks(this.wantedWidth);
        if (position === undefined) continue;
        this.shownLast = position;
        // Source frames around it can wait where looks are to be drawn on what comes next.
        if (this.looks.any) break;
      }
      if (this.looks.any) await this.getReady(position ?? this.shownLast, abort.signal);
      if (!abort.signal.aborted) this.tellStats();
    };
    this.serving = this.report(serve()).finally(isThere);
  }

  /** While nothing plays: draws the looks of what comes after a frame, as far as room goes, and tells how far it is. */
  private async getReady(from: number, signal: AbortSignal): Promise<void> {
    const { sets } = this;
    if (!sets) return;
    const total = sets.length;
    const room = Math.floor(budgets.screenLooks / this.screen.pictureBytes) - 2;
    const positions: number[] = [];
    for (let i = 0; i < total && positions.length < room; i++) {
      const position = (Math.min(from, total - 1) + i) % total;
      if (!this.looks.isReady(position) && (this.looks.moves || !this.looks.movesAt(position)))
        positions.push(position);
    }
    this.tellReady(true);
    let told = performance.now();
    const request = {
      ...sets.inOrder(positions),
      loops: false,
      start: 0,
      keys: this.row.keys,
      clipStarts: this.row.starts,
      capacity: this.capacity(1),
    };
    const served = this.server.serve(request, signal);
    const treat = async ({ position: at, pictures }: Served<SourcePicture>) => {
      const sources = whole(pictures);
      return sources && this.looks.treat(sources, positions[at]!, { first: true });
    };
    for await (const made of inOrder(served, this.looks.threads, treat, (m) => m?.release())) {
      made?.release();
      // What is asked for in the meantime comes first.
      await new Promise((next) => setTimeout(next));
      if (signal.aborted) break;
      if (performance.now() - told < 400) continue;
      told = performance.now();
      this.tellReady(true);
    }
    if (!signal.aborted) this.tellReady(false);
  }

  private tellReady(working: boolean): void {
    const spans: [number, number][] = [];
    const total = this.sets?.length ?? 0;
    // Of hours of result a line would say nothing.
    if (total > LONG_FOR_A_LINE) return;
    for (let position = 0; position < total; position++) {
      if (!this.looks.isReady(position)) continue;
      const last = spans[spans.length - 1];
      if (last?.[1] === position) last[1]++;
      else spans.push([position, position + 1]);
    }
    this.tell({ kind: 'ready', spans, motion: this.looks.motion(working) });
    this.tellStats();
  }

  /** Makes pictures along the motion from now on, or mixes them. */
  async setMoves(moves: boolean, position: Frame): Promise<void> {
    this.looks.moves = moves;
    if (!this.playing) await this.stillResult(position);
  }

  /** The source picture on the screen, small, as each treatment would show it with its own values; once it is there. */
  async tryLooks(width: number): Promise<void> {
    this.wantedWidth = width;
    if (this.stillComes || !this.source) return;
    this.wantedWidth = undefined;
    const plain = await this.looks.plain(this.source.retain());
    try {
      this.tell({ kind: 'tried', pictures: await triedOn(plain.picture.image, width) });
    } finally {
      plain.release();
    }
  }

  private capacity(reserve: number): number {
    const forSources = this.budgetBytes - (this.looks.any ? budgets.screenLooks : 0);
    return Math.max(2, Math.floor(forSources / this.screen.sourceBytes) - reserve);
  }

  private newServer(): FrameServer<SourcePicture> {
    const runs = this.clips.runsOf(this.row, this.counters, (picture, clip, placement) =>
      this.screen.develop(picture, clip, placement),
    );
    return new FrameServer(runs, ({ bytes }) => bytes.length);
  }

  private report(work: Promise<void>): Promise<void> {
    return work.catch((error: unknown) => {
      this.tell({
        kind: 'trouble',
        sentence: sentenceOf(error, 'A clip cannot be read: the picture stopped.'),
      });
      if (!this.playing) return;
      this.playing = false;
      this.abort.abort();
      this.tell({ kind: 'ended' });
    });
  }
}

/** All pictures that make a frame; those that could not be decoded give way to one that could. None where none could. */
function whole(
  pictures: readonly (SharedPicture<SourcePicture> | undefined)[],
): readonly SharedPicture<SourcePicture>[] | undefined {
  const good = pictures.find((p) => p !== undefined);
  return good && pictures.map((p) => p ?? good.retain());
}
