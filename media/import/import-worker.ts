import { inspectClip } from './inspect';
import type { ImportReply, ImportRequest } from './messages';
import { drawThumbnails } from './thumbnails';

const reply = (message: ImportReply) => self.postMessage(message);

self.addEventListener('message', ({ data }: MessageEvent<ImportRequest>) => {
  void (async () => {
    try {
      if (data.kind === 'inspect')
        reply({ id: data.id, kind: 'inspected', inspection: await inspectClip(data.file, data.name) });
      else reply({ id: data.id, kind: 'thumbnails', sheet: await drawThumbnails(data.clip) });
    } catch (error) {
      reply({
        id: data.id,
        kind: 'failed',
        sentence: error instanceof Error ? error.message : String(error),
      });
    }
  })();
});
