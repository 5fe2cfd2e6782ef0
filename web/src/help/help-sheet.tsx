import { setFirst, useFirst } from '../state/counting';
import { setPlaysAdded, usePlaysAdded } from '../state/plays-added';
import { ChoiceRow } from '../parts/choice-row';
import {
  Box,
  Button,
  Dialog,
  DialogContent,
  DialogTitle,
  IconButton,
  InputBase,
  Switch,
} from '@mui/material';
import { MOVES } from '@skipback/core/moves/registry';
import { X } from 'lucide-react';
import { useId, useState } from 'react';
import { COMMANDS, COMMAND_IDS, type CommandId, GROUPS, HANDS } from '../commands/commands';
import { resetKeys, setLetters, useKeySettings } from '../commands/key-settings';
import { colors } from '../theme';
import { KeyField } from './key-field';

const PLACES: Readonly<Partial<Record<(typeof GROUPS)[number], string>>> = {
  Beats: 'On Beats',
  Render: 'On Render',
};

/** Everything that can be done with its keys, which can be changed here; what the hands can do; what each move is for. */
export function HelpSheet({ open, onClose }: { readonly open: boolean; readonly onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md" fullWidth aria-labelledby="help-title">
      {open && <Help onClose={onClose} />}
    </Dialog>
  );
}

function Help({ onClose }: { readonly onClose: () => void }) {
  const settings = useKeySettings();
  const [sought, setSought] = useState('');
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
  const found = (...texts: readonly string[]) =>
    words.every((word) => texts.some((text) => text.toLowerCase().includes(word)));
  const commands = COMMAND_IDS.filter((id) => found(COMMANDS[id].words, COMMANDS[id].group));
  const hands = HANDS.filter((row) => found(...row));
  const moves = MOVES.filter((m) => found(m.name, m.summary));
  const [letters, plays] = [useId(), useId()];
  const playsNow = usePlaysAdded((s) => s.plays);
  const first = useFirst();
  return (
    <>
      <DialogTitle id="help-title" sx={{ display: 'flex', alignItems: 'center', gap: 2, py: 1.5 }}>
        Shortcuts
        <InputBase
          value={sought}
          onChange={({ target }) => setSought(target.value)}
          placeholder="Search"
          inputProps={{ 'aria-label': 'Search the keys' }}
          sx={{ flex: 1, bgcolor: colors.panel, borderRadius: 1, px: 1.25, fontSize: 14 }}
        />
        <IconButton aria-label="Close" onClick={onClose}>
          <X size={18} />
        </IconButton>
      </DialogTitle>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 3, pb: 1, fontSize: 13 }}>
        <Switch size="small" id={letters} checked={settings.letters} onChange={(_, on) => setLetters(on)} />
        <label htmlFor={letters}>Keys that are a single letter, digit or sign</label>
        <Switch size="small" id={plays} checked={playsNow} onChange={(_, on) => setPlaysAdded(on)} />
        <label htmlFor={plays}>Play a move when it is added</label>
        <Box sx={{ flex: 1 }} />
        The first frame is
        <ChoiceRow
          label="The first frame is"
          value={String(first)}
          options={[
            { value: '0', label: '0' },
            { value: '1', label: '1' },
          ]}
          onChange={(value) => setFirst(value === '1' ? 1 : 0)}
        />
        {(Object.keys(settings.changed).length > 0 || !settings.letters) && (
          <Button size="small" color="inherit" onClick={resetKeys}>
            All keys as at first
          </Button>
        )}
      </Box>
      <DialogContent
        tabIndex={0}
        role="region"
        aria-label="Shortcuts and moves"
        dividers
        sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 5, pb: 3, alignContent: 'start' }}
      >
        <Box>
          {GROUPS.map((group) => (
            <Commands
              key={group}
              title={PLACES[group] ?? group}
              ids={commands.filter((id) => COMMANDS[id].group === group)}
            />
          ))}
        </Box>
        <Box>
          {hands.length > 0 && <Title>By hand</Title>}
          {hands.map(([left, right]) => (
            <Row key={left} left={left} right={right} />
          ))}
          {moves.length > 0 && <Title>Moves</Title>}
          {moves.map((m) => (
            <Row key={m.id} left={m.name} right={m.summary} />
          ))}
        </Box>
        {commands.length + hands.length + moves.length === 0 && (
          <Box role="status" sx={{ color: colors.quiet, gridColumn: '1 / -1', py: 4, textAlign: 'center' }}>
            Nothing here is called that.
          </Box>
        )}
      </DialogContent>
    </>
  );
}

function Commands({ title, ids }: { readonly title: string; readonly ids: readonly CommandId[] }) {
  if (ids.length === 0) return null;
  return (
    <>
      <Title>{title}</Title>
      {ids.map((id) => (
        <Box key={id} sx={{ display: 'flex', gap: 2, py: 0.25, fontSize: 13, alignItems: 'baseline' }}>
          <KeyField id={id} />
          <Box sx={{ color: colors.quiet }}>{COMMANDS[id].words}</Box>
        </Box>
      ))}
    </>
  );
}

const Title = ({ children }: { readonly children: string }) => (
  <Box component="h3" sx={{ m: 0, mt: 2, mb: 0.5, fontSize: 14, fontWeight: 600 }}>
    {children}
  </Box>
);

function Row({ left, right }: { left: string; right: string }) {
  return (
    <Box sx={{ display: 'flex', gap: 2, py: 0.5, fontSize: 13 }}>
      <Box sx={{ width: 190, flex: 'none', fontWeight: 500 }}>{left}</Box>
      <Box sx={{ color: colors.quiet }}>{right}</Box>
    </Box>
  );
}
