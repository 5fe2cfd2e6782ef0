import { Box, Button, LinearProgress } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import type { Project } from '@skipback/core/project/schema';
import { encodableKinds } from '@skipback/media/render/encoders';
import { fileSize } from '@skipback/media/frames/file-size';
import { type RenderSettings, isFilm } from '@skipback/media/render/messages';
import { pictureCount } from '@skipback/media/render/pictures/kinds';
import { useQuery } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useEffect, useMemo, useRef, useState } from 'react';
import { TROUBLE } from '../notices';
import { useCommands } from '../commands/use-commands';
import { useCompiled } from '../state/compiled';
import { fileName } from '../state/download';
import { useClips } from '../state/library';
import { isHeard } from '../state/mixing';
import { enqueue } from '../state/queue';
import { colors, mono } from '../theme';
import { Checks } from './checks';
import { CutLists } from './cut-lists';
import { FileSettings } from './file-settings';
import { Outcome } from './outcome';
import { ManyDialog } from './many-dialog';
import { ProjectFormat } from './project-format';
import { QueuePanel } from './queue-panel';
import { kindOf } from './render-job';
import { isTransparent } from '../state/picture-job';
import { SaveMix } from './save-mix';
import { FileSizes } from './file-sizes';
import {
  type RenderState,
  cancelRender,
  setFileWishes,
  useFileWishes,
  useRendering,
} from '../state/rendering';
import { useShots } from '../state/shots';
import { beginRender } from './begin-render';

/** Making the file: what kind, how large, how often it loops; its progress; and the proof. */
export function RenderPage({ project }: { readonly project: Project }) {
  const clips = useClips(project);
  useShots(project, clips);
  const compiled = useCompiled(project, clips);
  const heard = useMemo(() => isHeard(project, compiled), [project, compiled]);
  const wishes = useFileWishes(project.id);
  const { settings, withSound } = wishes;
  const { format } = settings;
  const setSettings = (next: RenderSettings) => setFileWishes(project.id, { settings: next });
  const rendering = useRendering();
  const own = rendering.project?.id === project.id;
  const state: RenderState = own ? rendering.state : { kind: 'idle' };
  const { width, height } = fileSize(project.size.width, project.size.height, settings.scale);
  const { data: films } = useQuery({
    queryKey: ['encoders', width, height],
    queryFn: () => encodableKinds(width, height),
  });
  const frames = compiled.totalFrames * settings.loops;
  const pictures = isFilm(settings.format) ? frames : pictureCount(compiled.totalFrames, settings);
  const running = rendering.state.kind === 'running';
  const [many, setMany] = useState(false);
  const { enqueueSnackbar } = useSnackbar();
  const order = { settings, withSound: withSound && heard };
  const addToQueue = async () => {
    const name = `${fileName(project.name)}.${kindOf(settings).extension}`;
    await enqueue([{ name, project, ...order }]).catch(() =>
      enqueueSnackbar('The queue could not be kept: the browser’s storage is full or switched off.', TROUBLE),
    );
  };
  const possible = !isFilm(settings.format) || !films || films.includes(settings.format);
  const cannot =
    frames === 0
      ? { why: 'There is nothing to render yet.' }
      : possible
        ? undefined
        : { why: 'This browser cannot make that file. Choose another.' };
  useCommands({
    makeFile: running
      ? { why: 'A file is being rendered.' }
      : (cannot ?? (() => void beginRender(project, compiled, clips, order))),
    queueFile: cannot ?? (() => void addToQueue()),
  });
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
      <Box
        sx={{
          flex: 1,
          overflowY: 'auto',
          display: 'grid',
          gridTemplateColumns: 'minmax(340px, 420px) 1fr',
          gap: 5,
          p: 5,
          maxWidth: 1180,
          width: '100%',
          mx: 'auto',
        }}
      >
        <Box>
          <Box component="h1" sx={{ m: 0, mb: 2, fontSize: 20, fontWeight: 600 }}>
            Render a file
          </Box>
          <FileSettings
            {...{ project, settings, films, pictures, heard, withSound }}
            transparent={isTransparent(compiled, clips)}
            frames={frames}
            onChange={setSettings}
            onSound={(on) => setFileWishes(project.id, { withSound: on })}
          />
          <Box sx={{ mt: 2, display: 'flex', gap: 1.5, alignItems: 'center' }}>
            {running && !own ? (
              <Box sx={{ color: colors.quiet }}>
                {rendering.project?.name} is being rendered. Wait for it, or add this to the queue.
              </Box>
            ) : running ? (
              <Button variant="outlined" color="inherit" size="large" onClick={cancelRender}>
                Cancel
              </Button>
            ) : (
              <Button
                variant="contained"
                size="large"
                disabled={frames === 0 || !possible}
                onClick={() => void beginRender(project, compiled, clips, order)}
              >
                Render {pictures} {pictures === 1 ? 'frame' : 'frames'}
              </Button>
            )}
            {(!running || !own) && (
              <>
                <Button
                  color="inherit"
                  disabled={frames === 0 || !possible}
                  onClick={() => void addToQueue()}
                >
                  Add to the queue
                </Button>
                <Button color="inherit" onClick={() => setMany(true)}>
                  Many at once
                </Button>
              </>
            )}
            {!possible && (
              <Box sx={{ color: colors.attention }}>This browser cannot make that file. Choose another.</Box>
            )}
            {frames === 0 && <Box sx={{ color: colors.quiet }}>There is nothing to render yet.</Box>}
          </Box>
          {isFilm(format) && (
            <Box sx={{ bgcolor: colors.panel, borderRadius: 2, p: 2, mt: 3 }}>
              <FileSizes
                {...{ project, compiled, clips, films }}
                settings={{ ...settings, format }}
                onChoose={({ format, quality }) => setSettings({ ...settings, format, quality })}
              />
            </Box>
          )}
          <Box sx={{ bgcolor: colors.panel, borderRadius: 2, p: 2, mt: 1.5 }}>
            <ProjectFormat project={project} />
          </Box>
        </Box>
        <Box sx={{ pt: 5.5 }}>
          <Checks compiled={compiled} clips={clips} size={{ width, height }} />
          <Box sx={{ mt: 3, maxWidth: 560 }}>
            <QueuePanel />
          </Box>
          <Box sx={{ mt: 3 }}>
            <Progress state={state} />
          </Box>
          <Box role="status" sx={visuallyHidden}>
            {spoken(state)}
          </Box>
          <Box sx={{ mt: 4, maxWidth: 560 }}>
            {heard && <SaveMix project={project} compiled={compiled} clips={clips} />}
            <CutLists project={project} compiled={compiled} />
          </Box>
        </Box>
      </Box>
      {many && <ManyDialog {...{ project, clips, settings }} onClose={() => setMany(false)} />}
    </Box>
  );
}

/** What a screen reader says of a render: at every tenth of it, and what became of it. */
function spoken(state: RenderState): string {
  if (state.kind === 'running')
    return `${state.name}: ${10 * Math.floor((10 * state.done) / Math.max(1, state.total))} %`;
  if (state.kind === 'done') return `${state.name} is made.`;
  return state.kind === 'cancelled' ? 'Cancelled.' : '';
}

/** The frame that is being written just now. */
function Written({ picture }: { readonly picture: ImageBitmap | undefined }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !picture) return;
    context.canvas.width = picture.width;
    context.canvas.height = picture.height;
    context.drawImage(picture, 0, 0);
  }, [picture]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="The frame being written"
      width={480}
      height={270}
      style={{ width: 360, background: '#000', display: 'block', borderRadius: 6, marginBottom: 16 }}
    />
  );
}

function Progress({ state }: { state: RenderState }) {
  if (state.kind === 'idle')
    return (
      <Box sx={{ color: colors.quiet, maxWidth: 440, lineHeight: 1.6 }}>
        The file is made frame by frame from the original clips, on this machine. Afterwards it is opened
        again, its frames are counted, and some of its pictures are compared with what was meant.
      </Box>
    );
  if (state.kind !== 'running') return <Outcome state={state} />;
  const left = state.framesPerS > 0 ? (state.total - state.done) / state.framesPerS : undefined;
  return (
    <Box sx={{ maxWidth: 520 }}>
      <Written picture={state.picture} />
      <Box sx={{ fontSize: 15, fontWeight: 600, mb: 1 }}>
        {state.done === 0 ? 'Choosing the bitrate on a sample of ' : 'Rendering '}
        {state.name}
      </Box>
      <LinearProgress
        variant="determinate"
        value={(100 * state.done) / Math.max(1, state.total)}
        aria-label="Render progress"
        sx={{
          height: 8,
          borderRadius: 4,
          bgcolor: colors.raised,
          '& .MuiLinearProgress-bar': { bgcolor: colors.forward },
        }}
      />
      <Box sx={{ fontFamily: mono, mt: 1, color: colors.quiet }} data-testid="render-progress">
        {state.done} of {state.total} frames{'  '}
        {state.framesPerS.toFixed(1)} frames/s{'  '}
        {left === undefined ? '' : `${Math.ceil(left)} s left`}
      </Box>
    </Box>
  );
}
