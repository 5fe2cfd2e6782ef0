import { Said } from '../worker-client';

/** Kinds of film whose packets may bring their transparency along, and how each says that decoding can begin with it. */
const BEGINS: Readonly<Record<string, (data: Uint8Array) => boolean>> = {
  // RFC 6386, 9.1: the lowest bit of the first byte is 0 in a key frame.
  vp8: ([first = 1]) => (first & 1) === 0,
  // VP9 bitstream specification, 6.2: marker, profile, (a reserved bit in profile 3,) show_existing_frame, frame_type.
  vp09: ([first = 0]) =>
    ((first >> 4) & 3) === 3 || ((first >> 3) & 1) === 1 ? false : ((first >> 2) & 1) === 0,
};

/** What a joined picture's decoding needs of the one it belongs to. */
export interface AlphaHearers {
  /** A picture with its transparency, or as it came where it has none. The receiver closes it. */
  readonly joined: (picture: VideoFrame) => void;
  readonly failed: (error: unknown) => void;
  /** Some of what was fed is decoded. */
  readonly goesOn: () => void;
}

/**
 * Of films whose transparency is a second film beside the first (Matroska's BlockAdditional 1, as WebM has it): decodes
 * that too and joins both, in order. Until it begins the picture is as it came.
 */
export class AlphaJoiner {
  private readonly decoder: VideoDecoder;
  private readonly begins: (data: Uint8Array) => boolean;
  private readonly colours: VideoFrame[] = [];
  private readonly alphas = new Map<number, VideoFrame>();
  /** Frames whose transparency is on its way. */
  private readonly due = new Set<number>();
  private joining: Promise<void> | undefined;
  private begun = false;
  private latest = -Infinity;

  constructor(
    config: VideoDecoderConfig,
    private readonly hearers: AlphaHearers,
  ) {
    this.begins = BEGINS[config.codec.split('.')[0]!] ?? (() => false);
    this.decoder = new VideoDecoder({
      output: (alpha) => {
        this.latest = alpha.timestamp;
        this.alphas.set(alpha.timestamp, alpha);
        this.goOn();
      },
      error: (error) => hearers.failed(error),
    });
    this.decoder.configure(config);
  }

  /** Pictures in here: in the decoder, or waiting for their other half. */
  get held(): number {
    return this.colours.length + this.decoder.decodeQueueSize;
  }

  /** What a packet brings along, before the packet itself is decoded; `timestamp` as the packet's. */
  feed(data: Uint8Array | undefined, timestamp: number): void {
    if (!data || this.decoder.state !== 'configured') return;
    const begins = this.begins(data);
    if (!begins && !this.begun) return;
    this.begun = true;
    this.due.add(timestamp);
    this.decoder.decode(new EncodedVideoChunk({ type: begins ? 'key' : 'delta', timestamp, data }));
  }

  /** A decoded picture, which is this one's from now on. */
  colour(picture: VideoFrame): void {
    this.colours.push(picture);
    this.goOn();
  }

  private goOn(): void {
    this.joining ??= this.join().finally(() => (this.joining = undefined));
    this.hearers.goesOn();
  }

  private async join(): Promise<void> {
    for (let colour = this.colours[0]; colour; colour = this.colours[0]) {
      const alpha = this.alphas.get(colour.timestamp);
      // A later one is here already: this one never comes.
      if (!alpha && this.due.has(colour.timestamp) && this.latest < colour.timestamp) return;
      let whole = colour;
      if (alpha) {
        this.alphas.delete(colour.timestamp);
        try {
          whole = await joined(colour, alpha);
        } catch (error) {
          this.hearers.failed(error);
        } finally {
          alpha.close();
        }
      }
      this.due.delete(colour.timestamp);
      // Closed in between: nobody takes it any more.
      if (this.colours.shift() !== colour) return whole === colour ? undefined : whole.close();
      if (whole !== colour) colour.close();
      this.hearers.joined(whole);
    }
  }

  /** Ends when all that was fed has been joined. */
  async flush(): Promise<void> {
    if (this.decoder.state === 'configured') await this.decoder.flush();
    // What never came is not waited for.
    this.latest = Infinity;
    await this.joining;
    this.goOn();
    await this.joining;
  }

  close(): number {
    const left = this.colours.length;
    for (const picture of [...this.colours.splice(0), ...this.alphas.values()]) picture.close();
    this.alphas.clear();
    if (this.decoder.state !== 'closed') this.decoder.close();
    return left;
  }
}

/**
 * A picture and its transparency, which is the other one's brightness: as one of four planes, or, where its own are not
 * 4:2:0 of eight bits, as red, green, blue and that.
 */
async function joined(colour: VideoFrame, alpha: VideoFrame): Promise<VideoFrame> {
  const { width, height } = colour.visibleRect!;
  if (alpha.visibleRect!.width !== width || alpha.visibleRect!.height !== height)
    throw new Said('The transparency of this film is of another size than its picture.');
  const [{ bytes: clear, layout: clearLayout }, colours] = await Promise.all([read(alpha), read(colour)]);
  const about = {
    ...{ codedWidth: width, codedHeight: height, timestamp: colour.timestamp },
    ...{ displayWidth: colour.displayWidth, displayHeight: colour.displayHeight },
  };
  const rowOf = (y: number) => {
    const { offset, stride } = clearLayout[0]!;
    return clear.subarray(offset + y * stride, offset + y * stride + width);
  };
  if (colour.format !== 'I420') {
    const rgba = new Uint8Array(4 * width * height);
    await colour.copyTo(rgba, { format: 'RGBA', colorSpace: 'srgb' });
    for (let y = 0, i = 3; y < height; y++) for (const a of rowOf(y)) rgba[(i += 4) - 4] = a;
    const init = { format: 'RGBA' as const, ...about, transfer: [rgba.buffer] };
    return new VideoFrame(rgba, init);
  }
  const whole = new Uint8Array(colours.bytes.length + width * height);
  whole.set(colours.bytes);
  for (let y = 0; y < height; y++) whole.set(rowOf(y), colours.bytes.length + y * width);
  const init = {
    ...{ format: 'I420A' as const, ...about },
    colorSpace: colour.colorSpace.toJSON(),
    layout: [...colours.layout, { offset: colours.bytes.length, stride: width }],
    transfer: [whole.buffer],
  };
  return new VideoFrame(whole, init);
}

async function read(picture: VideoFrame): Promise<{ bytes: Uint8Array; layout: PlaneLayout[] }> {
  const bytes = new Uint8Array(picture.allocationSize());
  return { bytes, layout: await picture.copyTo(bytes) };
}
