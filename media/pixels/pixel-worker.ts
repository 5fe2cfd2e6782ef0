import { Drawer } from './drawer';
import type { PixelReply, PixelRequest } from './pixel-messages';

const drawer = new Drawer();

self.addEventListener('message', ({ data }: MessageEvent<PixelRequest>) => {
  if (data.kind === 'tables') return drawer.setTables(data.tables);
  const reply = (message: PixelReply, transfer: Transferable[] = []) =>
    self.postMessage(message, { transfer });
  try {
    const drawn = drawer.draw(data.job, data.bytes);
    reply({ id: data.id, drawn }, [drawn.bytes.buffer]);
  } catch (error) {
    reply({ id: data.id, problem: error instanceof Error ? error.message : 'unknown' });
  }
});
