import { Button } from '@mui/material';
import { type SnackbarKey, useSnackbar } from 'notistack';
import { useEffect } from 'react';
import { registerSW } from 'virtual:pwa-register';
import { busyWith, whenFree } from '../state/busy';
import { flushSaving } from '../state/saving';

/** How often a page that stays open asks whether there is a newer version, milliseconds. */
const ASKS_MS = 60 * 60 * 1000;

/**
 * Keeps the program for when the server is gone, and says when there is a newer version: it comes when it is asked for, after
 * everything is saved and what is under way is done. Other pages are told when it has come, and reload when they are asked to.
 */
export function NewVersion() {
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  useEffect(() => {
    let timer: ReturnType<typeof setInterval> | undefined;
    let asked = false;
    /** Does something that takes the page away: at once, or, where that would cut something short, after it. */
    const leave = (then: () => void) => {
      const go = () => void flushSaving().then(then);
      const busy = busyWith();
      if (busy === undefined) return go();
      const key: SnackbarKey = enqueueSnackbar(`Waiting: ${busy}. The page reloads when that is done.`, {
        persist: true,
        action: (
          <Button color="inherit" onClick={() => (closeSnackbar(key), go())}>
            Reload at once
          </Button>
        ),
      });
      void whenFree().then(() => {
        closeSnackbar(key);
        go();
      });
    };
    const offer = (sentence: string, words: string, then: () => void) => {
      const key: SnackbarKey = enqueueSnackbar(sentence, {
        persist: true,
        preventDuplicate: true,
        action: (
          <>
            <Button color="inherit" onClick={() => (closeSnackbar(key), leave(then))}>
              {words}
            </Button>
            <Button color="inherit" onClick={() => closeSnackbar(key)}>
              Later
            </Button>
          </>
        ),
      });
    };
    const reload = () => window.location.reload();
    const update = registerSW({
      onNeedRefresh: () =>
        offer('There is a newer version of Skip Back.', 'Save and reload', () => {
          asked = true;
          void update(true);
        }),
      // Taken here or in another tab: only the one that asked goes by itself.
      onNeedReload: () =>
        asked
          ? reload()
          : offer(
              'This page is of an older version of Skip Back than the others.',
              'Save and reload',
              reload,
            ),
      onRegisteredSW(_, registration) {
        timer = setInterval(() => void registration?.update().catch(() => undefined), ASKS_MS);
      },
    });
    // A part of this version that was not needed until now is not there any more.
    const gone = () =>
      offer('A part of this version of Skip Back is gone: reload to go on.', 'Save and reload', reload);
    window.addEventListener('vite:preloadError', gone);
    return () => {
      clearInterval(timer);
      window.removeEventListener('vite:preloadError', gone);
    };
  }, [enqueueSnackbar, closeSnackbar]);
  return null;
}
