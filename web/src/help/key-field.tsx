import { Box, ButtonBase } from '@mui/material';
import { type KeyboardEvent, useState } from 'react';
import { chordsOf, isSingle, showChord } from '../commands/chord';
import { COMMANDS, type CommandId } from '../commands/commands';
import { holderOf, keysOf, setKey, useKeySettings } from '../commands/key-settings';
import { colors, mono } from '../theme';

/** The key of a command: pressed, it takes the next key that is pressed; Delete takes the key away, Escape leaves it. */
export function KeyField({ id }: { readonly id: CommandId }) {
  const settings = useKeySettings();
  const [asks, setAsks] = useState(false);
  const [refused, setRefused] = useState<string>();
  const [key] = keysOf(id, settings);
  const off = key !== undefined && !settings.letters && isSingle(key);
  const { words } = COMMANDS[id];
  const leave = () => {
    setAsks(false);
    setRefused(undefined);
  };
  const onKey = (event: KeyboardEvent) => {
    if (!asks || /^(Shift|Control|Alt|Meta|AltGraph|Tab)$/.test(event.key)) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Escape') return leave();
    if (event.key === 'Delete' || event.key === 'Backspace') {
      setKey(id, '');
      return leave();
    }
    const [chord] = chordsOf(event.nativeEvent);
    if (!chord) return setRefused('This key cannot be taken.');
    const holder = holderOf(chord, id);
    if (holder) return setRefused(`${showChord(chord)} is: ${COMMANDS[holder].words}`);
    setKey(id, chord);
    leave();
  };
  return (
    <Box sx={{ width: 130, flex: 'none' }}>
      <ButtonBase
        aria-label={`Key of: ${words}: ${key === undefined ? 'none' : showChord(key)}. Click to change it`}
        onClick={() => setAsks(true)}
        onKeyDown={onKey}
        onBlur={leave}
        sx={{
          ...{
            px: 0.75,
            py: 0.25,
            minHeight: 24,
            minWidth: 30,
            borderRadius: 1,
            justifyContent: 'flex-start',
          },
          ...{ fontFamily: mono, fontSize: 12.5, color: off ? colors.faint : colors.ink },
          bgcolor: asks ? colors.forward : 'transparent',
          ...(asks && { color: colors.ground }),
          textDecoration: off ? 'line-through' : 'none',
          '&:hover': { bgcolor: asks ? colors.forward : colors.panel },
        }}
      >
        {asks ? 'press a key' : key === undefined ? 'none' : showChord(key)}
      </ButtonBase>
      {refused && (
        <Box role="alert" sx={{ color: colors.attention, fontSize: 12, lineHeight: 1.3 }}>
          {refused}
        </Box>
      )}
    </Box>
  );
}
