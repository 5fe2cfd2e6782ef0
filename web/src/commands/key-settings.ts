import { z } from 'zod';
import { create } from 'zustand';
import { isSingle } from './chord';
import { COMMANDS, COMMAND_IDS, type CommandId } from './commands';

const KEPT = 'skip-back-keys';

const SettingsSchema = z.object({
  /** Whether single letters, digits and signs do anything. */
  letters: z.boolean(),
  /** Keys that are not as at first, by their commands; empty takes the key away. */
  changed: z.record(z.string(), z.string().max(40)),
});

interface KeySettings {
  readonly letters: boolean;
  readonly changed: Readonly<Partial<Record<CommandId, string>>>;
}

const AT_FIRST: KeySettings = { letters: true, changed: {} };

function read(): KeySettings {
  try {
    const kept = SettingsSchema.safeParse(JSON.parse(localStorage.getItem(KEPT) ?? 'null'));
    if (!kept.success) return AT_FIRST;
    const known = Object.entries(kept.data.changed).filter(([id]) => id in COMMANDS);
    return { letters: kept.data.letters, changed: Object.fromEntries(known) };
  } catch {
    return AT_FIRST;
  }
}

/** How keys are set in this browser. */
export const useKeySettings = create<KeySettings>(read);

function keep(change: Partial<KeySettings>): void {
  useKeySettings.setState(change);
  try {
    localStorage.setItem(KEPT, JSON.stringify(useKeySettings.getState()));
  } catch {
    // It holds until the page closes.
  }
}

export const setLetters = (letters: boolean): void => keep({ letters });
export const setKey = (id: CommandId, chord: string): void =>
  keep({ changed: { ...useKeySettings.getState().changed, [id]: chord } });
export const resetKeys = (): void => keep(AT_FIRST);

/** The keys of a command as they are set, most fitting first. */
export const keysOf = (id: CommandId, { changed } = useKeySettings.getState()): readonly string[] =>
  (changed[id] ?? COMMANDS[id].keys).split(', ').filter(Boolean);

/** Those of them that do something: single letters may be switched off. */
export const keysInForce = (id: CommandId, settings = useKeySettings.getState()): readonly string[] =>
  keysOf(id, settings).filter((chord) => settings.letters || !isSingle(chord));

/** The commands that a key stands for: one in each view, at most. */
export const idsOf = (chord: string, settings = useKeySettings.getState()): readonly CommandId[] =>
  COMMAND_IDS.filter((id) => keysInForce(id, settings).includes(chord));

/** Commands that more than one view has. */
const SHARED: readonly CommandId[] = [
  ...(['undo', 'redo', 'history', 'flip', 'help', 'render', 'saveFile', 'import'] as const),
  ...(['play', 'first', 'last', 'previous', 'next', 'previousTen', 'nextTen', 'bar', 'fourBars'] as const),
];

/** The view that a command is for: a key may stand for one thing on Beats and for another on the bench. */
const viewOf = (id: CommandId) => {
  const { group } = COMMANDS[id];
  return SHARED.includes(id) ? 'all' : group === 'Beats' || group === 'Render' ? group : 'bench';
};

const meet = (a: string, b: string) =>
  a === b || ((a === 'all' || b === 'all') && a !== 'Render' && b !== 'Render');

/** The command that has a key already, where `id` would be in its way. */
export const holderOf = (chord: string, id: CommandId): CommandId | undefined =>
  COMMAND_IDS.find(
    (other) => other !== id && meet(viewOf(other), viewOf(id)) && keysOf(other).includes(chord),
  );
