import type { EncodedPacket } from 'mediabunny';
import type { ClipFile } from './clip-file';
import { type PacketIndex, packetsOfRun } from './packet-index';

/** Packets in the decoder and pictures waiting to be taken, at most: the slow consumer slows the producer. */
const IN_FLIGHT = 16;

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
 * the frame number, so no container's rounding can mix frames up. A damaged stretch yields frames
 * without pictures up to the next frame that decodes.
 */
export async function* decodeRun(
  file: ClipFile,
  index: PacketIndex,
  key: number,
  last: number,
  counters: DecodeCounters,
): AsyncGenerator<RunPicture, void, void> {
  const config = await file.track.getDecoderConfig();
  if (!config) throw new Error('the codec of this file is unknown');
  const { first, last: lastPlace } = packetsOfRun(index, key, last);
  const ready: VideoFrame[] = [];
  let failed: unknown;
  // The feeder and the taker both wait here for the other and for the decoder.
  let waiting: (() => void)[] = [];
  const woken = () => new Promise<void>((resolve) => waiting.push(resolve));
  const wake = () => {
    const all = waiting;
    waiting = [];
    all.forEach((resolve) => resolve());
  };
  const decoder = new VideoDecoder({
    output: (picture) => {
      counters.decoded++;
      counters.open++;
      ready.push(picture);
      wake();
    },
    error: (error) => {
      failed = error;
      wake();
    },
  });
  decoder.addEventListener('dequeue', wake);
  const release = (picture: VideoFrame) => {
    picture.close();
    counters.open--;
  };

  let flushed = false;
  const feed = async () => {
    decoder.configure(config);
    let packet: EncodedPacket | null = await file.packets.getKeyPacket(index.times[key]! + 1e-6);
    for (let place = first; place <= lastPlace && packet; place++) {
      while (decoder.decodeQueueSize + ready.length >= IN_FLIGHT && !failed && decoder.state === 'configured')
        await woken();
      if (failed || decoder.state !== 'configured') return;
      const n = index.framesInDecodeOrder[place]!;
      decoder.decode(
        new EncodedVideoChunk({
          type: place === first ? 'key' : packet.type,
          timestamp: n >= 0 ? n : -1 - place,
          data: packet.data,
        }),
      );
      if (place < lastPlace) packet = await file.packets.getNextPacket(packet);
    }
    await decoder.flush();
  };
  void feed()
    .catch((error: unknown) => (failed ??= error))
    .finally(() => {
      flushed = true;
      wake();
    });

  try {
    let next = key;
    while (next <= last) {
      const picture = ready.shift();
      if (picture) {
        wake();
        if (picture.timestamp < next || picture.timestamp > last) {
          release(picture);
          continue;
        }
        while (next < picture.timestamp) yield { frame: next++, picture: undefined };
        next++;
        counters.open--;
        yield { frame: picture.timestamp, picture };
      } else if (failed || flushed) yield { frame: next++, picture: undefined };
      else await woken();
    }
  } finally {
    ready.forEach(release);
    ready.length = 0;
    if (decoder.state !== 'closed') decoder.close();
    wake();
  }
}
