import { parseAmount } from '@skipback/core/time/amount';
import { ValueField } from './value-field';

/** Softest and loudest level, decibels. */
const SOFTEST_DB = -60;
const LOUDEST_DB = 12;

/** A level in decibels, typed or stepped. */
export function LevelField({
  label,
  db,
  onChange,
}: {
  readonly label: string;
  readonly db: number;
  onChange(db: number): void;
}) {
  return (
    <ValueField
      label={label}
      text={`${db} dB`}
      width={64}
      hint="Decibels: 0 is as it is, -60 is silent"
      onEnter={(typed) => {
        const n = parseAmount(typed, { unit: 'dB', least: SOFTEST_DB, most: LOUDEST_DB });
        if (typeof n === 'string') return n;
        onChange(n);
        return true;
      }}
      fine
      onStep={(by) => onChange(Number(Math.min(LOUDEST_DB, Math.max(SOFTEST_DB, db + by)).toFixed(1)))}
    />
  );
}
