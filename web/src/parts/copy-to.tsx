import {
  Autocomplete,
  Dialog,
  DialogContent,
  DialogTitle,
  TextField,
  createFilterOptions,
} from '@mui/material';
import type { MenuEntry } from './more-menu';

/** Somewhere that something can be copied to. */
export interface Target<T> {
  readonly id: T;
  readonly words: string;
}

/** More than so many are chosen among by typing. */
const LISTED = 8;
/** Of those that are called so, the first so many are listed: more of the name finds the others. */
const FOUND = 60;

/** The entries of a menu that copy something: one each, or one that asks where. */
export function copyEntries<T>(
  targets: readonly Target<T>[],
  copy: (to: T) => void,
  ask: () => void,
): readonly MenuEntry[] {
  if (targets.length > LISTED) return [['Copy to …', ask]];
  return targets.map(({ id, words }) => [`Copy to ${words}`, () => copy(id)]);
}

/** Asks where something is copied to: by part of the name. */
export function CopyTo<T>({
  name,
  open,
  targets,
  onCopy,
  onClose,
}: {
  readonly name: string;
  readonly open: boolean;
  readonly targets: readonly Target<T>[];
  readonly onCopy: (to: T) => void;
  readonly onClose: () => void;
}) {
  return (
    <Dialog open={open} onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="copy-to">
      <DialogTitle id="copy-to" sx={{ fontSize: 15, pb: 1 }}>
        Copy {name} to
      </DialogTitle>
      <DialogContent>
        <Autocomplete
          open
          autoHighlight
          options={targets as Target<T>[]}
          filterOptions={createFilterOptions({ limit: FOUND })}
          getOptionLabel={(t) => t.words}
          getOptionKey={(t) => String(t.id)}
          value={null}
          onChange={(_, target) => {
            if (!target) return;
            onCopy(target.id);
            onClose();
          }}
          onClose={(_, reason) => reason === 'escape' && onClose()}
          renderInput={(params) => (
            <TextField {...params} autoFocus size="small" placeholder="Part of its name" />
          )}
        />
      </DialogContent>
    </Dialog>
  );
}
