import { guardDatabase } from '@skipback/media/storage/database';
import { Keys } from './commands/use-keys';
import { Saying } from './notices';
import { NewVersion } from './parts/new-version';
import { SoundQuestion } from './parts/sound-question';
import { openQueue } from './state/queue';
import { beginPage } from './state/tab-locks';
import { tidyStorage } from './state/tidy';

/** How long the look at what is kept may take, milliseconds. */
const GUARD_MS = 400;

/** When it is known whether what is kept here is of a newer version: nothing may be asked of it before. */
export const guarded = Promise.race([
  guardDatabase().catch(() => undefined),
  new Promise((resolve) => setTimeout(resolve, GUARD_MS)),
]);
void guarded.then(() => beginPage(tidyStorage)).then(openQueue);

/** What is there in every view, once the first has been painted. */
export function Begun() {
  return (
    <>
      <NewVersion />
      <SoundQuestion />
      <Keys />
      <Saying />
    </>
  );
}
