import { ALL_FORMATS, BlobSource, EncodedPacketSink, Input, type InputVideoTrack } from 'mediabunny';
import { type PictureFile, openPictureFile } from './picture-file';
import { openSequenceFile } from './sequence-file';

/** A film held open for reading its first video track. Whoever opened it closes it. */
export interface FilmFile {
  readonly kind: 'film';
  readonly input: Input;
  readonly track: InputVideoTrack;
  readonly packets: EncodedPacketSink;
  /** Whether its packets may bring their transparency along, as a second film. */
  readonly mayBeClear: boolean;
  /** Whether its packets are JPEG pictures, which are decoded one by one. */
  readonly stills: boolean;
  close(): void;
}

/** What a clip is read from: a film, or a still or animated picture. */
export type ClipFile = FilmFile | PictureFile;

/** Opens a clip's file, `read` hears whenever some of a film was read; undefined when it has no picture. Throws what its reader throws on unreadable files. */
export const openClipFile = async (blob: Blob, read?: () => void): Promise<ClipFile | undefined> =>
  (await openPictureFile(blob)) ?? (await openSequenceFile(blob)) ?? openFilmFile(blob, read);

/** Opens a file's first video track; `read` hears whenever some of it was read; undefined when it has none. Throws what the demuxer throws on unreadable files. */
export async function openFilmFile(blob: Blob, read?: () => void): Promise<FilmFile | undefined> {
  const source = new BlobSource(blob);
  if (read) source.onread = read;
  const input = new Input({ formats: ALL_FORMATS, source });
  try {
    const track = await input.getPrimaryVideoTrack();
    if (!track) {
      input.dispose();
      return undefined;
    }
    const packets = new EncodedPacketSink(track);
    const stills = (await track.getCodec()) === null && (await beginsWithJpeg(packets));
    const mayBeClear = await track.canBeTransparent().catch(() => false);
    return { kind: 'film', input, track, packets, mayBeClear, stills, close: () => input.dispose() };
  } catch (error) {
    input.dispose();
    throw error;
  }
}

async function beginsWithJpeg(packets: EncodedPacketSink): Promise<boolean> {
  const first = await packets.getFirstPacket().catch(() => null);
  return first !== null && first.data[0] === 0xff && first.data[1] === 0xd8;
}
