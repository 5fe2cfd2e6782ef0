import '@fontsource-variable/instrument-sans';
import '@fontsource/ibm-plex-mono/400.css';
import '@fontsource/ibm-plex-mono/500.css';
import '@fontsource/ibm-plex-mono/600.css';
import { CssBaseline, ThemeProvider } from '@mui/material';
import { QueryClientProvider } from '@tanstack/react-query';
import { SnackbarProvider } from 'notistack';
import { type ComponentType, Suspense, lazy } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { Notice, Read } from './notices';
import { Beginning } from './parts/beginning';
import { Mishap } from './parts/mishap';
import { queryClient } from './state/query-client';
import { theme } from './theme';

// Not needed for the first paint.
const begun = import('./begun');
const Begun = lazy(async () => ({ default: (await begun).Begun }));

/** A view that comes when it is gone to, and asks nothing of what is kept before that was looked at. */
const view = <T,>(comes: () => Promise<T>, of: (module: T) => ComponentType) =>
  lazy(async () => {
    const [module] = await Promise.all([comes(), begun.then((m) => m.guarded)]);
    return { default: of(module) };
  });
const ShelfPage = view(
  () => import('./shelf/shelf-page'),
  (m) => m.ShelfPage,
);
const ProjectPages = view(
  () => import('./project-pages'),
  (m) => m.ProjectPages,
);

// A file that is dropped where nothing takes it does not take the program’s place.
for (const kind of ['dragover', 'drop'] as const)
  window.addEventListener(kind, (event) => event.preventDefault());

createRoot(document.getElementById('root')!).render(
  <ThemeProvider theme={theme}>
    <CssBaseline />
    <QueryClientProvider client={queryClient}>
      <SnackbarProvider
        dense
        maxSnack={4}
        action={(key) => <Read of={key} />}
        autoHideDuration={2400}
        transitionDuration={0}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        Components={{ default: Notice, error: Notice, warning: Notice }}
      >
        <Suspense fallback={null}>
          <Begun />
        </Suspense>
        <Mishap>
          <BrowserRouter>
            <Suspense fallback={<Beginning />}>
              <Routes>
                <Route path="/project/*" element={<ProjectPages />} />
                <Route path="*" element={<ShelfPage />} />
              </Routes>
            </Suspense>
          </BrowserRouter>
        </Mishap>
      </SnackbarProvider>
    </QueryClientProvider>
  </ThemeProvider>,
);
