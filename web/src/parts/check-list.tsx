import { Box, Button, Checkbox, FormControlLabel, InputBase } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState } from 'react';
import { colors } from '../theme';
import { Name } from './name';

/** Something that can be chosen among others. */
export interface Choosable {
  readonly id: string;
  /** Words before its name. */
  readonly before?: string;
  readonly name: string;
}

interface Props {
  readonly label: string;
  readonly items: readonly Choosable[];
  readonly chosen: ReadonlySet<string>;
  readonly height: number;
  onChoose(chosen: ReadonlySet<string>): void;
}

const ROW = 30;
/** More than so many are looked for by part of a name. */
const SOUGHT = 12;

/** A list to choose from: searched where it is long, with Shift everything in between, drawn only where it is seen. */
export function CheckList({ label, items, chosen, height, onChoose }: Props) {
  const [sought, setSought] = useState('');
  const words = sought.trim().toLowerCase();
  const seen = items.filter((t) => `${t.before ?? ''}${t.name}`.toLowerCase().includes(words));
  const last = useRef<string>(undefined);
  const toggle = (id: string, reaches: boolean) => {
    const [a, b] = [seen.findIndex((t) => t.id === last.current), seen.findIndex((t) => t.id === id)];
    const ids = reaches && a >= 0 ? seen.slice(Math.min(a, b), Math.max(a, b) + 1).map((t) => t.id) : [id];
    last.current = id;
    const on = !chosen.has(id);
    onChoose(new Set(on ? [...chosen, ...ids] : [...chosen].filter((k) => !ids.includes(k))));
  };
  const box = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: seen.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 6,
    initialRect: { width: 480, height },
  });
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 1 }}>
        {items.length > SOUGHT && (
          <InputBase
            value={sought}
            onChange={({ target }) => setSought(target.value)}
            placeholder="Part of a name"
            inputProps={{ 'aria-label': 'Show those called' }}
            sx={{ flex: 1, bgcolor: colors.panel, borderRadius: 1, px: 1.25, fontSize: 13.5 }}
          />
        )}
        <Button
          size="small"
          color="inherit"
          onClick={() => onChoose(new Set(chosen.size === 0 ? seen.map((t) => t.id) : []))}
        >
          {chosen.size === 0 ? 'Choose all' : 'Choose none'}
        </Button>
      </Box>
      <Box
        ref={box}
        role="group"
        aria-label={label}
        sx={{ maxHeight: height, overflowY: 'auto', overflowX: 'hidden' }}
      >
        <div style={{ height: rows.getTotalSize(), position: 'relative' }}>
          {rows.getVirtualItems().map(({ index, start }) => {
            const { id, before, name } = seen[index]!;
            return (
              <FormControlLabel
                key={id}
                style={{ transform: `translateY(${start}px)` }}
                sx={{
                  ...{ display: 'flex', position: 'absolute', top: 0, left: 0, right: 0, height: ROW, m: 0 },
                  '& .MuiFormControlLabel-label': { flex: 1, minWidth: 0, fontSize: 13.5 },
                }}
                control={
                  <Checkbox
                    size="small"
                    color="default"
                    checked={chosen.has(id)}
                    onChange={({ nativeEvent }) => toggle(id, (nativeEvent as MouseEvent).shiftKey === true)}
                  />
                }
                label={<Name of={name} {...(before !== undefined && { before })} />}
              />
            );
          })}
        </div>
      </Box>
    </>
  );
}
