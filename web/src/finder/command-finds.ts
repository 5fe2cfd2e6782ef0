import { showChord } from '../commands/chord';
import { COMMANDS, COMMAND_IDS, type Command } from '../commands/commands';
import { keysInForce, useKeySettings } from '../commands/key-settings';
import { perform, standingOf } from '../commands/use-commands';
import type { Find } from './finds';

/** The commands that an open view has, with their keys as they are set, and why some cannot be done now. */
export const commandFinds = (say: (words: string) => void): readonly Find[] =>
  COMMAND_IDS.flatMap((id) => {
    const standing = standingOf(id);
    if (standing === undefined || id === 'find') return [];
    const { words, group, also }: Command = COMMANDS[id];
    const [key] = keysInForce(id, useKeySettings.getState());
    return [
      {
        ...{ id: `command ${id}`, kind: 'command' as const, name: words, says: group },
        ...(also && { also }),
        ...(key && { key: showChord(key) }),
        ...(typeof standing === 'string' && { why: standing }),
        run: () => {
          const told = perform(id);
          if (told) say(told);
        },
      },
    ];
  });
