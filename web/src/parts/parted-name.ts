/** How much of the end of a long name always stays: a take’s number, and the file’s kind. */
const TAIL = 9;
/** A name of so many letters is not parted. */
const SHORT = 16;

/** A letter with what belongs to it. */
const LETTER = /\P{M}\p{M}*/gu;

/** A name in two parts, of which only the first may be cut; the second is empty where the name is short. */
export function partedName(name: string): readonly [string, string] {
  const all = name.match(LETTER) ?? [];
  if (all.length <= SHORT) return [name, ''];
  return [all.slice(0, -TAIL).join(''), all.slice(-TAIL).join('')];
}
