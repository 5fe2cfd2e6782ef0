import { Box, IconButton, Menu, MenuItem } from '@mui/material';
import { EllipsisVertical } from 'lucide-react';
import { type Ref, useState } from 'react';
import { colors } from '../theme';

/** What a menu offers: its words, what it does, and where it cannot be done now, why. */
export type MenuEntry = readonly [words: string, action: () => void, why?: string | undefined];

/** What else can be done with something: a button, and its list of words. */
export function MoreMenu({
  name,
  items,
  ref,
}: {
  readonly name: string;
  readonly items: readonly MenuEntry[];
  readonly ref?: Ref<HTMLButtonElement>;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <IconButton
        {...(ref && { ref })}
        size="small"
        aria-label={`More for ${name}`}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        <EllipsisVertical size={15} />
      </IconButton>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        slotProps={{
          paper: { role: 'dialog', 'aria-label': `More for ${name}`, sx: { maxHeight: '60vh' } },
        }}
      >
        {items.map(([words, action, why]) => (
          <MenuItem
            key={words}
            dense
            disabled={why !== undefined}
            onClick={() => {
              setAnchor(null);
              action();
            }}
          >
            <Box>
              {words}
              {why !== undefined && <Box sx={{ fontSize: 12, color: colors.quiet }}>{why}</Box>}
            </Box>
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
