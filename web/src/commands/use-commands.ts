import { useEffect, useId, useRef } from 'react';
import { create } from 'zustand';
import { useSaying } from '../notices';
import { showChord } from './chord';
import { COMMANDS, type CommandId } from './commands';
import { keysInForce, useKeySettings } from './key-settings';

/** What a view does for a command; what it gives is said: why it could not be done, or what it now is. */
export type Hand = (event?: KeyboardEvent) => string | void;

/** A hand, or why there is nothing for it now; one that looks for itself is asked all the same, where a key comes before the view has been drawn again. */
export type Hands = Partial<Record<CommandId, Hand | { readonly why: string; readonly asks?: Hand }>>;

interface Scope {
  readonly name: string;
  hands: Hands;
}

/** Those of the views that are open, last come first asked. */
const scopes: Scope[] = [];

/** What can be done now, by command: `true`, or why not. What is not in it does not exist in this view. */
const useStanding = create<Readonly<Partial<Record<CommandId, true | string>>>>(() => ({}));

function settle(): void {
  const now: Partial<Record<CommandId, true | string>> = {};
  for (const { hands } of scopes)
    for (const [id, hand] of Object.entries(hands) as [CommandId, Hands[CommandId]][])
      if (hand) now[id] = typeof hand === 'function' ? true : hand.why;
  const before = useStanding.getState();
  const ids = new Set([...Object.keys(now), ...Object.keys(before)]) as Set<CommandId>;
  if ([...ids].some((id) => now[id] !== before[id])) useStanding.setState(now, true);
}

const handOf = (id: CommandId) => scopes.findLast(({ hands }) => hands[id])?.hands[id];

/** Whether a command can be done now, or why not; undefined where no open view has it. */
export const standingOf = (id: CommandId): true | string | undefined => useStanding.getState()[id];

/** Whether an open view knows this command. */
export const isBound = (id: CommandId): boolean => handOf(id) !== undefined;

/** Does it; gives what is to be said. */
export function perform(id: CommandId, event?: KeyboardEvent): string | undefined {
  const hand = handOf(id);
  if (!hand) return undefined;
  const does = typeof hand === 'function' ? hand : hand.asks;
  return does ? (does(event) ?? undefined) : (hand as { readonly why: string }).why;
}

/** Says what a view does for commands, as long as it is open. */
export function useCommands(hands: Hands): void {
  const name = useId();
  const scope = useRef<Scope>(undefined);
  useEffect(() => {
    const mine: Scope = (scope.current = { name, hands: {} });
    scopes.push(mine);
    return () => {
      scopes.splice(scopes.indexOf(mine), 1);
      settle();
    };
  }, [name]);
  useEffect(() => {
    scope.current!.hands = hands;
    settle();
  });
}

/** A command as a button shows it. */
export interface CommandOf {
  readonly words: string;
  /** Its words with its key, and why it cannot be done. */
  readonly tip: string;
  /** Whether this view has it at all. */
  readonly here: boolean;
  readonly can: boolean;
  /** Why it cannot be done now. */
  readonly why: string | undefined;
  run(): void;
}

/** What is said of a command that is pressed: its words, and its key as it is set. */
export function useTip(id: CommandId, words: string = COMMANDS[id].words): string {
  const settings = useKeySettings();
  const [key] = keysInForce(id, settings);
  return key === undefined ? words : `${words} (${showChord(key)})`;
}

/** The key of a command as it is set, as it is written; `its key` where it has none in force. */
export function useKeyOf(id: CommandId): string {
  const settings = useKeySettings();
  const [key] = keysInForce(id, settings);
  return key === undefined ? 'its key' : showChord(key);
}

/** A command for a button: what it is called, whether it can be done, and doing it. */
export function useCommand(id: CommandId, words?: string): CommandOf {
  const standing = useStanding((s) => s[id]);
  const say = useSaying();
  const tip = useTip(id, words);
  return {
    words: words ?? COMMANDS[id].words,
    tip: typeof standing === 'string' ? `${tip}. ${standing}` : tip,
    here: standing !== undefined,
    can: standing === true,
    why: typeof standing === 'string' ? standing : undefined,
    run: () => {
      const told = perform(id);
      if (told) say(told);
    },
  };
}
