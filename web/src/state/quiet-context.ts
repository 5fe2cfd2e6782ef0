/** What one source was told. */
export interface Started {
  at: number;
  offset: number;
  stopsAt: number | undefined;
  loop: readonly [number, number] | undefined;
  pace: number;
  stopped: boolean;
}

/** The browser's sound output, without a loudspeaker: its clock runs with the page's, and can be made to stall. */
export class QuietContext {
  static behindMs = 0;
  static started: Started[] = [];
  static gain = 1;
  /** Tones that were set going: when, and how high. */
  static tones: { readonly at: number; readonly hz: number }[] = [];
  static reset(): void {
    Object.assign(QuietContext, { behindMs: 0, started: [], gain: 1, tones: [] });
  }
  state = 'running';
  destination = {};
  get currentTime() {
    return (performance.now() - QuietContext.behindMs) / 1000;
  }
  getOutputTimestamp() {
    return { contextTime: this.currentTime, performanceTime: performance.now() };
  }
  createBuffer(_: number, length: number, rateHz: number) {
    return { duration: length / rateHz, copyToChannel: () => undefined };
  }
  createGain() {
    return {
      gain: {
        set value(gain: number) {
          QuietContext.gain = gain;
        },
        setValueAtTime: () => undefined,
        exponentialRampToValueAtTime: () => undefined,
      },
      connect: () => undefined,
    };
  }
  createBufferSource() {
    const told: Started = { at: 0, offset: 0, stopsAt: undefined, loop: undefined, pace: 1, stopped: false };
    return {
      playbackRate: {
        set value(pace: number) {
          told.pace = pace;
        },
      },
      loop: false,
      loopStart: 0,
      loopEnd: 0,
      connect: () => undefined,
      disconnect: () => undefined,
      start(at: number, offset: number) {
        QuietContext.started.push(Object.assign(told, { at, offset }));
        if (this.loop) told.loop = [this.loopStart, this.loopEnd];
      },
      stop(at?: number) {
        if (at === undefined) told.stopped = true;
        else told.stopsAt = at;
      },
    };
  }
  createOscillator() {
    const frequency = { value: 0 };
    return {
      frequency,
      connect: (to: unknown) => to,
      start: (at: number) => QuietContext.tones.push({ at, hz: frequency.value }),
      stop: () => undefined,
    };
  }
  resume = () => Promise.resolve();
  close = () => Promise.resolve();
}
