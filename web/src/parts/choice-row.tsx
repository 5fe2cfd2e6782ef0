import { ToggleButton, ToggleButtonGroup } from '@mui/material';
import type { ReactNode } from 'react';
import { colors } from '../theme';

interface Props<T extends string> {
  readonly label: string;
  /** Which is in force; null where none is. */
  readonly value: T | null;
  readonly options: readonly {
    readonly value: T;
    readonly label: ReactNode;
    readonly title?: string;
    /** For screen readers, where the label alone does not say it. */
    readonly name?: string;
    readonly color?: string;
  }[];
  onChange(value: T): void;
}

/** A few choices in a row, one of them in force; Tab reaches the row, arrows go along it. */
export function ChoiceRow<T extends string>({ label, value, options, onChange }: Props<T>) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={value}
      aria-label={label}
      onChange={(_, next: T | null) => next !== null && onChange(next)}
      // The arrows go along the row, not through the result.
      onKeyDown={(event) => event.key.startsWith('Arrow') && event.stopPropagation()}
      sx={{
        bgcolor: colors.panel,
        borderRadius: 2,
        flex: 'none',
        '& .MuiToggleButton-root': {
          border: 0,
          borderRadius: 2,
          px: 1.25,
          py: 0.25,
          color: colors.quiet,
          fontSize: 13,
          fontWeight: 500,
          '&.Mui-selected': {
            bgcolor: colors.raised,
            color: colors.ink,
            boxShadow: `inset 0 0 0 1px ${colors.faint}`,
          },
        },
      }}
    >
      {options.map((o) => (
        <ToggleButton
          key={o.value}
          value={o.value}
          {...(o.title && { title: o.title })}
          {...(o.name && { 'aria-label': o.name })}
          {...(o.color && { sx: { '&.Mui-selected': { color: `${o.color} !important` } } })}
        >
          {o.label}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
