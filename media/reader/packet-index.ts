/**
 * Which packet shows which frame, once and for all. Frames are numbered in presentation order; packets in
 * decode order. Packets that are decoded but never shown (cut off by an edit list) have no number.
 */
export interface PacketIndex {
  /** Presentation time of each frame, seconds, ascending. */
  readonly times: Float64Array;
  /** For each frame, the place of its packet in decode order. */
  readonly decodePlaces: Uint32Array;
  /** For each packet in decode order, the frame it shows; -1 for one that is never shown. */
  readonly framesInDecodeOrder: Int32Array;
  /** The first frame that decoding from each key packet gives, ascending; the first is 0. */
  readonly keys: readonly number[];
  /** For each of them, the place of the packet that decoding begins with, and that packet's time in seconds. */
  readonly keyPlaces: readonly number[];
  readonly keyTimesS: readonly number[];
}

/** One packet as the container tells it. */
export interface PacketFacts {
  readonly timeS: number;
  readonly durationS: number;
  /** Whether decoding can begin with it. */
  readonly isKey: boolean;
}

/** Times are this exact in any container, seconds. */
const CLOSE_S = 1e-4;

/**
 * The index of packets given in decode order. Not frames are: packets before time zero (cut off by the file's
 * own edit list: lossless trimmers leave the frames before the cut in the file), unless all are; and what
 * comes before the first key packet, or is shown before it and leads to frames the file does not have.
 */
export function indexPackets(packets: readonly PacketFacts[]): PacketIndex {
  const first = Math.max(
    0,
    packets.findIndex((p) => p.isKey),
  );
  const reachable = (p: PacketFacts, place: number) =>
    place >= first && p.timeS >= packets[first]!.timeS - CLOSE_S;
  const shown = (p: PacketFacts, place: number) => p.timeS > -CLOSE_S && reachable(p, place);
  const some = packets.some(shown);
  const places = packets
    .map((_, place) => place)
    .filter((place) => (some ? shown : reachable)(packets[place]!, place))
    .sort((a, b) => packets[a]!.timeS - packets[b]!.timeS || a - b);
  const framesInDecodeOrder = new Int32Array(packets.length).fill(-1);
  places.forEach((place, n) => (framesInDecodeOrder[place] = n));
  const times = Float64Array.from(places, (place) => packets[place]!.timeS);

  const starts: { frame: number; place: number }[] = [];
  for (const [place, packet] of packets.entries()) {
    if (!packet.isKey && place !== first) continue;
    const frame = framesInDecodeOrder[place]!;
    // A hidden key packet begins at the first frame that is shown; of several, the last one before it does.
    const begins = frame >= 0 ? frame : times.findIndex((t) => t > packet.timeS);
    if (begins < 0 || (frame < 0 && place > places[begins]!)) continue;
    const last = starts[starts.length - 1];
    if (last?.frame === begins) starts.pop();
    if (starts.length === 0 || starts[starts.length - 1]!.frame < begins)
      starts.push({ frame: begins, place });
  }
  if (starts[0]?.frame !== 0) starts.unshift({ frame: 0, place: first });
  return {
    times,
    decodePlaces: Uint32Array.from(places),
    framesInDecodeOrder,
    keys: starts.map((s) => s.frame),
    keyPlaces: starts.map((s) => s.place),
    keyTimesS: starts.map((s) => packets[s.place]!.timeS),
  };
}

/** The place in `keys` of a key frame. */
export function keyIndex(index: PacketIndex, key: number): number {
  const at = index.keys.indexOf(key);
  if (at < 0) throw new RangeError(`not a key frame: ${key}`);
  return at;
}

/** The packets, first and last in decode order, that a run from key frame `key` through frame `last` needs. */
export function packetsOfRun(index: PacketIndex, key: number, last: number): { first: number; last: number } {
  const first = index.keyPlaces[keyIndex(index, key)]!;
  let end = first;
  for (let n = key; n <= last; n++) end = Math.max(end, index.decodePlaces[n]!);
  return { first, last: end };
}
