import { Box, ButtonBase } from '@mui/material';
import { ChevronLeft } from 'lucide-react';
import { type ReactNode, useEffect, useRef } from 'react';
import { setOpen } from '../state/open';
import { colors } from '../theme';

/** What is opened inside a card, in the place of its values: a name, a way back that keeps the place, Escape. */
export function InsidePanel({
  card,
  what,
  name,
  children,
}: {
  /** The card, and what of it this is: its way back goes to what opened it. */
  readonly card: string;
  readonly what: string;
  readonly name: string;
  readonly children: ReactNode;
}) {
  const panel = useRef<HTMLElement>(null);
  useEffect(() => {
    panel.current?.focus({ preventScroll: true });
    panel.current?.scrollIntoView({ block: 'nearest' });
  }, []);
  // What had the focus may be gone with what was removed: then it is here, where Escape is heard.
  const holds = useRef(false);
  useEffect(() => {
    if (holds.current && document.activeElement === document.body)
      panel.current?.focus({ preventScroll: true });
  });
  const back = () => {
    setOpen({ inside: null });
    requestAnimationFrame(() =>
      document
        .querySelector<HTMLElement>(`[data-opens="${CSS.escape(`${card} ${what}`)}"]`)
        ?.focus({ preventScroll: true }),
    );
  };
  return (
    <Box
      ref={panel}
      role="group"
      aria-label={name}
      tabIndex={-1}
      data-inside=""
      onFocus={() => (holds.current = true)}
      onBlur={({ relatedTarget, currentTarget }) =>
        (holds.current = currentTarget.contains(relatedTarget as Node | null))
      }
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.preventDefault();
        event.stopPropagation();
        back();
      }}
      sx={{ outline: 'none', fontSize: 13 }}
    >
      <ButtonBase
        aria-label={`Back from: ${name}`}
        onClick={back}
        sx={{
          ...{ minHeight: 28, width: '100%', justifyContent: 'flex-start', gap: 0.25, ml: -0.5, mb: 0.25 },
          ...{ fontSize: 13, fontWeight: 600, textAlign: 'left', borderRadius: 1 },
          '& svg': { color: colors.quiet, flex: 'none' },
        }}
      >
        <ChevronLeft size={16} />
        {name}
      </ButtonBase>
      {children}
    </Box>
  );
}
