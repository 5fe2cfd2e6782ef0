import { sensibleTimes, tableFromTimes } from '@skipback/core/clip/frame-table';
import { type Notice, failure, info, warning } from '@skipback/core/notice';
import { ALL_FORMATS, BlobSource, Input, UnsupportedInputFormatError } from 'mediabunny';
import { type ClipFile, type FilmFile, openClipFile } from '../reader/clip-file';
import { holdsIdr, lengthSizeOf } from '../reader/avc-keys';
import { type PictureFile, isClear, pictureType } from '../reader/picture-file';
import { SEQUENCE_HZ } from '../reader/sequence-file';
import { type PacketFacts, indexPackets } from '../reader/packet-index';
import { type ClipFacts, FACTS_VERSION } from './clip-facts';

export type Inspection =
  | { readonly ok: true; readonly facts: ClipFacts }
  | { readonly ok: false; readonly notice: Notice };

const CODEC_NAMES: Record<string, string> = {
  avc: 'H.264',
  hevc: 'H.265',
  vp8: 'VP8',
  vp9: 'VP9',
  av1: 'AV1',
  prores: 'ProRes',
};

/** Codecs by the names containers have for them, where no decoder is known. */
const FOUND_NAMES: readonly (readonly [RegExp, string])[] = [
  [/^(mp4v|xvid|divx|dx50|fmp4|V_MPEG4)/i, 'MPEG-4 Part 2'],
  [/^(jpeg|mjp|V_MJPEG)/i, 'Motion JPEG'],
  [/^(ap[ch4][hnosx]?|V_PRORES)/i, 'ProRes'],
  [/^(AVd|V_DNX)/i, 'DNxHD'],
  [/^(hvc1|hev1|dvh1|V_MPEGH)/i, 'H.265'],
  [/^(mp2v|mpg2|m2v1|hdv|xdv|V_MPEG2)/i, 'MPEG-2'],
  [/^(mpg1|m1v|V_MPEG1)/i, 'MPEG-1'],
  [/^(rle|SVQ|cvid|V_THEORA|theo)/i, 'an old QuickTime or Theora codec'],
  [/^(CFHD)/i, 'CineForm'],
  [/^(FFV1|V_FFV1)/i, 'FFV1'],
  [/^(raw|2vuy|yuv2|v210|V_UNCOMPRESSED)/i, 'uncompressed video'],
];

/** A codec's name for people. */
async function codecNameOf({ track, stills }: FilmFile): Promise<string> {
  if (stills) return 'Motion JPEG';
  const codec = await track.getCodec();
  if (codec) return CODEC_NAMES[codec] ?? codec;
  const found = await track.getInternalCodecId();
  const id = typeof found === 'string' ? found : '';
  return (
    FOUND_NAMES.find(([pattern]) => pattern.test(id))?.[1] ?? (id ? `"${id}"` : 'a codec without a name')
  );
}

/** How often it is told that reading goes on, milliseconds: a slow disk gives a second's film in as long. */
const TELL_EVERY_MS = 500;

/** Calls something at most so often. */
function byTheClock(call: () => void): () => void {
  let last = -Infinity;
  return () => {
    const now = performance.now();
    if (now - last < TELL_EVERY_MS) return;
    last = now;
    call();
  };
}

/**
 * Reads what a clip is. Never throws: what is wrong comes back as a sentence with a way out. `goesOn` is called now and then
 * while it gets further.
 */
export async function inspectClip(
  blob: Blob,
  name: string,
  goesOn: () => void = () => undefined,
): Promise<Inspection> {
  if (blob.size === 0)
    return refuse(
      'empty-file',
      `${name} is empty: it has no bytes.`,
      'Copy it again from where it came from.',
    );
  let file: ClipFile | undefined;
  const tell = byTheClock(goesOn);
  try {
    file = await openClipFile(blob, tell);
    if (!file)
      return (await hasSoundTrack(blob))
        ? refuse('no-picture', `${name} has sound but no picture.`, 'Choose a video file.')
        : broken(name);
    return file.kind === 'picture'
      ? await inspectPicture(file, name, tell)
      : await inspectOpen(file, name, tell);
  } catch (error) {
    if (error instanceof UnsupportedInputFormatError)
      return refuse(
        'not-media',
        `${name} is not a video or a picture that this program can read.`,
        'MP4, MOV, WebM, Matroska and MPEG-TS files work, and PNG, JPEG, GIF, WebP and AVIF pictures.',
      );
    const kind = await pictureType(blob).catch(() => undefined);
    if (kind)
      return refuse(
        'broken-picture',
        `${name} is a damaged ${kind.name} picture: it cannot be decoded.`,
        'Copy or export it again.',
      );
    return broken(name);
  } finally {
    file?.close();
  }
}

function refuse(code: string, text: string, wayOut: string): Inspection {
  return { ok: false, notice: failure(code, text, wayOut) };
}

function broken(name: string): Inspection {
  return refuse(
    'broken-file',
    `${name} is broken: its table of frames cannot be read.`,
    'It may have been cut off while copying or recording; copy or export it again.',
  );
}

async function hasSoundTrack(blob: Blob): Promise<boolean> {
  const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(blob) });
  try {
    return (await input.getPrimaryAudioTrack()) !== null;
  } finally {
    input.dispose();
  }
}

async function inspectOpen(file: FilmFile, name: string, goesOn: () => void): Promise<Inspection> {
  const { track, input } = file;
  const codec = await track.getCodec();
  const codecName = await codecNameOf(file);
  const decodable =
    file.stills || (codec !== null && (typeof VideoDecoder === 'undefined' || (await track.canDecode())));
  if (!decodable)
    return refuse(
      'codec',
      `${name} is ${codecName}, which this browser cannot decode.`,
      'Export it as H.264 in MP4, or VP9 in WebM, and import that.',
    );
  const packets: PacketFacts[] = [];
  const notices: Notice[] = [];
  try {
    for await (const p of file.packets.packets(undefined, undefined, { metadataOnly: true })) {
      goesOn();
      packets.push({ timeS: p.timestamp, durationS: p.duration, isKey: p.type === 'key' });
    }
  } catch {
    notices.push(cutOff(name));
  }
  if (packets.length === 0)
    return refuse(
      'no-frames',
      `No frame of ${name} can be read: it is empty, or was cut off early.`,
      'Copy or export it again.',
    );
  if (codec === 'avc') await keepTrueKeys(file, packets, goesOn);
  const tags: { transfer?: string | null } = await track.getColorSpace().catch(() => ({}));
  const { transfer } = tags;
  const clear = file.mayBeClear && JOINED.has(codec ?? '');
  if (file.mayBeClear && !clear) notices.push(notClear(name));
  if (transfer === 'hlg' || transfer === 'pq') notices.push(highRange(name, transfer));
  const promised = (await track.getDurationFromMetadata().catch(() => null)) ?? 0;
  const index = indexPackets(packets);
  const times = [...index.times];
  const lastPacket = packets[index.decodePlaces[times.length - 1]!]!;
  const shown = sensibleTimes(times, lastPacket.durationS);
  const table = tableFromTimes(shown.times, shown.lastS);
  if (!shown.asFound) notices.push(noTimes(name));
  const found = times[times.length - 1]! + lastPacket.durationS;
  if (shown.asFound && !notices.some((n) => n.code === 'cut-off') && promised - found > 1)
    notices.push(cutOff(name));
  return {
    ok: true,
    facts: {
      version: FACTS_VERSION,
      table,
      index,
      width: await track.getDisplayWidth(),
      height: await track.getDisplayHeight(),
      rotation: await track.getRotation(),
      codec: codecName,
      container: (await input.getFormat()).name,
      hasSound: (await input.getPrimaryAudioTrack()) !== null,
      ...(clear && { clear }),
      notices,
    },
  };
}

/** Kinds of film whose transparency is read. */
const JOINED: ReadonlySet<string> = new Set(['vp8', 'vp9']);

/** Pixels a picture may have, about what 8K has twice over. */
const MOST_PIXELS = 64_000_000;
/** Frames of an animated picture in which something transparent is looked for. */
const LOOKED_INTO = 8;

/** What is to be said of numbered pictures. */
const ofSequence = (missing: number): Notice[] => [
  info(
    'sequence',
    `Numbered pictures, played at ${SEQUENCE_HZ} a second. "Play clip at" beside the span changes that.`,
  ),
  ...(missing > 0
    ? [
        warning(
          'missing-numbers',
          `${missing} ${missing === 1 ? 'number is' : 'numbers are'} missing between the first and the last: the pictures follow each other.`,
        ),
      ]
    : []),
];

async function inspectPicture(file: PictureFile, name: string, goesOn: () => void): Promise<Inspection> {
  const { count, width, height, evenS, missing = 0 } = file;
  if (width * height > MOST_PIXELS)
    return refuse(
      'too-large',
      `${name} is ${width} x ${height}, larger than this program can work with.`,
      'Make it smaller, 8000 pixels a side at most.',
    );
  const packets: PacketFacts[] = [];
  let at = 0;
  let clear = false;
  for (let n = 0; n < count; n++) {
    if (evenS !== undefined && n >= LOOKED_INTO) {
      packets.push({ timeS: n * evenS, durationS: evenS, isKey: true });
      continue;
    }
    const { picture, durationS } = await file.decode(n);
    goesOn();
    try {
      clear ||= n < LOOKED_INTO && (await isClear(picture));
    } finally {
      picture.close();
    }
    packets.push({ timeS: at, durationS, isKey: true });
    at += durationS;
  }
  const index = indexPackets(packets);
  const [times, lastS] = [[...index.times], packets[count - 1]!.durationS];
  return {
    ok: true,
    facts: {
      ...{ version: FACTS_VERSION, index, width, height, rotation: 0, hasSound: false },
      notices: evenS === undefined ? [] : ofSequence(missing),
      table: count === 1 ? { kind: 'variable', starts: [0], endS: lastS } : tableFromTimes(times, lastS),
      codec: file.name,
      container: count === 1 ? 'a still picture' : 'an animated picture',
      ...(clear && { clear }),
    },
  };
}

const noTimes = (name: string): Notice =>
  warning(
    'no-times',
    `The times in ${name} make no sense: its frames are shown one after the other, evenly.`,
    '"Play clip at" beside the span sets how many a second.',
  );

const notClear = (name: string): Notice =>
  info(
    'not-clear',
    `${name} can be transparent, which is read from films in VP8 and VP9 only: all of its picture is used. As an animated PNG or WebP it would be.`,
  );

function highRange(name: string, transfer: 'hlg' | 'pq'): Notice {
  return info(
    'high-range',
    `${name} is in high dynamic range (${transfer.toUpperCase()}): it is shown and rendered in standard range, bright light bent softly below white.`,
  );
}

/** Key packets looked at first; where they are what they say, the others are taken at their word. */
const LOOKED_AT = 24;

/**
 * Of an H.264 file's key packets keeps those that decoding can begin with. Where it has none at all, all of
 * them, since there is nothing better.
 */
async function keepTrueKeys(file: FilmFile, packets: PacketFacts[], goesOn: () => void): Promise<void> {
  const config = await file.track.getDecoderConfig();
  const lengthSize = lengthSizeOf(config?.description);
  const keys = packets.flatMap((p, place) => (p.isKey ? [place] : []));
  const isTrue = async (place: number) => {
    goesOn();
    const packet =
      place === 0
        ? await file.packets.getFirstPacket()
        : await file.packets.getKeyPacket(packets[place]!.timeS + 1e-6);
    return packet !== null && holdsIdr(packet.data, lengthSize);
  };
  const step = Math.max(1, Math.ceil(keys.length / LOOKED_AT));
  let allTrue = true;
  for (let i = 0; i < keys.length && allTrue; i += step) allTrue = await isTrue(keys[i]!);
  if (allTrue) return;
  const trueKeys = new Set<number>();
  for (const place of keys) if (await isTrue(place)) trueKeys.add(place);
  if (trueKeys.size === 0) return;
  for (const place of keys) if (!trueKeys.has(place)) packets[place] = { ...packets[place]!, isKey: false };
}

function cutOff(name: string): Notice {
  return warning('cut-off', `${name} ends too early: the file was cut off.`, 'What is there can be used.');
}
