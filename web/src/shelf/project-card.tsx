import { Box, ButtonBase, IconButton, InputBase, Menu, MenuItem } from '@mui/material';
import { ProjectSchema } from '@skipback/core/project/schema';
import { formatTimecode } from '@skipback/core/time/timecode';
import { frame } from '@skipback/core/time/units';
import type { ProjectRecord } from '@skipback/media/storage/database';
import { EllipsisVertical } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Name } from '../parts/name';
import { colors, mono } from '../theme';

interface Props {
  readonly record: ProjectRecord;
  readonly onOpen: () => void;
  readonly onRename: (name: string) => void;
  readonly onDuplicate: () => void;
  readonly onDelete: () => void;
}

/** A project on the shelf: its picture, name and length, and what can be done with it. */
export function ProjectCard({ record, onOpen, onRename, onDuplicate, onDelete }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [renaming, setRenaming] = useState(false);
  // The menu gives the focus back when it has closed; only then can the name take it.
  const [renamesNext, setRenamesNext] = useState(false);
  const poster = usePoster(record.poster);
  const choose = (action: () => unknown) => () => {
    setAnchor(null);
    action();
  };
  return (
    <Box component="li">
      <ButtonBase
        onClick={onOpen}
        aria-label={`Open ${record.name}`}
        sx={{
          display: 'block',
          width: '100%',
          aspectRatio: '16 / 9',
          borderRadius: 2,
          overflow: 'hidden',
          bgcolor: colors.panel,
          '&:hover': { boxShadow: `0 0 0 2px ${colors.ink}` },
        }}
      >
        {poster ? (
          <img
            src={poster}
            alt=""
            style={{ width: '100%', height: '100%', objectFit: 'cover', display: 'block' }}
          />
        ) : (
          <Box sx={{ display: 'grid', placeItems: 'center', height: '100%', color: colors.faint }}>
            No picture yet
          </Box>
        )}
      </ButtonBase>
      <Box sx={{ display: 'flex', alignItems: 'center', mt: 0.75 }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          {renaming ? (
            <InputBase
              autoFocus
              fullWidth
              defaultValue={record.name}
              inputProps={{ 'aria-label': 'New name', onFocus: (e) => e.currentTarget.select() }}
              onBlur={(event) => {
                setRenaming(false);
                onRename(event.target.value);
              }}
              onKeyDown={(event) => {
                if (event.key === 'Enter') (event.target as HTMLInputElement).blur();
                if (event.key === 'Escape') setRenaming(false);
              }}
              sx={{ fontSize: 15, fontWeight: 600, '& input': { p: 0 } }}
            />
          ) : (
            <Box sx={{ fontSize: 15, fontWeight: 600 }}>
              <Name of={record.name} />
            </Box>
          )}
          <Box sx={{ fontSize: 12, fontFamily: mono, color: colors.quiet }}>{factsOf(record)}</Box>
        </Box>
        <IconButton
          aria-label={`More for ${record.name}`}
          onClick={(event) => setAnchor(event.currentTarget)}
        >
          <EllipsisVertical size={18} />
        </IconButton>
      </Box>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        slotProps={{
          paper: { role: 'dialog', 'aria-label': `More for ${record.name}` },
          transition: {
            onExited: () => {
              if (renamesNext) setRenaming(true);
              setRenamesNext(false);
            },
          },
        }}
      >
        <MenuItem onClick={choose(() => setRenamesNext(true))}>Rename</MenuItem>
        <MenuItem onClick={choose(onDuplicate)}>Duplicate</MenuItem>
        <MenuItem onClick={choose(onDelete)}>Delete</MenuItem>
      </Menu>
    </Box>
  );
}

/** Length and picture size, or that the project is damaged: its card works all the same. */
function factsOf(record: ProjectRecord): string {
  const shape = ProjectSchema.shape;
  const rate = shape.rate.safeParse(record.document?.rate);
  const size = shape.size.safeParse(record.document?.size);
  if (!rate.success || !size.success) return 'damaged; opens as far as it can be read';
  const length = formatTimecode(frame(record.lengthFrames), rate.data);
  return `${length}  ${size.data.width}×${size.data.height}`;
}

function usePoster(poster: Blob | null): string | undefined {
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    if (!poster) return;
    const made = URL.createObjectURL(poster);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [poster]);
  return url;
}
