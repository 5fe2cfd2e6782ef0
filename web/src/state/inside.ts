import { setOpen, useOpen } from './open';

/** What is open inside a card; undefined where nothing is. */
export const useInside = (card: string): string | undefined =>
  useOpen((s) => (s.inside?.card === card ? s.inside.what : undefined));

/** Opens something inside a card, or closes it where it is open. */
export function toggleInside(card: string, what: string): void {
  const { inside } = useOpen.getState();
  setOpen({ inside: inside?.card === card && inside.what === what ? null : { card, what } });
}
