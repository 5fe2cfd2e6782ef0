import { OWN_NAME, createServer } from './server';

const port = Number(process.env['PORT'] ?? 4310);

const server = await createServer();
try {
  console.log(`Skip Back is at ${await server.listen({ host: OWN_NAME, port })}`);
} catch (error) {
  const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  console.error(taken ? `Port ${port} is taken. Try: PORT=${port + 1} npm run demo` : error);
  process.exitCode = 1;
}
