/**
 * Where every frame of a file is: the packet table, read once on import. Frame `n` is the n-th in
 * presentation order; packets are in decode order, which differs where there are B-frames.
 */
export interface PacketIndex {
  /** Presentation time of each frame as the file has it, seconds, ascending. */
  readonly times: Float64Array;
  /** For each frame, the place of its packet in decode order. */
  readonly decodePlaces: Uint32Array;
  /** For each packet in decode order, the frame it shows; -1 for one that is never shown. */
  readonly framesInDecodeOrder: Int32Array;
  /** Frames at which decoding can begin, ascending. */
  readonly keys: readonly number[];
}

/** One packet as the container tells it. */
export interface PacketFacts {
  readonly timeS: number;
  readonly durationS: number;
  readonly isKey: boolean;
}

/**
 * The index of packets given in decode order. Packets that end at or before time zero (cut off by
 * the file's own edit list) are decoded but not frames, unless all of them are.
 */
export function indexPackets(packets: readonly PacketFacts[]): PacketIndex {
  const visible = packets.map((p) => p.timeS + p.durationS > 1e-6 || p.timeS >= 0);
  const all = !visible.includes(true);
  const places = packets
    .map((_, place) => place)
    .filter((place) => all || visible[place])
    .sort((a, b) => packets[a]!.timeS - packets[b]!.timeS || a - b);
  const framesInDecodeOrder = new Int32Array(packets.length).fill(-1);
  places.forEach((place, n) => (framesInDecodeOrder[place] = n));
  const keys = places.flatMap((place, n) => (packets[place]!.isKey ? [n] : []));
  return {
    times: Float64Array.from(places, (place) => packets[place]!.timeS),
    decodePlaces: Uint32Array.from(places),
    framesInDecodeOrder,
    keys: keys.length > 0 && keys[0] === 0 ? keys : [0, ...keys],
  };
}

/** The packets, first and last in decode order, that a run from key frame `key` through frame `last` needs. */
export function packetsOfRun(index: PacketIndex, key: number, last: number): { first: number; last: number } {
  const first = index.decodePlaces[key]!;
  let end = first;
  for (let n = key; n <= last; n++) end = Math.max(end, index.decodePlaces[n]!);
  return { first, last: end };
}
