import { ALL_FORMATS, BlobSource, EncodedPacketSink, Input, type InputVideoTrack } from 'mediabunny';

/** A media file held open for reading its first video track. Whoever opened it closes it. */
export interface ClipFile {
  readonly input: Input;
  readonly track: InputVideoTrack;
  readonly packets: EncodedPacketSink;
  close(): void;
}

/** Opens a file's first video track; undefined when it has none. Throws what the demuxer throws on unreadable files. */
export async function openClipFile(blob: Blob): Promise<ClipFile | undefined> {
  const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(blob) });
  try {
    const track = await input.getPrimaryVideoTrack();
    if (!track) {
      input.dispose();
      return undefined;
    }
    return { input, track, packets: new EncodedPacketSink(track), close: () => input.dispose() };
  } catch (error) {
    input.dispose();
    throw error;
  }
}
