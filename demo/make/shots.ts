/** The six clips of the demo: what is drawn, at which rate and size, and how it is encoded. */
export interface ClipPlan {
  readonly name: string;
  readonly file: string;
  /** Frames a second as ffmpeg takes it. */
  readonly rate: string;
  readonly rateHz: number;
  readonly width: number;
  readonly height: number;
  readonly durationS: number;
  /** Instants drawn inside each open shutter. */
  readonly samples: number;
  readonly video: readonly string[];
  readonly audio: readonly string[];
}

const h264 = (crf: number) => [
  '-c:v',
  'libx264',
  '-preset',
  'slow',
  '-crf',
  String(crf),
  '-pix_fmt',
  'yuv420p',
];
const vp9 = (crf: number) => [
  '-c:v',
  'libvpx-vp9',
  '-crf',
  String(crf),
  '-b:v',
  '0',
  '-row-mt',
  '1',
  '-pix_fmt',
  'yuv420p',
];
const aac = ['-c:a', 'aac', '-b:a', '96k'];
const opus = ['-c:a', 'libopus', '-b:a', '72k'];

export const CLIP_PLANS: readonly ClipPlan[] = [
  {
    name: 'drummer',
    file: 'drummer.mp4',
    rate: '60',
    rateHz: 60,
    width: 1280,
    height: 720,
    durationS: 5,
    samples: 4,
    video: h264(22),
    audio: aac,
  },
  {
    name: 'pinwheels',
    file: 'pinwheels.webm',
    rate: '30',
    rateHz: 30,
    width: 1280,
    height: 720,
    durationS: 5,
    samples: 8,
    video: vp9(44),
    audio: opus,
  },
  {
    name: 'tea',
    file: 'tea.mp4',
    rate: '120',
    rateHz: 120,
    width: 960,
    height: 540,
    durationS: 3,
    samples: 3,
    video: h264(22),
    audio: aac,
  },
  {
    name: 'lantern',
    file: 'lantern.mp4',
    rate: '30000/1001',
    rateHz: 30000 / 1001,
    width: 1280,
    height: 720,
    durationS: 4.004,
    samples: 5,
    video: [...h264(21), '-g', '250', '-bf', '3'],
    audio: aac,
  },
  {
    name: 'tram',
    file: 'tram.webm',
    rate: '30',
    rateHz: 30,
    width: 960,
    height: 540,
    durationS: 6,
    samples: 5,
    video: vp9(32),
    audio: opus,
  },
  {
    name: 'runner',
    file: 'runner.webm',
    rate: '30',
    rateHz: 30,
    width: 1280,
    height: 720,
    durationS: 3,
    samples: 4,
    video: vp9(36),
    audio: opus,
  },
];
