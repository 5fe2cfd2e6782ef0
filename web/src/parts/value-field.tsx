import { Box, InputBase, Popper } from '@mui/material';
import { useId, useRef, useState } from 'react';
import { over, wentByKeys } from '../commands/focus';
import { perform } from '../commands/use-commands';
import { mono, colors } from '../theme';
import { timesOf, useStepping } from './use-stepping';

interface Props {
  readonly label: string;
  readonly text: string;
  /** Takes what was typed; where it makes no sense the old value stays, and the sentence it gives says why. */
  readonly onEnter: (typed: string) => boolean | string;
  /** One step up or down, ten with Shift: by arrow keys, by the wheel while it has the focus, by a drag across it. */
  readonly onStep?: (by: number) => void;
  /** Whether there are tenths of a step, with Alt. */
  readonly fine?: boolean;
  readonly hint?: string;
  /** Says what it takes whenever it has the focus, not only where it was gone to by keys. */
  readonly tells?: boolean;
  readonly width?: number | string;
  /** For a long list: over the whole width, in as many lines as it needs. */
  readonly lines?: boolean;
  /** What may be typed, to be chosen from while typing. */
  readonly offers?: readonly string[];
}

/** The sheet or dialog, or what is open inside a card, that a field is in. */
const sheetOf = (field: HTMLElement): HTMLElement | null =>
  field.closest<HTMLElement>('[role="presentation"] > [tabindex="-1"], [data-inside]');

/** A value edited where it stands: type and press Enter, or step it; Escape puts it back. */
export function ValueField({
  label,
  text,
  onEnter,
  onStep,
  fine = false,
  hint,
  tells = false,
  width = 92,
  lines = false,
  offers,
}: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const [refused, setRefused] = useState<string>();
  /** Gone to by keys, it says what it takes, which the pointer is told by resting on it. */
  const [hints, setHints] = useState(false);
  const refusalId = useId();
  const offersId = useId();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  /** Leaving the field after Enter must not enter the same thing again, after Escape nothing. */
  const entered = useRef(false);
  const enter = () => {
    const taken = draft === null || draft.trim() === text || onEnter(draft);
    setRefused(taken === true ? undefined : taken || `This is not understood here. ${hint ?? ''}`);
    if (taken === true) setDraft(null);
    return taken === true;
  };
  /** Afterwards the keys of the bench work again; in a sheet, its own: Escape closes it. */
  const leave = (field: HTMLInputElement) => {
    entered.current = true;
    const sheet = sheetOf(field);
    if (sheet) sheet.focus({ preventScroll: true });
    else field.blur();
  };
  const step = (by: number) => {
    setDraft(null);
    setRefused(undefined);
    onStep?.(by);
  };
  const input = () => anchor?.querySelector<HTMLElement>('input, textarea');
  const hands = useStepping(onStep && step, fine, input);
  const field = (
    <InputBase
      ref={setAnchor}
      {...hands}
      value={draft ?? text}
      multiline={lines}
      title={hint ?? ''}
      onChange={(event) => {
        setDraft(event.target.value);
        setRefused(undefined);
      }}
      onFocus={(event) => {
        event.target.select();
        setHints(tells || wentByKeys());
      }}
      onBlur={() => {
        if (!entered.current) enter();
        entered.current = false;
        setDraft(null);
        setRefused(undefined);
        setHints(false);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') {
          event.preventDefault();
          if (!enter()) return event.stopPropagation();
          leave(event.target as HTMLInputElement);
        } else if (event.key === ' ' && draft === null) {
          // Untouched, it leaves the key to playing.
          event.preventDefault();
          leave(event.target as HTMLInputElement);
          if (over() !== 'dialog') perform('play');
        } else if (event.key === 'Escape') {
          const field = event.target as HTMLInputElement;
          // Untouched, it is the sheet's.
          if (draft === null && sheetOf(field)) return;
          leave(field);
        } else if (
          onStep &&
          // While something is typed they choose among what is offered.
          !(offers && draft !== null) &&
          (event.key === 'ArrowUp' || event.key === 'ArrowDown')
        ) {
          event.preventDefault();
          step((event.key === 'ArrowUp' ? 1 : -1) * timesOf(event, fine));
        } else if ((event.ctrlKey || event.metaKey) && draft === null) return;
        event.stopPropagation();
      }}
      inputProps={{
        'aria-label': label,
        'aria-invalid': refused !== undefined,
        'aria-describedby': refused === undefined ? undefined : refusalId,
        spellCheck: false,
        ...(offers && { list: offersId, autoComplete: 'off' }),
      }}
      sx={{
        width,
        fontFamily: mono,
        fontSize: 13,
        fontWeight: 500,
        p: 0,
        '& input, & textarea': {
          p: 0,
          py: '2px',
          textAlign: lines ? 'left' : 'right',
          borderBottom: `1px ${refused ? 'solid' : 'dotted'} ${refused ? colors.attention : colors.faint}`,
          color: refused ? colors.attention : colors.ink,
        },
        '& input:hover, & textarea:hover': { borderBottomColor: colors.ink },
        '& input::-webkit-calendar-picker-indicator': { display: 'none !important' },
      }}
    />
  );
  return (
    <>
      {field}
      {offers && (
        <datalist id={offersId}>
          {offers.map((offer) => (
            <option key={offer} value={offer} />
          ))}
        </datalist>
      )}
      {(refused !== undefined || (hints && hint)) && (
        <Popper
          open
          anchorEl={anchor}
          placement="bottom-end"
          sx={{ zIndex: 'tooltip', pointerEvents: 'none' }}
        >
          <Box
            {...(refused === undefined ? { 'aria-hidden': true } : { id: refusalId, role: 'alert' })}
            sx={{
              ...{ mt: 0.5, px: 1.25, py: 0.75, maxWidth: 260, borderRadius: 1 },
              ...{ bgcolor: colors.raised, color: colors.ink, fontSize: 12.5, lineHeight: 1.4 },
              boxShadow: `${refused === undefined ? '' : `inset 3px 0 ${colors.attention}, `}0 4px 12px rgba(0,0,0,0.5)`,
            }}
          >
            {refused ?? hint}
          </Box>
        </Popper>
      )}
    </>
  );
}
