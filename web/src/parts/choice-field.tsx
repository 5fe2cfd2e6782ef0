import { NativeSelect } from '@mui/material';
import { byKeys } from '../commands/focus';
import { colors, mono } from '../theme';

interface Props {
  readonly label: string;
  readonly value: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
  readonly onChange: (value: string) => void;
  readonly hint?: string;
}

/** One of a few words, edited where it stands. */
export function ChoiceField({ label, value, options, onChange, hint }: Props) {
  return (
    <NativeSelect
      value={value}
      title={hint ?? ''}
      onChange={(event) => {
        onChange(event.target.value);
        // Chosen with the pointer: the keys of the bench work again at once.
        if (!byKeys()) event.target.blur();
      }}
      disableUnderline
      inputProps={{ 'aria-label': label }}
      sx={{
        minWidth: 0,
        fontFamily: mono,
        fontSize: 13,
        fontWeight: 500,
        '& select': {
          py: '2px',
          pr: '18px !important',
          textAlign: 'right',
          textOverflow: 'ellipsis',
          borderBottom: `1px dotted ${colors.faint}`,
        },
        '& select:focus': { bgcolor: 'transparent' },
        '& svg': { fontSize: 18, right: -4, color: colors.faint },
        '& option': { bgcolor: colors.raised },
      }}
    >
      {options.map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ))}
    </NativeSelect>
  );
}
