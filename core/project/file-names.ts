/** What a name's pattern may hold, in braces. */
export interface NameParts {
  readonly project: string;
  readonly clip: string;
  readonly recipe: string;
  /** The place in the row, from 1. */
  readonly n: number;
}

export const NAME_PARTS = ['project', 'clip', 'recipe', 'n'] as const;

/** The names of a row of files by a pattern such as `{project}-{n}`; no two alike. `clean` makes a name that file systems take. */
export function namesBy(
  pattern: string,
  row: readonly Omit<NameParts, 'n'>[],
  clean: (name: string) => string,
): string[] {
  const taken = new Set<string>();
  const digits = String(row.length).length;
  return row.map((parts, i) => {
    const filled = pattern.replace(/\{(project|clip|recipe|n)\}/g, (_, part: keyof NameParts) =>
      part === 'n' ? String(i + 1).padStart(digits, '0') : parts[part],
    );
    const first = clean(filled);
    let name = first;
    for (let again = 2; taken.has(name.toLowerCase()); again++) name = `${first}-${again}`;
    taken.add(name.toLowerCase());
    return name;
  });
}
