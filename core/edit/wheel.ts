/** How a control tells that it is turned. */
export type WheelSends = 'around-0' | 'around-64' | 'position';

/** What a control did: turned so many steps, or was touched or let go. */
export type WheelEvent =
  | { readonly kind: 'turn'; readonly control: string; readonly value: number; readonly most: number }
  | { readonly kind: 'touch'; readonly down: boolean };

/** Reads a MIDI message as a movement of a wheel; undefined for messages that are none (MIDI 1.0, channel voice). */
export function readWheel(data: ArrayLike<number>): WheelEvent | undefined {
  const [status, first, second] = [data[0], data[1], data[2]];
  if (status === undefined || first === undefined || second === undefined) return undefined;
  const kind = status & 0xf0;
  const channel = (status & 0x0f) + 1;
  if (kind === 0xb0) return { kind: 'turn', control: `${channel}:${first}`, value: second, most: 128 };
  if (kind === 0xe0)
    return { kind: 'turn', control: `${channel}:bend`, value: first + 128 * second, most: 16_384 };
  if (kind === 0x90 && second > 0) return { kind: 'touch', down: true };
  if (kind === 0x80 || kind === 0x90) return { kind: 'touch', down: false };
  return undefined;
}

/** What a control is likely to send, by its first value: small steps, steps around the middle, or where it stands. */
export function likelySends({ value, most }: { value: number; most: number }): WheelSends {
  if (most > 128) return 'position';
  if (value <= 8 || value >= 120) return 'around-0';
  return value >= 60 && value <= 68 ? 'around-64' : 'position';
}

/** Steps that a turn means, positive clockwise. `before` is the control's last value, where it had one. */
export function stepsOf(
  { value, most }: { value: number; most: number },
  sends: WheelSends,
  before: number | undefined,
): number {
  if (sends === 'around-0') return value < 64 ? value : value - 128;
  if (sends === 'around-64') return value - 64;
  return before === undefined ? 0 : ((value - before) * 128) / most;
}
