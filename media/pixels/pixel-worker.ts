import { Drawer } from './drawer';
import { hearing } from '../heard';
import { type PixelReply, PixelRequestSchema } from './pixel-messages';

const drawer = new Drawer();

hearing(
  PixelRequestSchema,
  (data) => {
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
  },
  (id, problem) => self.postMessage({ id, problem } satisfies PixelReply),
);
