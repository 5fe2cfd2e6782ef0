import { Autocomplete, Box, ButtonBase, Dialog, InputBase, type PopperProps } from '@mui/material';
import { Search } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { useKeyOf } from '../commands/use-commands';
import { cutShort } from '../parts/line';
import { Name } from '../parts/name';
import { MoveShape } from '../parts/move-shape';
import { useProjectRecords } from '../state/project-list';
import { colors, mono } from '../theme';
import { type Find, allFinds, closeFinder, openFinder, useFinder } from './finds';
import { seek } from './seek';

const KINDS: Record<Find['kind'], string> = {
  move: 'move',
  look: 'look',
  recipe: 'recipe',
  command: 'command',
  setting: 'setting',
  piece: 'piece',
  mark: 'mark',
  clip: 'clip',
  project: 'project',
};

/** The field in the bar that opens the finder. */
export function FinderField() {
  const key = useKeyOf('find');
  return (
    <ButtonBase
      title="Find a move, a look, a recipe, a command"
      aria-haspopup="dialog"
      onClick={openFinder}
      sx={{
        ...{
          display: 'flex',
          alignItems: 'center',
          gap: 1,
          height: 30,
          px: 1.25,
          minWidth: 0,
          flex: '0 1 210px',
        },
        ...{ borderRadius: 2, bgcolor: colors.panel, color: colors.quiet, fontSize: 13 },
        '&:hover': { color: colors.ink },
      }}
    >
      <Search size={14} style={{ flex: 'none' }} />
      <Box sx={{ ...cutShort, textAlign: 'left' }}>Find</Box>{' '}
      <Box sx={{ fontFamily: mono, fontSize: 12, flex: 'none', whiteSpace: 'nowrap' }}>{key}</Box>
    </ButtonBase>
  );
}

/** Part of a name is typed, and what is called that is done: moves, looks, recipes, commands, what the project has. */
export function Finder() {
  const { open } = useFinder();
  return (
    <Dialog
      open={open}
      onClose={closeFinder}
      fullWidth
      maxWidth="sm"
      sx={{ '& .MuiDialog-container': { alignItems: 'flex-start' } }}
      slotProps={{ paper: { 'aria-label': 'Find', sx: { mt: { xs: 2, sm: 8 }, bgcolor: colors.raised } } }}
    >
      {open && <Finding />}
    </Dialog>
  );
}

/** Where the list stands: in the dialog, under the field. */
const Inline = ({ children }: PopperProps) => (
  <Box>{typeof children === 'function' ? children({ placement: 'bottom' }) : children}</Box>
);

function Finding() {
  const { data: projects } = useProjectRecords();
  const [finds, setFinds] = useState(allFinds);
  // Other projects are found by what they are called now.
  useEffect(() => setFinds(allFinds()), [projects]);
  const [typed, setTyped] = useState('');
  const found = useMemo(() => seek(finds, typed), [finds, typed]);
  return (
    <Autocomplete<Find>
      open
      autoHighlight
      fullWidth
      options={found as Find[]}
      filterOptions={(options) => options}
      getOptionLabel={(find) => find.name}
      getOptionKey={(find) => find.id}
      getOptionDisabled={(find) => find.why !== undefined}
      inputValue={typed}
      onInputChange={(_, value, reason) => reason === 'input' && setTyped(value)}
      value={null}
      onChange={(_, find) => {
        if (!find) return;
        closeFinder();
        // Once the dialog is gone, so that what it does can take the focus.
        setTimeout(() => find.run());
      }}
      onClose={(_, reason) => reason === 'escape' && closeFinder()}
      noOptionsText="Nothing is called that."
      slots={{ popper: Inline }}
      slotProps={{
        paper: { elevation: 0, sx: { bgcolor: 'transparent' } },
        listbox: { sx: { maxHeight: 'min(440px, 60vh)' } },
      }}
      renderOption={(props, find) => {
        const { key: _, ...rest } = props as typeof props & { key: string };
        return (
          <Box
            component="li"
            {...rest}
            key={find.id}
            sx={{ gap: 1.25, fontSize: 13.5, minHeight: '36px !important' }}
          >
            <Box sx={{ width: 36, flex: 'none', display: 'grid', placeItems: 'center' }}>
              {find.shape ? <MoveShape shape={find.shape} width={36} height={16} /> : null}
            </Box>
            <Box sx={{ flex: '0 1 auto', minWidth: 120, fontWeight: 600 }}>
              <Name of={find.name} />
            </Box>
            <Box sx={{ ...cutShort, fontSize: 12.5, color: colors.quiet }}>{find.why ?? find.says}</Box>
            <Box sx={{ flex: 'none', fontSize: 12, color: colors.quiet }}>{KINDS[find.kind]}</Box>
            {find.key && <Box sx={{ flex: 'none', fontFamily: mono, fontSize: 12 }}>{find.key}</Box>}
          </Box>
        );
      }}
      renderInput={({ slotProps, id, disabled }) => (
        <InputBase
          id={id}
          disabled={disabled}
          autoFocus
          fullWidth
          placeholder="Find a move, a look, a recipe, a command"
          ref={slotProps.input.ref}
          slotProps={{ input: { ...slotProps.htmlInput, 'aria-label': 'Find' } }}
          sx={{ px: 2, py: 1, fontSize: 16, borderBottom: `1px solid ${colors.line}` }}
        />
      )}
    />
  );
}
