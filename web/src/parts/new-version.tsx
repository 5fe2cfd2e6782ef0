import { Button } from '@mui/material';
import { useSnackbar } from 'notistack';
import { useEffect } from 'react';
import { registerSW } from 'virtual:pwa-register';
import { flushSaving } from '../state/saving';

/** How often a page that stays open asks whether there is a newer version, milliseconds. */
const ASKS_MS = 60 * 60 * 1000;

/** Keeps the program for when the server is gone, and says when there is a newer version: it comes when it is asked for, after everything is saved. */
export function NewVersion() {
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  useEffect(() => {
    let timer: ReturnType<typeof setInterval> | undefined;
    const update = registerSW({
      onNeedRefresh() {
        const key = enqueueSnackbar('There is a newer version of Skip Back.', {
          persist: true,
          action: (
            <>
              <Button color="inherit" onClick={() => void flushSaving().then(() => update(true))}>
                Save and reload
              </Button>
              <Button color="inherit" onClick={() => closeSnackbar(key)}>
                Later
              </Button>
            </>
          ),
        });
      },
      onRegisteredSW(_, registration) {
        timer = setInterval(() => void registration?.update().catch(() => undefined), ASKS_MS);
      },
    });
    return () => clearInterval(timer);
  }, [enqueueSnackbar, closeSnackbar]);
  return null;
}
