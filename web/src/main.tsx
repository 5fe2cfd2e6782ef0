import '@fontsource-variable/instrument-sans';
import '@fontsource/ibm-plex-mono/400.css';
import '@fontsource/ibm-plex-mono/500.css';
import '@fontsource/ibm-plex-mono/600.css';
import { CssBaseline, ThemeProvider } from '@mui/material';
import { QueryClientProvider } from '@tanstack/react-query';
import { SnackbarProvider } from 'notistack';
import { Suspense, lazy } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { guardDatabase } from '@skipback/media/storage/database';
import { BeatsPage } from './beats/beats-page';
import { Notice, Read, Saying } from './notices';
import { SoundQuestion } from './parts/sound-question';
import { Keys } from './commands/use-keys';
import { BenchPage } from './bench/bench-page';
import { Mishap } from './parts/mishap';
import { NewVersion } from './parts/new-version';
import { ProjectRoute, useOpenProject } from './project-route';
import { ShelfPage } from './shelf/shelf-page';
import { queryClient } from './state/library';
import { openQueue } from './state/queue';
import { beginPage } from './state/tab-locks';
import { tidyStorage } from './state/tidy';
import { theme } from './theme';

function BenchView() {
  const project = useOpenProject();
  return <BenchPage key={project.id} project={project} />;
}

function BeatsView() {
  const project = useOpenProject();
  return <BeatsPage key={project.id} project={project} />;
}

/** Brings the writers of files with it, which nothing before needs. */
const RenderPage = lazy(async () => ({ default: (await import('./render/render-page')).RenderPage }));

function RenderView() {
  const project = useOpenProject();
  return (
    <Suspense fallback={null}>
      <RenderPage project={project} />
    </Suspense>
  );
}

/** How long the look at what is kept may take, milliseconds. */
const GUARD_MS = 400;
await Promise.race([
  guardDatabase().catch(() => undefined),
  new Promise((resolve) => setTimeout(resolve, GUARD_MS)),
]);
void beginPage(tidyStorage).then(openQueue);

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
        <NewVersion />
        <SoundQuestion />
        <Keys />
        <Saying />
        <Mishap>
          <BrowserRouter>
            <Routes>
              <Route path="/" element={<ShelfPage />} />
              <Route path="/project/:id" element={<ProjectRoute />}>
                <Route index element={<BenchView />} />
                <Route path="beats" element={<BeatsView />} />
                <Route path="render" element={<RenderView />} />
              </Route>
              <Route path="*" element={<ShelfPage />} />
            </Routes>
          </BrowserRouter>
        </Mishap>
      </SnackbarProvider>
    </QueryClientProvider>
  </ThemeProvider>,
);
