import { ChoiceRow } from '../parts/choice-row';
import { flip, useProjectStore } from '../state/project-store';

const VERSIONS = [
  { value: 'A', label: 'A', name: 'Version A', title: 'Version A (X flips)' },
  { value: 'B', label: 'B', name: 'Version B', title: 'Version B: begins as a copy of A (X flips)' },
] as const;

/** Two versions of the project to flip between; the second begins as a copy of the first. */
export function VersionFlip() {
  const which = useProjectStore((s) => s.letter);
  return (
    <ChoiceRow
      label="Version"
      value={which}
      options={VERSIONS}
      onChange={(next) => next !== which && flip()}
    />
  );
}
