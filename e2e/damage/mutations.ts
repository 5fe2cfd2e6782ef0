/** Ways in which a file is broken: each takes a whole one's bytes and gives what is left of it. */
import { between, oneOf } from './random';

export interface Mutation {
  readonly name: string;
  /** Whether it makes sense for a file with this ending. */
  readonly fits: (ending: string) => boolean;
  /** Undefined where there is nothing to break in this way. */
  readonly apply: (bytes: Buffer, random: () => number) => Buffer | undefined;
}

const anything = () => true;
const boxes = (ending: string) => ['mp4', 'mov', 'm4a'].includes(ending);
const elements = (ending: string) => ['webm', 'mkv'].includes(ending);

/** Places of a box's four letters (its size stands before them, its content after) or of an element's id. */
function placesOf(bytes: Buffer, kind: string | Buffer): number[] {
  const places: number[] = [];
  for (let at = bytes.indexOf(kind); at >= 0; at = bytes.indexOf(kind, at + 1)) places.push(at);
  return places;
}

/** Changes 32-bit numbers of a box, counted from its content, version and flags being 0. */
const inBox =
  (kind: string, change: (view: DataView, random: () => number) => void) =>
  (bytes: Buffer, random: () => number): Buffer | undefined => {
    const places = placesOf(bytes, kind);
    if (places.length === 0) return undefined;
    const out = Buffer.from(bytes);
    for (const at of places) {
      const size = out.readUInt32BE(at - 4);
      const end = Math.min(out.length, at - 4 + size);
      if (end - at - 4 < 8) continue;
      change(new DataView(out.buffer, out.byteOffset + at + 4, end - at - 4), random);
    }
    return out;
  };

const put = (view: DataView, at: number, value: number): void => {
  if (at + 4 <= view.byteLength) view.setUint32(at, value >>> 0);
};

const ABSURD = [0, 1, 7, 8, 0x7fffffff, 0x80000000, 0xffffffff, 0x10000];
const KINDS = [
  'moov',
  'trak',
  'mdia',
  'stbl',
  'stsd',
  'stts',
  'ctts',
  'stsz',
  'stsc',
  'stco',
  'mdat',
  'avcC',
];

export const MUTATIONS: readonly Mutation[] = [
  {
    name: 'cut off',
    fits: anything,
    apply: (bytes, random) => bytes.subarray(0, between(random, 1, bytes.length)),
  },
  {
    name: 'its beginning missing',
    fits: anything,
    apply: (bytes, random) => bytes.subarray(between(random, 1, bytes.length >> 1)),
  },
  {
    name: 'bits turned in the head',
    fits: anything,
    apply: (bytes, random) => turned(bytes, random, 0, Math.min(bytes.length, 2048), 12),
  },
  {
    name: 'bits turned in the data',
    fits: anything,
    apply: (bytes, random) => turned(bytes, random, bytes.length >> 2, bytes.length, 60),
  },
  {
    name: 'bits turned at the end',
    fits: anything,
    apply: (bytes, random) => turned(bytes, random, Math.max(0, bytes.length - 3000), bytes.length, 25),
  },
  {
    name: 'a hole of zeros',
    fits: anything,
    apply: (bytes, random) => {
      const from = between(random, 0, bytes.length);
      const to = Math.min(bytes.length, from + between(random, 1, bytes.length >> 2));
      return Buffer.from(bytes).fill(0, from, to);
    },
  },
  {
    name: 'a part twice',
    fits: anything,
    apply: (bytes, random) => {
      const from = between(random, 0, bytes.length);
      const to = Math.min(bytes.length, from + between(random, 16, 20_000));
      return Buffer.concat([bytes.subarray(0, to), bytes.subarray(from)]);
    },
  },
  {
    name: 'a box of absurd size',
    fits: boxes,
    apply: (bytes, random) => {
      const [at] = placesOf(bytes, oneOf(random, KINDS));
      if (at === undefined || at < 4) return undefined;
      const out = Buffer.from(bytes);
      out.writeUInt32BE(oneOf(random, ABSURD), at - 4);
      return out;
    },
  },
  {
    name: 'lengths of zero or less',
    fits: boxes,
    apply: (bytes, random) => {
      const scale = oneOf(random, [0, 1, 0xffffffff]);
      const out = inBox('mdhd', (v) => put(v, 12, scale))(bytes, random);
      return out && inBox('mvhd', (v) => put(v, 12, oneOf(random, [0, 0xffffffff])))(out, random);
    },
  },
  {
    name: 'frames that last no time',
    fits: boxes,
    apply: inBox('stts', (v) => put(v, 12, 0)),
  },
  {
    name: 'times that jump by hours',
    fits: boxes,
    apply: inBox('stts', (v, random) => put(v, 12, oneOf(random, [0x7fffffff, 90_000 * 3600, 0xfffffff0]))),
  },
  {
    name: 'times that run backward',
    fits: boxes,
    apply: inBox('ctts', (v, random) => {
      for (let at = 8; at + 8 <= v.byteLength; at += 8)
        put(v, at + 4, between(random, -2_000_000, 2_000_000));
    }),
  },
  {
    name: 'counts that are not true',
    fits: boxes,
    apply: (bytes, random) =>
      inBox(oneOf(random, ['stsz', 'stts', 'stsc', 'stco', 'ctts']), (v) =>
        put(v, v.byteLength > 16 ? oneOf(random, [4, 8]) : 4, oneOf(random, [0, 1, 0x00ffffff, 0xffffffff])),
      )(bytes, random),
  },
  {
    name: 'packets elsewhere',
    fits: boxes,
    apply: inBox('stco', (v, random) => {
      for (let at = 8; at + 4 <= v.byteLength; at += 4)
        if (random() < 0.3) put(v, at, between(random, 0, 0xffffffff));
    }),
  },
  {
    name: 'an edit list that overlaps itself',
    fits: boxes,
    apply: inBox('elst', (v, random) => {
      put(v, 8, between(random, 0, 100_000));
      put(v, 12, oneOf(random, [0, 0xfffffffe, 0x7fffffff, between(random, 0, 100_000)]));
      put(v, 16, oneOf(random, [0, 0x10000, 0xffff0000]));
    }),
  },
  {
    name: 'a codec that is none',
    fits: boxes,
    apply: (bytes, random) => {
      const kind = oneOf(random, ['avc1', 'avcC', 'mp4a', 'esds']);
      const [at] = placesOf(bytes, kind);
      if (at === undefined) return undefined;
      const out = Buffer.from(bytes);
      out.write(oneOf(random, ['zzzz', 'hvc1', 'av01', '\0\0\0\0']), at, 'latin1');
      return out;
    },
  },
  {
    name: 'a codec description of chance',
    fits: boxes,
    apply: inBox('avcC', (v, random) => {
      for (let at = 0; at < v.byteLength; at++) if (random() < 0.4) v.setUint8(at, between(random, 0, 256));
    }),
  },
  {
    name: 'a codec that is none',
    fits: elements,
    apply: (bytes, random) => {
      const at = bytes.indexOf('V_');
      if (at < 0) return undefined;
      const out = Buffer.from(bytes);
      out.write(oneOf(random, ['V_XX9', 'V_AV1', 'A_MP3', 'V_\0\0\0']), at, 'latin1');
      return out;
    },
  },
  {
    name: 'an element of absurd size',
    fits: elements,
    apply: (bytes, random) => {
      // Clusters, blocks and cues, by the beginnings of their ids.
      const id = Buffer.from(oneOf(random, ['1f43b675', '1c53bb6b', '1654ae6b', '1549a966']), 'hex');
      const at = bytes.indexOf(id);
      if (at < 0) return undefined;
      const out = Buffer.from(bytes);
      out.fill(oneOf(random, [0x01, 0x00, 0x81, 0xff]), at + 4, at + 5);
      for (let i = at + 5; i < Math.min(out.length, at + 12); i++) out[i] = between(random, 0, 256);
      return out;
    },
  },
  {
    name: 'clusters in another order',
    fits: elements,
    apply: (bytes) => {
      const [a, b, c] = placesOf(bytes, Buffer.from('1f43b675', 'hex'));
      if (a === undefined || b === undefined || c === undefined) return undefined;
      return Buffer.concat([
        bytes.subarray(0, a),
        bytes.subarray(b, c),
        bytes.subarray(a, b),
        bytes.subarray(c),
      ]);
    },
  },
];

function turned(bytes: Buffer, random: () => number, from: number, to: number, times: number): Buffer {
  const out = Buffer.from(bytes);
  for (let i = 0; i < times; i++) out[between(random, from, to)]! ^= 1 << between(random, 0, 8);
  return out;
}
