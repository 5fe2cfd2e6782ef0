import { existsSync, readFileSync, readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { createServer } from './server';

const root = join(__dirname, '..');

describe('the server', () => {
  const get = async (url: string, headers: Record<string, string> = {}) => {
    const server = await createServer();
    const reply = await server.inject({ url, headers });
    await server.close();
    return reply;
  };

  it('isolates its pages and allows nothing from elsewhere', async () => {
    const { headers } = await get('/demo/projects/lamplighter.json');
    expect(headers['cross-origin-opener-policy']).toBe('same-origin');
    expect(headers['cross-origin-embedder-policy']).toBe('require-corp');
    expect(headers['content-security-policy']).toContain("default-src 'self'");
    // No text becomes script; WebAssembly, which is what keeps the pitch of sound, is compiled.
    expect(headers['content-security-policy']).toContain("script-src 'self' 'wasm-unsafe-eval';");
    expect(headers['content-security-policy']).not.toContain("'unsafe-eval'");
  });

  it('leads pages of its other names to one, whose shelf that is, and nothing else', async () => {
    const page = { accept: 'text/html,*/*' };
    const led = await get('/project/a?b=c', { ...page, host: 'localhost:4310' });
    expect([led.statusCode, led.headers.location]).toEqual([302, 'http://127.0.0.1:4310/project/a?b=c']);
    expect((await get('/', { ...page, host: '127.0.0.1:4310' })).statusCode).not.toBe(302);
    expect((await get('/demo/projects/index.json', { host: 'localhost:4310' })).statusCode).toBe(200);
    expect((await get('/', { ...page, host: 'evil.example' })).statusCode).toBe(403);
  });

  it('serves byte ranges of the demo', async () => {
    const reply = await get('/demo/media/drummer.mp4', { range: 'bytes=4-7' });
    expect(reply.statusCode).toBe(206);
    expect(reply.rawPayload.toString()).toBe('ftyp');
  });

  it('has thumbnails for each of the demo’s clips as it is now', async () => {
    const all = (await get('/demo/media/thumbnails.json')).json<
      Record<string, { bytes: number; sheet: string }>
    >();
    const media = join(root, 'demo', 'media');
    expect(Object.keys(all).sort()).toEqual(readdirSync(media).filter((n) => /\.(mp4|webm)$/.test(n)));
    for (const [clip, { bytes, sheet }] of Object.entries(all)) {
      expect(statSync(join(media, clip)).size).toBe(bytes);
      expect((await get(`/demo/media/${sheet}`)).headers['content-type']).toBe('image/webp');
    }
  });

  it('has a plain answer for what is not there, and no way out of its folders', async () => {
    expect((await get('/nothing.js')).statusCode).toBe(404);
    expect((await get('/demo/media/../../package.json')).statusCode).toBe(404);
  });
});

describe('the pages for those who carry on', () => {
  it.each(['docs/architecture.md', 'CONTRIBUTING.md', 'SECURITY.md', 'core/README.md', 'docs/files.md'])(
    '%s names files that are there',
    (page) => {
      const text = readFileSync(join(root, page), 'utf8');
      const named = [
        ...text.matchAll(/`((?:core|media|web|server|docs|e2e|demo)\/[\w./-]+\.\w+)`/g),
        ...[...text.matchAll(/\]\(([\w./-]+\.\w+)(?:#[\w-]+)?\)/g)].map(([, link]) => [
          '',
          join(dirname(page), link!),
        ]),
      ].map(([, path]) => path!);
      expect(named.filter((path) => !existsSync(join(root, path)))).toEqual([]);
    },
  );
});
