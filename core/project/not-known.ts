/**
 * What was read, with what this version does not know of it: parts that a newer version wrote are kept and written again,
 * so that nothing is lost by opening a project here. `data` is what was read from, of the same form.
 */
export function withWhatIsNotKnown<T>(read: T, data: unknown): T {
  if (Array.isArray(read)) {
    if (!Array.isArray(data) || data.length !== read.length || typeof read[0] !== 'object') return read;
    const all = read.map((one: unknown, i) => withWhatIsNotKnown(one, data[i]));
    return all.some((one, i) => one !== read[i]) ? (all as T) : read;
  }
  if (typeof read !== 'object' || read === null || typeof data !== 'object' || data === null) return read;
  const known = read as Record<string, unknown>;
  const given = data as Record<string, unknown>;
  let whole: Record<string, unknown> | undefined;
  for (const [key, value] of Object.entries(given)) {
    const here = key in known ? withWhatIsNotKnown(known[key], value) : value;
    if (here === undefined || here === known[key]) continue;
    whole ??= { ...known };
    whole[key] = here;
  }
  return (whole ?? read) as T;
}
