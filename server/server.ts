import { fileURLToPath } from 'node:url';
import helmet from '@fastify/helmet';
import files from '@fastify/static';
import fastify, { type FastifyInstance } from 'fastify';
import { convertRoutes } from './convert';

const root = fileURLToPath(new URL('..', import.meta.url));

/** The name its pages have. */
export const OWN_NAME = '127.0.0.1';

/**
 * Serves the built application at `/` and the demo at `/demo/`, with byte ranges, cross-origin
 * isolation and a policy that allows nothing from elsewhere.
 */
export async function createServer(): Promise<FastifyInstance> {
  const server = fastify({ logger: false });
  await server.register(helmet, {
    crossOriginEmbedderPolicy: { policy: 'require-corp' },
    crossOriginOpenerPolicy: { policy: 'same-origin' },
    crossOriginResourcePolicy: { policy: 'same-origin' },
    strictTransportSecurity: false,
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        // WebAssembly keeps the pitch of sound that is sped up or slowed.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        // The package that makes AAC starts its worker from a text of its own.
        workerSrc: ["'self'", 'blob:'],
        // Emotion (MUI's styling) writes its rules into style elements at run time.
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'blob:', 'data:'],
        mediaSrc: ["'self'", 'blob:'],
        connectSrc: ["'self'", 'blob:'],
        fontSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'none'"],
        frameAncestors: ["'none'"],
      },
    },
  });
  // A name that is not this machine's own is somebody else's page, led here (DNS rebinding).
  server.addHook('onRequest', async (request, reply) => {
    if (!/^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/.test(request.headers.host ?? ''))
      return reply.code(403).type('text/plain').send('This server answers only to localhost.');
    // Each name of this machine is a shelf of its own to the browser: pages are all of one.
    const port = /^(?:localhost|\[::1\])(:\d+)?$/.exec(request.headers.host!);
    if (port && request.method === 'GET' && request.headers.accept?.includes('text/html'))
      return reply.redirect(`http://${OWN_NAME}${port[1] ?? ''}${request.url}`);
    return undefined;
  });
  await server.register(convertRoutes);
  const built = { root: `${root}web/dist`, preCompressed: true };
  await server.register(files, { ...built, prefix: '/' });
  // Names of built files tell what is in them: browsers need not ask for them again, and keep them compiled.
  await server.register(files, {
    ...{ ...built, root: `${built.root}/assets`, prefix: '/assets/', decorateReply: false },
    ...{ immutable: true, maxAge: '1y' },
  });
  await server.register(files, { root: `${root}demo/media`, prefix: '/demo/media/', decorateReply: false });
  await server.register(files, {
    root: `${root}demo/projects`,
    prefix: '/demo/projects/',
    decorateReply: false,
  });
  server.setNotFoundHandler((request, reply) => {
    const wantsPage = request.method === 'GET' && request.headers.accept?.includes('text/html');
    if (wantsPage) return reply.sendFile('index.html');
    return reply.code(404).type('text/plain').send('There is nothing here.');
  });
  return server;
}
