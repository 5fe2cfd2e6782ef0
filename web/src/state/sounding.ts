import { ClockLead } from '@skipback/core/sound/clock-lead';
import type { Stereo } from '@skipback/core/sound/stereo';

/** What is playing, as the picture began it. */
interface Playing {
  /** Milliseconds since 1970 at which the frame at `position` was due. */
  readonly atMs: number;
  readonly position: number;
  readonly first: number;
  readonly end: number;
  readonly loops: boolean;
  readonly pace: number;
  readonly rateHz: number;
}

/** Time ahead at which a sound is set going, seconds. */
const AHEAD_S = 0.03;
/** How often the picture's clock is held against the sound's, milliseconds. */
const CHECK_MS = 100;
/** Time after which what is measured counts: until then decoders and caches warm up, milliseconds. */
const WARM_MS = 2000;

/** Plays the mix along with the picture. The sound's clock leads: the picture is told how far it is off. */
export class Sounding {
  private context: AudioContext | undefined;
  private gain: GainNode | undefined;
  private buffer: AudioBuffer | undefined;
  private source: AudioBufferSourceNode | undefined;
  private playing: Playing | undefined;
  /** When the sound began: by the sound's clock, and by the picture's in milliseconds since 1970. */
  private begunAt = 0;
  private begunMs = 0;
  /** How far the picture's clock was moved since. */
  private shiftedMs = 0;
  /** How far it had been moved when the sound began. */
  private shiftedBefore = 0;
  private lead = new ClockLead();
  private timer: ReturnType<typeof setInterval> | undefined;
  private muted = false;
  /** Greatest difference between picture and sound since playing began, milliseconds, once it runs warm. */
  worstMs = 0;
  /** Difference between picture and sound at the last check, milliseconds; undefined before enough is known. */
  offMs: number | undefined;

  constructor(private readonly tell: { shiftClock(byMs: number): void }) {}

  /** Takes another sound; what plays goes on with it. */
  setMix(mix: Stereo | undefined): void {
    if (!mix) this.buffer = undefined;
    else {
      const context = this.open();
      const buffer = context.createBuffer(2, Math.max(1, mix.left.length), mix.rateHz);
      buffer.copyToChannel(mix.left as Float32Array<ArrayBuffer>, 0);
      buffer.copyToChannel(mix.right as Float32Array<ArrayBuffer>, 1);
      this.buffer = buffer;
    }
    if (this.playing) this.start();
  }

  setMuted(muted: boolean): void {
    this.muted = muted;
    if (this.gain) this.gain.gain.value = muted ? 0 : 1;
  }

  /** Goes along with the picture; only forward at the frames' own step is heard. */
  follow(playing: Playing): void {
    this.playing = playing;
    this.worstMs = 0;
    this.offMs = undefined;
    this.shiftedMs = 0;
    this.start();
  }

  stop(): void {
    this.playing = undefined;
    this.silence();
  }

  close(): void {
    this.stop();
    this.buffer = undefined;
    void this.context?.close();
    this.context = undefined;
  }

  private open(): AudioContext {
    if (!this.context) {
      this.context = new AudioContext({ latencyHint: 'interactive' });
      this.gain = this.context.createGain();
      this.gain.gain.value = this.muted ? 0 : 1;
      this.gain.connect(this.context.destination);
    }
    return this.context;
  }

  private silence(): void {
    clearInterval(this.timer);
    this.source?.stop();
    this.source?.disconnect();
    this.source = undefined;
  }

  private start(): void {
    this.silence();
    const { playing, buffer } = this;
    if (!playing || !buffer) return;
    const context = this.open();
    void context.resume();
    const { first, end, rateHz, pace, loops } = playing;
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.playbackRate.value = pace;
    source.loop = loops;
    source.loopStart = first / rateHz;
    source.loopEnd = Math.min(buffer.duration, end / rateHz);
    source.connect(this.gain!);
    this.begunAt = context.currentTime + AHEAD_S;
    this.begunMs = this.heardAtMs(this.begunAt);
    this.shiftedBefore = this.shiftedMs;
    this.lead = new ClockLead();
    const offsetS = this.pictureAt(this.begunMs + this.shiftedMs);
    if (!loops && offsetS >= end / rateHz) return;
    source.start(this.begunAt, offsetS);
    if (!loops) source.stop(this.begunAt + (end / rateHz - offsetS) / pace);
    this.source = source;
    const since = performance.now();
    this.timer = setInterval(() => this.check(performance.now() - since > WARM_MS), CHECK_MS);
  }

  /** When what is played at a context time is heard, milliseconds since 1970. */
  private heardAtMs(contextTime: number): number {
    const { contextTime: at, performanceTime } = this.context!.getOutputTimestamp();
    // Before the first sound leaves, there is no timestamp yet.
    if (!performanceTime)
      return performance.timeOrigin + performance.now() + (contextTime - this.context!.currentTime) * 1000;
    return performance.timeOrigin + performanceTime + (contextTime - at!) * 1000;
  }

  /** The instant of the mix that the picture shows at a time, within what loops. */
  private pictureAt(ms: number): number {
    const { atMs, position, first, end, rateHz, pace, loops } = this.playing!;
    const since = position - first + ((ms - atMs) / 1000) * pace * rateHz;
    const length = end - first;
    return (first + (loops ? ((since % length) + length) % length : Math.max(0, since))) / rateHz;
  }

  /** Holds the two clocks against each other and moves the picture's. */
  private check(counts: boolean): void {
    const { context } = this;
    if (!this.playing || !context || !this.source || context.state !== 'running') return;
    const { contextTime, performanceTime } = context.getOutputTimestamp();
    if (!performanceTime) return;
    const heardTime = contextTime! + (performance.now() - performanceTime) / 1000;
    const soundMs = (heardTime - this.begunAt) * 1000;
    if (soundMs < 0) return;
    const pictureMs =
      performance.timeOrigin + performance.now() - this.begunMs + this.shiftedMs - this.shiftedBefore;
    const reading = this.lead.take(soundMs - pictureMs);
    if (!reading) return;
    this.offMs = Math.abs(reading.offMs);
    if (counts) this.worstMs = Math.max(this.worstMs, this.offMs);
    if (reading.moveMs === 0) return;
    this.shiftedMs += reading.moveMs;
    this.tell.shiftClock(reading.moveMs);
  }
}
