import { Box, ButtonBase } from '@mui/material';
import { type KeyboardEvent, useRef } from 'react';
import { Bar, BarChart, Cell, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { colors, mono } from '../theme';

/** What one choice comes to. */
export interface SizeRow {
  readonly id: string;
  readonly label: string;
  readonly megabytes: number;
  readonly words: string;
}

const ROW = 28;

interface Props {
  readonly name: string;
  readonly rows: readonly SizeRow[];
  readonly chosen: string;
  onChoose(id: string): void;
}

/** How large files would be, a bar each; pressed, or gone to by arrows, one is chosen. */
export function SizeBars({ name, rows, chosen, onChoose }: Props) {
  const group = useRef<HTMLDivElement>(null);
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const at = rows.findIndex((r) => r.id === chosen);
    const next = (at + by + rows.length) % rows.length;
    onChoose(rows[next]!.id);
    group.current?.querySelectorAll<HTMLElement>('[role=radio]')[next]?.focus();
  };
  const tabbed = rows.some((r) => r.id === chosen) ? chosen : rows[0]?.id;
  return (
    <Box
      ref={group}
      role="radiogroup"
      aria-label={name}
      onKeyDown={onKeyDown}
      sx={{ position: 'relative', height: ROW * rows.length }}
    >
      <Box aria-hidden sx={{ position: 'absolute', left: 104, right: 150, top: 0, bottom: 0 }}>
        <ResponsiveContainer width="100%" height={ROW * rows.length} minWidth={0}>
          <BarChart
            data={rows as SizeRow[]}
            layout="vertical"
            accessibilityLayer={false}
            barSize={12}
            margin={{ top: 0, right: 0, bottom: 0, left: 0 }}
          >
            <XAxis type="number" hide domain={[0, 'dataMax']} />
            <YAxis type="category" dataKey="id" hide />
            <Bar dataKey="megabytes" radius={3} minPointSize={2} isAnimationActive={false}>
              {rows.map((row) => (
                <Cell key={row.id} fill={row.id === chosen ? colors.forward : colors.quiet} />
              ))}
            </Bar>
          </BarChart>
        </ResponsiveContainer>
      </Box>
      {rows.map((row) => (
        <ButtonBase
          key={row.id}
          role="radio"
          aria-checked={row.id === chosen}
          tabIndex={row.id === tabbed ? 0 : -1}
          onClick={() => onChoose(row.id)}
          sx={{
            ...{ display: 'flex', justifyContent: 'space-between', width: '100%', height: ROW, px: 0.75 },
            ...{ borderRadius: 1, fontSize: 13, position: 'relative' },
            color: row.id === chosen ? colors.ink : colors.quiet,
            '&:hover': { color: colors.ink },
          }}
        >
          <span>{row.label}</span>
          <Box component="span" sx={{ fontFamily: mono, fontSize: 12 }}>
            {row.words}
          </Box>
        </ButtonBase>
      ))}
    </Box>
  );
}
