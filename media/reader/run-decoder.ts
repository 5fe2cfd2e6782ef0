import type { EncodedPacket } from 'mediabunny';
import { Said } from '../worker-client';
import type { ClipFile, FilmFile } from './clip-file';
import type { PictureFile } from './picture-file';
import { AlphaJoiner } from './with-alpha';
import { type PacketIndex, keyIndex, packetsOfRun } from './packet-index';

/** Packets in the decoder and pictures waiting to be taken, at most: the slow consumer slows the producer. */
const IN_FLIGHT = 16;
/** How often a decoder that is waited for is looked after, milliseconds, and after how many looks without anything it counts as hung. */
const LOOKS_EVERY_MS = 5000;
const HUNG_AFTER = 3;

/** A decoded picture whose timestamp is its frame's number. The receiver closes it. */
export interface RunPicture {
  readonly frame: number;
  /** Undefined where the decoder could not make it. */
  readonly picture: VideoFrame | undefined;
}

/** Set of counters shared by the runs of one worker. */
export interface DecodeCounters {
  decoded: number;
  open: number;
}

/**
 * Decodes frames `key` through `last`, in order, each exactly once. The chunk's timestamp carries
 * the frame number, so no container's rounding can mix frames up. Where a packet is broken, frames come
 * without pictures up to the next key frame, and decoding goes on there.
 */
export async function* decodeRun(
  file: ClipFile,
  index: PacketIndex,
  key: number,
  last: number,
  counters: DecodeCounters,
): AsyncGenerator<RunPicture, void, void> {
  let from = key;
  let next = key;
  while (next <= last) {
    const decoder = { software: inSoftware.has(file), failed: false };
    const stretch =
      file.kind === 'picture'
        ? decodePicture(file, from, last, counters)
        : file.stills
          ? decodeStills(file, index, from, last, counters)
          : decodeStretch(file, index, { key: from, first: next, last }, counters, decoder);
    for await (const picture of stretch) {
      let handedOver = false;
      try {
        while (next < picture.timestamp) yield { frame: next++, picture: undefined };
        next++;
        counters.open--;
        handedOver = true;
        yield { frame: picture.timestamp, picture };
      } finally {
        // Whoever stops taking at a damaged frame never gets the picture that waits behind it.
        if (!handedOver) {
          picture.close();
          counters.open--;
        }
      }
    }
    // A graphics card’s decoder that gave up, or was taken away, says nothing of the file.
    if (next <= last && decoder.failed && !decoder.software) {
      inSoftware.add(file);
      continue;
    }
    // What did not come is damaged, up to where decoding can begin again.
    const again = index.keys.find((k) => k >= next && k > from) ?? last + 1;
    while (next < Math.min(again, last + 1)) yield { frame: next++, picture: undefined };
    from = again;
  }
}

/** Files that a decoder gave up on once: they are decoded without the graphics card from then on. */
const inSoftware = new WeakSet<ClipFile>();

/** The colour a decoder is told: as tagged, and for untagged pictures what their size makes of them. */
function taggedColour({ colorSpace, codedHeight }: VideoDecoderConfig): VideoColorSpaceInit {
  if (colorSpace?.matrix) return colorSpace;
  const hd = (codedHeight ?? 0) >= 720;
  const standard = hd ? 'bt709' : 'smpte170m';
  return {
    matrix: standard,
    primaries: standard,
    transfer: standard,
    fullRange: colorSpace?.fullRange ?? false,
  };
}

/** The packet that decoding begins with at a key frame. */
async function firstPacket(file: FilmFile, index: PacketIndex, key: number): Promise<EncodedPacket | null> {
  const at = keyIndex(index, key);
  if (index.keyPlaces[at] === 0) return file.packets.getFirstPacket();
  const packet = await file.packets.getKeyPacket(index.keyTimesS[at]! + 1e-6);
  return packet && Math.abs(packet.timestamp - index.keyTimesS[at]!) < 1e-3 ? packet : null;
}

/**
 * Pictures `first` to `last`, decoded from a key frame on, as far as the decoder gets. Ends early where it gives up, and
 * says so in `how`.
 */
async function* decodeStretch(
  file: FilmFile,
  index: PacketIndex,
  { key, first: wanted, last }: { readonly key: number; readonly first: number; readonly last: number },
  counters: DecodeCounters,
  how: { readonly software: boolean; failed: boolean },
): AsyncGenerator<VideoFrame, void, void> {
  const config = await file.track.getDecoderConfig();
  if (!config) throw new Said('The codec of this file is unknown.');
  const { first, last: lastPlace } = packetsOfRun(index, key, last);
  const ready: VideoFrame[] = [];
  let failed: unknown;
  // The feeder and the taker both wait here for the other and for the decoder.
  let waiting: (() => void)[] = [];
  const woken = () => new Promise<void>((resolve) => waiting.push(resolve));
  // Looks are counted, not time: a machine that slept is not a decoder that hangs.
  let [quiet, awaited, flushing] = [0, false, false];
  const wake = () => {
    quiet = 0;
    const all = waiting;
    waiting = [];
    all.forEach((resolve) => resolve());
  };
  const fails = (error: unknown) => {
    failed ??= error;
    wake();
  };
  const looks = setInterval(() => {
    const atWork = flushing || decoder.decodeQueueSize > 0 || (alpha?.held ?? 0) > 0;
    if (awaited && atWork && ++quiet >= HUNG_AFTER) fails(new Error('the decoder gives no answer'));
  }, LOOKS_EVERY_MS);
  const whole = (picture: VideoFrame) => {
    ready.push(picture);
    wake();
  };
  const settings: VideoDecoderConfig = {
    ...{ ...config, colorSpace: taggedColour(config) },
    ...(how.software && { hardwareAcceleration: 'prefer-software' as const }),
  };
  const alpha = file.mayBeClear
    ? new AlphaJoiner(settings, { joined: whole, failed: fails, goesOn: wake })
    : undefined;
  const decoder = new VideoDecoder({
    output: (picture) => {
      counters.decoded++;
      counters.open++;
      if (alpha) alpha.colour(picture);
      else whole(picture);
    },
    error: fails,
  });
  decoder.addEventListener('dequeue', wake);
  const release = (picture: VideoFrame) => {
    picture.close();
    counters.open--;
  };

  let flushed = false;
  const feed = async () => {
    decoder.configure(settings);
    let packet = await firstPacket(file, index, key);
    for (let place = first; place <= lastPlace && packet; place++) {
      while (
        decoder.decodeQueueSize + ready.length + (alpha?.held ?? 0) >= IN_FLIGHT &&
        !failed &&
        decoder.state === 'configured'
      )
        await woken();
      if (failed || decoder.state !== 'configured') return;
      const n = index.framesInDecodeOrder[place]!;
      const timestamp = n >= 0 ? n : -1 - place;
      alpha?.feed(packet.sideData.alpha, timestamp);
      decoder.decode(
        new EncodedVideoChunk({
          // A recovery point that is no key frame to the decoder goes by as any other packet.
          type: place === first ? 'key' : 'delta',
          timestamp,
          data: packet.data,
        }),
      );
      if (place < lastPlace) packet = await file.packets.getNextPacket(packet);
    }
    flushing = true;
    await decoder.flush();
    await alpha?.flush();
  };
  void feed()
    .catch((error: unknown) => (failed ??= error))
    .finally(() => {
      flushed = true;
      wake();
    });

  try {
    let next = wanted;
    while (next <= last) {
      const picture = ready.shift();
      if (picture) {
        wake();
        if (picture.timestamp < next || picture.timestamp > last) {
          release(picture);
          continue;
        }
        next = picture.timestamp + 1;
        yield picture;
      } else if (failed || flushed) {
        how.failed = failed !== undefined;
        return;
      } else {
        awaited = true;
        await woken();
        awaited = false;
      }
    }
  } finally {
    clearInterval(looks);
    ready.forEach(release);
    ready.length = 0;
    if (decoder.state !== 'closed') decoder.close();
    counters.open -= alpha?.close() ?? 0;
    wake();
  }
}

/** Pictures of a file whose packets are pictures by themselves (Motion JPEG). One that is broken is passed over. */
async function* decodeStills(
  file: FilmFile,
  index: PacketIndex,
  key: number,
  last: number,
  counters: DecodeCounters,
): AsyncGenerator<VideoFrame, void, void> {
  let packet = await firstPacket(file, index, key);
  for (let place = index.keyPlaces[keyIndex(index, key)]!; packet; place++) {
    const n = index.framesInDecodeOrder[place] ?? -1;
    if (n > last) return;
    const picture = n >= key ? await decodeStill(packet.data, n).catch(() => undefined) : undefined;
    if (picture) {
      counters.decoded++;
      counters.open++;
      yield picture;
    }
    packet = n === last ? null : await file.packets.getNextPacket(packet);
  }
}

async function decodeStill(data: Uint8Array, n: number): Promise<VideoFrame> {
  const decoder = new ImageDecoder({ type: 'image/jpeg', data: data.slice() });
  try {
    const { image } = await decoder.decode();
    const picture = new VideoFrame(image, { timestamp: n });
    image.close();
    return picture;
  } finally {
    decoder.close();
  }
}

/** Frames of a still or animated picture. One that is broken is passed over. */
async function* decodePicture(
  file: PictureFile,
  first: number,
  last: number,
  counters: DecodeCounters,
): AsyncGenerator<VideoFrame, void, void> {
  for (let n = first; n <= last; n++) {
    const decoded = await file.decode(n).catch(() => undefined);
    if (!decoded) continue;
    // Its own time is not its frame's number.
    let picture: VideoFrame;
    try {
      picture = new VideoFrame(decoded.picture, { timestamp: n });
    } finally {
      decoded.picture.close();
    }
    counters.decoded++;
    counters.open++;
    yield picture;
  }
}
