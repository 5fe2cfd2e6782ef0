import { type FrameTable, frameCount, tableFromTimes } from '@skipback/core/clip/frame-table';
import { type Notice, failure, warning } from '@skipback/core/notice';
import { ALL_FORMATS, BlobSource, Input, UnsupportedInputFormatError } from 'mediabunny';
import { type ClipFile, openClipFile } from '../reader/clip-file';
import { type PacketFacts, type PacketIndex, indexPackets } from '../reader/packet-index';

/** What import learns of a file once and keeps. */
export interface ClipFacts {
  readonly table: FrameTable;
  readonly index: PacketIndex;
  /** Size as seen: turned upright, square pixels. */
  readonly width: number;
  readonly height: number;
  readonly rotation: number;
  /** As people know it: `H.264`. */
  readonly codec: string;
  readonly container: string;
  readonly hasSound: boolean;
  readonly notices: readonly Notice[];
}

export type Inspection =
  { readonly ok: true; readonly facts: ClipFacts } | { readonly ok: false; readonly notice: Notice };

const CODEC_NAMES: Record<string, string> = {
  avc: 'H.264',
  hevc: 'H.265',
  vp8: 'VP8',
  vp9: 'VP9',
  av1: 'AV1',
  prores: 'ProRes',
};

/** Reads what a clip is. Never throws: what is wrong comes back as a sentence with a way out. */
export async function inspectClip(blob: Blob, name: string): Promise<Inspection> {
  if (blob.size === 0)
    return refuse(
      'empty-file',
      `${name} is empty: it has no bytes.`,
      'Copy it again from where it came from.',
    );
  let file: ClipFile | undefined;
  try {
    file = await openClipFile(blob);
    if (!file)
      return (await hasSoundTrack(blob))
        ? refuse('no-picture', `${name} has sound but no picture.`, 'Choose a video file.')
        : broken(name);
    return await inspectOpen(file, name);
  } catch (error) {
    if (error instanceof UnsupportedInputFormatError)
      return refuse(
        'not-media',
        `${name} is not a video file this program can read.`,
        'MP4, MOV, WebM, Matroska and MPEG-TS files work.',
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

async function inspectOpen(file: ClipFile, name: string): Promise<Inspection> {
  const { track, input } = file;
  const codec = await track.getCodec();
  const codecName = codec ? (CODEC_NAMES[codec] ?? codec) : 'an unknown codec';
  const decodable = typeof VideoDecoder === 'undefined' || (codec !== null && (await track.canDecode()));
  if (!decodable)
    return refuse(
      'codec',
      `${name} is ${codecName}, which this browser cannot decode.`,
      'Export it as H.264 in MP4, or VP9 in WebM, and import that.',
    );
  const packets: PacketFacts[] = [];
  const notices: Notice[] = [];
  try {
    for await (const p of file.packets.packets(undefined, undefined, { metadataOnly: true }))
      packets.push({ timeS: p.timestamp, durationS: p.duration, isKey: p.type === 'key' });
  } catch {
    notices.push(cutOff(name));
  }
  if (packets.length === 0)
    return refuse(
      'no-frames',
      `No frame of ${name} can be read: it is empty, or was cut off early.`,
      'Copy or export it again.',
    );
  const promised = (await track.getDurationFromMetadata().catch(() => null)) ?? 0;
  const index = indexPackets(packets);
  const times = [...index.times];
  const lastPacket = packets[index.decodePlaces[times.length - 1]!]!;
  const table = tableFromTimes(times, lastPacket.durationS);
  const found = times[times.length - 1]! + lastPacket.durationS;
  if (notices.length === 0 && promised - found > 1) notices.push(cutOff(name));
  return {
    ok: true,
    facts: {
      table,
      index,
      width: await track.getDisplayWidth(),
      height: await track.getDisplayHeight(),
      rotation: await track.getRotation(),
      codec: codecName,
      container: (await input.getFormat()).name,
      hasSound: (await input.getPrimaryAudioTrack()) !== null,
      notices,
    },
  };
}

function cutOff(name: string): Notice {
  return warning('cut-off', `${name} ends too early: the file was cut off.`, 'What is there can be used.');
}

/** The sentence for frames that cannot be decoded, [first, last] ranges. */
export function damageNotice(damaged: readonly number[], table: FrameTable): Notice | undefined {
  const first = damaged[0];
  if (first === undefined) return undefined;
  const last = damaged[damaged.length - 1]!;
  const where =
    damaged.length === 1 ? `Frame ${first} is` : `${damaged.length} frames between ${first} and ${last} are`;
  if (damaged.length === frameCount(table))
    return failure(
      'all-damaged',
      'No frame of this file can be decoded.',
      'Export it again as H.264 in MP4 or VP9 in WebM.',
    );
  return warning('damaged', `${where} damaged.`, 'The good frame before is shown in their place.');
}
