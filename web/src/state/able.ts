/**
 * What the browser can do of what the program needs, found out by asking for the thing itself, never by the browser's name.
 * Each lack has a sentence: what does not work here, and what does instead.
 */
export interface Lack {
  readonly code: string;
  readonly sentence: string;
  /** Whether nothing works without it. */
  readonly stops: boolean;
}

/** What is asked of a browser; the page's own by default. */
export interface Asked {
  readonly window: Record<string, unknown>;
  encodes(codec: string): Promise<boolean>;
  decodes(codec: string): Promise<boolean>;
  keepsFiles(): Promise<boolean>;
}

const H264 = 'avc1.640028';
const ENCODED: readonly (readonly [codec: string, words: string])[] = [
  [H264, 'MP4 (H.264)'],
  ['vp09.00.40.08', 'WebM (VP9)'],
  ['av01.0.08M.08', 'WebM (AV1)'],
];

/** All that is lacking, what stops everything first. */
export async function lacksOf({ window, encodes, decodes, keepsFiles }: Asked): Promise<Lack[]> {
  const lacks: Lack[] = [];
  const lack = (code: string, sentence: string, stops = false) => lacks.push({ code, sentence, stops });
  const has = (name: string) => window[name] !== undefined;
  if (!has('VideoDecoder'))
    lack('decode', 'This browser cannot decode films frame by frame (WebCodecs). Use a newer one.', true);
  if (!has('WebAssembly') || !has('OffscreenCanvas') || !has('Worker'))
    lack(
      'draw',
      'This browser cannot draw pictures beside the page (workers with a canvas). Use a newer one.',
      true,
    );
  if (lacks.length > 0) return lacks;
  if (!(await decodes(H264)))
    lack('h264-in', 'This browser does not decode H.264, which most MP4 and MOV files are. WebM works.');
  if (!has('VideoEncoder'))
    lack(
      'encode',
      'This browser makes no films. GIF, APNG and numbered pictures, cut lists and sound can be made.',
    );
  else {
    const missing: string[] = [];
    for (const [codec, words] of ENCODED) if (!(await encodes(codec))) missing.push(words);
    if (missing.length > 0) lack('some-films', `This browser does not make ${missing.join(' or ')}.`);
  }
  if (!has('ImageDecoder'))
    lack(
      'pictures',
      'This browser does not read animated pictures (GIF, APNG, WebP) frame by frame, nor Motion JPEG.',
    );
  if (!(await keepsFiles()))
    lack(
      'keep',
      'This browser keeps no files for pages: clips are there as long as the page is. Save projects as files.',
    );
  if (window['crossOriginIsolated'] !== true)
    lack('threads', 'Pictures are drawn on one thread only: the page is not served in isolation.');
  if (!has('AudioWorkletNode')) lack('hand', 'The clip is not heard while it is played by hand.');
  if (!has('showSaveFilePicker'))
    lack('save', 'Files go to the downloads: this browser asks for no other place.');
  return lacks;
}

const supported = async (ask: () => Promise<{ supported?: boolean }>): Promise<boolean> =>
  (await ask().catch(() => ({ supported: false }))).supported === true;

/** What this browser lacks. */
export const lacksHere = (): Promise<Lack[]> =>
  lacksOf({
    window: window as unknown as Record<string, unknown>,
    encodes: (codec) =>
      supported(() =>
        VideoEncoder.isConfigSupported({ codec, width: 1280, height: 720, bitrate: 4e6, framerate: 30 }),
      ),
    decodes: (codec) => supported(() => VideoDecoder.isConfigSupported({ codec })),
    async keepsFiles() {
      try {
        const root = await navigator.storage.getDirectory();
        const handle = await root.getFileHandle('asked', { create: true });
        const can = 'createWritable' in handle;
        await root.removeEntry('asked');
        return can;
      } catch {
        return false;
      }
    },
  });
