import { IconButton, Menu, MenuItem } from '@mui/material';
import { EllipsisVertical } from 'lucide-react';
import { useState } from 'react';

/** What else can be done with something: a button, and its list of words. */
export function MoreMenu({
  name,
  items,
}: {
  readonly name: string;
  readonly items: readonly (readonly [words: string, action: () => void])[];
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <IconButton
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
        slotProps={{ paper: { role: 'dialog', 'aria-label': `More for ${name}` } }}
      >
        {items.map(([words, action]) => (
          <MenuItem
            key={words}
            dense
            onClick={() => {
              setAnchor(null);
              action();
            }}
          >
            {words}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
