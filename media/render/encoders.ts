import { MIX_RATE_HZ } from '@skipback/core/sound/stereo';
import {
  type AudioCodec,
  Mp4OutputFormat,
  type OutputFormat,
  QUALITY_HIGH,
  type VideoCodec,
  WebMOutputFormat,
  canEncodeAudio,
  canEncodeVideo,
} from 'mediabunny';
import { type FilmFormat, type RenderSettings, isFilm } from './messages';

export interface FileKind {
  readonly id: FilmFormat;
  readonly label: string;
  readonly codec: VideoCodec;
  readonly extension: string;
  readonly mime: string;
  /** Codecs for its sound, the one that plays in most places first. */
  readonly soundCodecs: readonly AudioCodec[];
  container(): OutputFormat;
}

export const FILE_KINDS: readonly FileKind[] = [
  {
    id: 'mp4-h264',
    label: 'MP4, H.264',
    codec: 'avc',
    extension: 'mp4',
    mime: 'video/mp4',
    soundCodecs: ['aac'],
    container: () => new Mp4OutputFormat(),
  },
  {
    id: 'webm-vp9',
    label: 'WebM, VP9',
    codec: 'vp9',
    extension: 'webm',
    mime: 'video/webm',
    soundCodecs: ['opus'],
    container: () => new WebMOutputFormat(),
  },
  {
    id: 'webm-av1',
    label: 'WebM, AV1',
    codec: 'av1',
    extension: 'webm',
    mime: 'video/webm',
    soundCodecs: ['opus'],
    container: () => new WebMOutputFormat(),
  },
];

export function fileKind(id: FilmFormat): FileKind {
  return FILE_KINDS.find((k) => k.id === id)!;
}

/** The kind of film that settings are for. Throws for a file of pictures. */
export function filmKindOf({ format }: Pick<RenderSettings, 'format'>): FileKind {
  if (!isFilm(format)) throw new RangeError(`${format} is no film`);
  return fileKind(format);
}

/** The sound codec that can be made for a kind of file here, AAC always (`ownAac`); undefined when there is none. */
export async function soundCodecOf(kind: FileKind): Promise<AudioCodec | undefined> {
  for (const codec of kind.soundCodecs)
    if (
      codec === 'aac' ||
      (await canEncodeAudio(codec, { numberOfChannels: 2, sampleRate: MIX_RATE_HZ, quality: QUALITY_HIGH }))
    )
      return codec;
  return undefined;
}

/** The file kinds this browser can make at a size. */
export async function encodableKinds(width: number, height: number): Promise<FilmFormat[]> {
  const checks = await Promise.all(
    FILE_KINDS.map(async (k) => ((await canEncodeVideo(k.codec, { width, height })) ? k.id : undefined)),
  );
  return checks.filter((id) => id !== undefined);
}
