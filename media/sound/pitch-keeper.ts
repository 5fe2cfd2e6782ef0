import type { PitchKeeper } from '@skipback/core/sound/own-pitch';

/** What of the package's processor is used: its memory and its calls, counted in samples. */
interface Processor {
  readonly wasmReady?: boolean;
  readonly bufferLength?: number;
  readonly buffersIn: readonly number[];
  readonly buffersOut: readonly number[];
  readonly wasmModule: {
    readonly HEAP8: Int8Array;
    _inputLatency(): number;
    _outputLatency(): number;
    _reset(): void;
    _seek(samples: number, speed: number): void;
    _process(inSamples: number, outSamples: number): void;
  };
}
type ProcessorClass = new (options: object) => Processor;

/** Time given to the package to get ready, milliseconds. */
const READY_MS = 10_000;

/**
 * The package ships as an audio worklet alone, but mixes are made outside of one: it is loaded where it finds a
 * worklet's scope, so that it hands over its processor.
 */
async function loadProcessor(rateHz: number): Promise<ProcessorClass> {
  const scope = globalThis as unknown as Record<string, unknown>;
  let found: ProcessorClass | undefined;
  scope['AudioWorkletProcessor'] = class {
    readonly port = { postMessage: () => undefined, onmessage: null };
  };
  scope['registerProcessor'] = (_: string, processor: ProcessorClass) => (found = processor);
  scope['sampleRate'] = rateHz;
  scope['currentTime'] = 0;
  try {
    await import('signalsmith-stretch');
  } finally {
    for (const name of ['AudioWorkletProcessor', 'registerProcessor']) Reflect.deleteProperty(scope, name);
  }
  if (!found) throw new Error('the stretching of sound did not load');
  return found;
}

let processorClass: Promise<ProcessorClass> | undefined;

/**
 * Plays sound at other speeds at its own pitch: spectral stretching by Luff's package, asked anew at every
 * block around the instant that is to be heard. Throws where it cannot be loaded.
 */
export async function openPitchKeeper(rateHz: number): Promise<PitchKeeper> {
  processorClass ??= loadProcessor(rateHz);
  const processor = new (await processorClass)({ numberOfOutputs: 1, outputChannelCount: [2] });
  const since = Date.now();
  while (!processor.wasmReady || !processor.bufferLength) {
    if (Date.now() - since > READY_MS) throw new Error('the stretching of sound did not start');
    await new Promise((resolve) => setTimeout(resolve, 4));
  }
  const { wasmModule: wasm, bufferLength: window, buffersIn, buffersOut } = processor;
  const memory = (at: number, length: number) => new Float32Array(wasm.HEAP8.buffer, at, length);
  return {
    window,
    ahead: wasm._inputLatency(),
    late: wasm._outputLatency(),
    reset: () => wasm._reset(),
    play(left, right, speed, samples) {
      memory(buffersIn[0]!, window).set(left);
      memory(buffersIn[1]!, window).set(right);
      wasm._seek(window, speed);
      wasm._process(0, samples);
      return { left: memory(buffersOut[0]!, samples), right: memory(buffersOut[1]!, samples) };
    },
  };
}
