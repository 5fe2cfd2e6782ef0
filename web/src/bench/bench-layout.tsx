import { Box } from '@mui/material';
import { type ReactNode, useRef } from 'react';
import { Divider } from '../parts/divider';
import { setOpen, useOpen } from '../state/open';
import { COLUMN, setColumnWidth, useSizes } from '../state/sizes';
import { colors } from '../theme';
import { useSize } from '../weave/use-size';
import { AIR, arrange } from './arrangement';

/** In windows that are lower or narrower than this, as at 200 % zoom, the bench is a page that scrolls. */
const LOW = '@media (max-width: 859px), (max-height: 519px)';

/**
 * Where the parts of the bench lie: the column at the right from top to foot, left of it the picture, the transport and
 * the weave; upright pictures stand beside the last two. Lines between them are dragged.
 */
export function BenchLayout({
  size,
  picture,
  transport,
  weave,
  column,
}: {
  /** The project's picture. */
  readonly size: { readonly width: number; readonly height: number };
  readonly picture: ReactNode;
  readonly transport: ReactNode;
  readonly weave: ReactNode;
  readonly column: ReactNode;
}) {
  const stage = useRef<HTMLDivElement>(null);
  const room = useSize(stage);
  const split = useOpen((s) => s.split);
  const shown = useOpen((s) => s.column);
  const width = useSizes((s) => s.column);
  const { beside, picture: at } = arrange(size, room, split);
  const along = beside ? room.width : room.height;
  const both = { gridColumn: beside ? 2 : 1 } as const;
  return (
    <Box
      sx={{
        ...{ flex: 1, minHeight: 0, display: 'flex' },
        [LOW]: { flexDirection: 'column', overflowY: 'auto' },
      }}
    >
      <Box
        ref={stage}
        data-part="stage"
        style={
          beside
            ? { gridTemplateColumns: `${at}px minmax(0, 1fr)`, gridTemplateRows: 'auto minmax(0, 1fr)' }
            : { gridTemplateColumns: 'minmax(0, 1fr)', gridTemplateRows: `${at}px auto minmax(0, 1fr)` }
        }
        sx={{
          ...{ flex: 1, minWidth: 0, minHeight: 0, position: 'relative', display: 'grid' },
          // What is asked before the next frame, with rows for the size that was, doesn't run out of the window either.
          overflow: 'hidden',
          [LOW]: { flex: 'none', height: 520 },
        }}
      >
        <Box
          data-part="picture"
          style={{ gridRow: beside ? '1 / 3' : 1, gridColumn: 1, padding: AIR / 2 }}
          sx={{ minWidth: 0, minHeight: 0, display: 'flex', flexDirection: 'column', position: 'relative' }}
        >
          {picture}
        </Box>
        <Box
          data-part="transport"
          style={{ gridRow: beside ? 1 : 2, ...both }}
          sx={{ minWidth: 0, containerType: 'inline-size' }}
        >
          {transport}
        </Box>
        <Box
          data-part="weave"
          style={{ gridRow: beside ? 2 : 3, ...both }}
          sx={{
            ...{ minWidth: 0, minHeight: 0, display: 'flex', flexDirection: 'column' },
            containerType: 'inline-size',
          }}
        >
          {weave}
        </Box>
        {room.width > 0 && (
          <Divider
            label="Between picture and weave"
            upright={beside}
            value={at}
            least={120}
            most={along}
            onMove={(to) => setOpen({ split: Math.min(1, Math.max(0, to / along)) })}
            onUsual={() => setOpen({ split: null })}
          />
        )}
      </Box>
      {shown && (
        <Box
          data-part="column"
          style={{ width }}
          sx={{
            ...{
              flex: 'none',
              position: 'relative',
              display: 'flex',
              borderLeft: `1px solid ${colors.line}`,
            },
            [LOW]: { width: '100% !important', minHeight: 560, borderLeft: 0 },
          }}
        >
          {column}
          <Box sx={{ [LOW]: { display: 'none' } }}>
            <Divider
              label="Width of the column"
              upright
              from="right"
              value={width}
              least={COLUMN.least}
              most={COLUMN.most}
              onMove={setColumnWidth}
              onUsual={() => setColumnWidth(COLUMN.usual)}
            />
          </Box>
        </Box>
      )}
    </Box>
  );
}
