import { MIX_RATE_HZ } from '@skipback/core/sound/stereo';
import { songAlone } from '@skipback/media/sound/messages';
import { soundClient } from '@skipback/media/sound/sound-client';
import type { Song } from '@skipback/core/project/schema';

/** Clicks are set going this far ahead, seconds: a page that is busy for a moment misses none. */
const AHEAD_S = 0.6;

/** Plays a song by itself, with a click on its beats to judge them by ear. */
export class SongPlayer {
  private context: AudioContext | undefined;
  private buffer: AudioBuffer | undefined;
  private loadedId: string | undefined;
  private source: AudioBufferSourceNode | undefined;
  private begunAt = 0;
  private offsetS = 0;
  private loop: { readonly from: number; readonly to: number } | null = null;
  private nextClick = 0;
  private timer: ReturnType<typeof setInterval> | undefined;

  get playing(): boolean {
    return this.source !== undefined;
  }

  /** Plays from an instant; `clicks` gives the instants that are clicked, as they are now. */
  async play(
    song: Song,
    fromS: number,
    loop: { from: number; to: number } | null,
    clicks: () => { beats: readonly number[]; firstBar: number; beatsPerBar: number } | null,
  ): Promise<void> {
    this.context ??= new AudioContext({ latencyHint: 'interactive' });
    if (this.loadedId !== song.mediaId) {
      const { left, right } = await soundClient.mix(songAlone(song.mediaId, song.lengthS));
      this.buffer = this.context.createBuffer(2, left.length, MIX_RATE_HZ);
      this.buffer.copyToChannel(left as Float32Array<ArrayBuffer>, 0);
      this.buffer.copyToChannel(right as Float32Array<ArrayBuffer>, 1);
      this.loadedId = song.mediaId;
    }
    this.stop();
    await this.context.resume();
    const source = this.context.createBufferSource();
    source.buffer = this.buffer!;
    source.loop = loop !== null;
    if (loop) [source.loopStart, source.loopEnd] = [loop.from, loop.to];
    source.connect(this.context.destination);
    this.loop = loop;
    this.offsetS = loop && (fromS < loop.from || fromS >= loop.to) ? loop.from : fromS;
    this.begunAt = this.context.currentTime + 0.03;
    source.start(this.begunAt, this.offsetS);
    source.onended = () => this.source === source && this.stop();
    this.source = source;
    this.nextClick = this.begunAt;
    this.timer = setInterval(() => this.scheduleClicks(clicks()), 80);
  }

  stop(): void {
    clearInterval(this.timer);
    const { source } = this;
    this.source = undefined;
    source?.stop();
    source?.disconnect();
  }

  close(): void {
    this.stop();
    void this.context?.close();
    this.context = undefined;
  }

  /** The instant of the song that is heard at a moment of the page's clock. */
  heardAt(performanceMs: number): number {
    const { contextTime, performanceTime } = this.context!.getOutputTimestamp();
    const heard = performanceTime
      ? contextTime! + (performanceMs - performanceTime) / 1000
      : this.context!.currentTime;
    return this.songAt(heard);
  }

  private songAt(contextTime: number): number {
    const since = this.offsetS + Math.max(0, contextTime - this.begunAt);
    if (!this.loop || since < this.loop.to) return since;
    const { from, to } = this.loop;
    return from + ((since - from) % (to - from));
  }

  private scheduleClicks(
    grid: { beats: readonly number[]; firstBar: number; beatsPerBar: number } | null,
  ): void {
    const context = this.context!;
    const until = context.currentTime + AHEAD_S;
    // What went by while the page stood still is left out: clicked now, it would lie beside the beat.
    this.nextClick = Math.max(this.nextClick, context.currentTime);
    if (grid && this.source)
      for (const [i, beat] of grid.beats.entries()) {
        // Within a loop only the round that comes next is clicked.
        const here = this.songAt(this.nextClick);
        let at = this.nextClick + (beat - here);
        if (this.loop && at < this.nextClick) at += this.loop.to - this.loop.from;
        if (
          at < this.nextClick ||
          at >= until ||
          (this.loop && (beat < this.loop.from || beat >= this.loop.to))
        )
          continue;
        const bar = (((i - grid.firstBar) % grid.beatsPerBar) + grid.beatsPerBar) % grid.beatsPerBar === 0;
        click(context, at, bar);
      }
    this.nextClick = until;
  }
}

/** A short tick, higher where a bar begins. */
function click(context: AudioContext, at: number, bar: boolean): void {
  const tone = context.createOscillator();
  const gain = context.createGain();
  tone.frequency.value = bar ? 1760 : 1175;
  gain.gain.setValueAtTime(0.35, at);
  gain.gain.exponentialRampToValueAtTime(0.001, at + 0.045);
  tone.connect(gain).connect(context.destination);
  tone.start(at);
  tone.stop(at + 0.05);
}
