import { ChoiceRow } from '../parts/choice-row';
import { useKeyOf } from '../commands/use-commands';
import { flip, useProjectStore } from '../state/project-store';

const VERSIONS = [
  { value: 'A', label: 'A', name: 'Version A', title: 'Version A' },
  { value: 'B', label: 'B', name: 'Version B', title: 'Version B: begins as a copy of A' },
] as const;

/** Two versions of the project to flip between; the second begins as a copy of the first. */
export function VersionFlip() {
  const key = useKeyOf('flip');
  const which = useProjectStore((s) => s.letter);
  return (
    <ChoiceRow
      label="Version"
      value={which}
      options={VERSIONS.map((v) => ({ ...v, title: `${v.title} (${key} flips)` }))}
      onChange={(next) => next !== which && flip()}
    />
  );
}
