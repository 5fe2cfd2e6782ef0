/**
 * Works on up to `depth` items at once and gives what comes of them in the items' order. What was made and not
 * taken, since the receiver stopped or something failed, is closed.
 */
export async function* inOrder<A, B>(
  items: AsyncIterable<A>,
  depth: number,
  work: (item: A) => Promise<B>,
  close: (made: B) => void,
): AsyncGenerator<B, void, void> {
  const waiting: Promise<B>[] = [];
  try {
    for await (const item of items) {
      const made = work(item);
      // Heard when it is its turn.
      made.catch(() => undefined);
      waiting.push(made);
      if (waiting.length >= depth) yield await waiting.shift()!;
    }
    while (waiting.length > 0) yield await waiting.shift()!;
  } finally {
    for (const made of waiting) await made.then(close, () => undefined);
  }
}
