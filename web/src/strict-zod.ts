/**
 * What `zod` is in the browser (`vite.config.ts`). Zod tries whether it may make functions of text as soon as there is a schema; the
 * page's policy allows none (`server/server.ts`), and browsers report the try.
 */
import { z } from 'zod/v4';

z.config({ jitless: true });
export { z };
