import { Drawer } from './drawer';
import type { PixelReply, PixelRequest } from './pixel-messages';

const drawer = new Drawer();

self.addEventListener('message', ({ data }: MessageEvent<PixelRequest>) => {
  if (data.kind === 'tables') return drawer.setTables(data.tables);
  if (data.kind === 'forget') return drawer.forget();
  const reply = (message: PixelReply, transfer: Transferable[] = []) =>
    self.postMessage(message, { transfer });
  try {
    if (data.kind === 'motion') {
      drawer.find(data.first, data.second, data.width, data.height, data.field);
      return reply({ id: data.id, found: true });
    }
    const drawn = drawer.draw(data.job, data.bytes);
    reply({ id: data.id, drawn }, [drawn.bytes.buffer]);
  } catch (error) {
    reply({ id: data.id, problem: error instanceof Error ? error.message : 'unknown' });
  }
});
