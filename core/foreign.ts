/** Keys that would reach an object's own machinery. */
const NEVER = new Set(['__proto__', 'constructor', 'prototype']);
const DEEPEST = 40;
const MOST_VALUES = 3_000_000;

/** Data from a text that was written elsewhere, or the sentence that says why it is not taken. */
export type Foreign =
  | { readonly ok: true; readonly data: unknown }
  | { readonly ok: false; readonly sentence: string };

/**
 * Reads JSON from outside: no deeper, no more of it and no longer than anything of ours is, and without the keys that
 * JavaScript itself gives a meaning. `what` names it in the sentence: `recipe`. `most` is its length in characters.
 */
export function foreignJson(text: string, what: string, most: number): Foreign {
  if (text.length > most)
    return refused(`This ${what} is ${(text.length / 1e6).toFixed(1)} MB long: none is. It is not read.`);
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return refused(
      `This is not a ${what}: it is not JSON, or it was cut off. Save it again from where it came from.`,
    );
  }
  const wrong = oddness(data);
  return wrong === undefined ? { ok: true, data } : refused(`This ${what} ${wrong}. It is not read.`);
}

const refused = (sentence: string): Foreign => ({ ok: false, sentence });

/** What is odd about data, layer by layer and never by recursion: a deep one would end the stack. */
function oddness(data: unknown): string | undefined {
  let layer: object[] = typeof data === 'object' && data !== null ? [data] : [];
  let values = 0;
  for (let depth = 0; layer.length > 0; depth++) {
    if (depth > DEEPEST) return `is nested more than ${DEEPEST} deep`;
    const below: object[] = [];
    for (const holder of layer)
      for (const key of Object.keys(holder)) {
        if (!Array.isArray(holder) && NEVER.has(key))
          return `has a part called "${key}", which no file of ours has`;
        if (++values > MOST_VALUES) return 'has millions of values';
        const value: unknown = (holder as Record<string, unknown>)[key];
        if (typeof value === 'object' && value !== null) below.push(value);
      }
    layer = below;
  }
  return undefined;
}
