import { Said } from '@skipback/media/worker-client';

/** How long a download may bring nothing, milliseconds. */
const QUIET_MS = 20_000;

/** Fetches a file of this program. Throws `Said` where it is not there, or brings nothing for long; `what` names it there. */
export async function fetched(path: string, what: string, signal?: AbortSignal): Promise<Blob> {
  const ends = new AbortController();
  const end = () => ends.abort();
  signal?.addEventListener('abort', end);
  let quiet = setTimeout(end, QUIET_MS);
  const goesOn = () => {
    clearTimeout(quiet);
    quiet = setTimeout(end, QUIET_MS);
  };
  try {
    const response = await fetch(path, { signal: ends.signal });
    if (!response.ok || !response.body) throw new Error(`${path}: ${response.status}`);
    const parts = response.body.pipeThrough(
      new TransformStream<Uint8Array, Uint8Array>({
        transform(part, on) {
          goesOn();
          on.enqueue(part);
        },
      }),
    );
    const type = response.headers.get('content-type') ?? '';
    return await new Response(parts, { headers: { 'content-type': type } }).blob();
  } catch (problem) {
    if (!signal?.aborted) console.error(problem);
    throw new Said(`${what} could not be fetched. Is the program still running?`);
  } finally {
    clearTimeout(quiet);
    signal?.removeEventListener('abort', end);
  }
}
