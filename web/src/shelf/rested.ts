/** How long the shelf is there before what nobody waits for is worked out, milliseconds. */
const RESTS_MS = 150;

/** After a moment, whether the shelf is still there: who presses something at once waits for nothing else. */
export async function rested(signal: AbortSignal): Promise<boolean> {
  await new Promise((resolve) => setTimeout(resolve, RESTS_MS));
  return !signal.aborted;
}
