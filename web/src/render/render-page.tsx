import { Box, Button, LinearProgress } from '@mui/material';
import type { Project } from '@skipback/core/project/schema';
import { formatTimecode } from '@skipback/core/time/timecode';
import { rateText } from '@skipback/core/time/rational';
import { frame } from '@skipback/core/time/units';
import {
  FILE_KINDS,
  encodableKinds,
  fileKind,
  fileSize,
  soundCodecOf,
} from '@skipback/media/render/encoders';
import { DEFAULT_RENDER, type RenderSettings } from '@skipback/media/render/messages';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { ChoiceField } from '../parts/choice-field';
import { TopBar } from '../parts/top-bar';
import { ValueField } from '../parts/value-field';
import { useCompiled } from '../state/compiled';
import { useClips } from '../state/library';
import { isHeard } from '../state/mixing';
import { useSaveFile } from '../state/use-save-file';
import { colors, mono } from '../theme';
import { Checks } from './checks';
import { CutLists } from './cut-lists';
import { Outcome } from './outcome';
import { ProjectFormat } from './project-format';
import { Row } from './row';
import { SaveMix } from './save-mix';
import { QualitySizes } from './quality-sizes';
import { type RenderState, useRender } from './use-render';

const QUALITY_WORDS = [
  { value: 'draft', label: 'draft, small file' },
  { value: 'good', label: 'good' },
  { value: 'high', label: 'high' },
  { value: 'finest', label: 'finest, large file' },
];

/** Making the file: what kind, how large, how often it loops; its progress; and the proof. */
export function RenderPage({ project }: { readonly project: Project }) {
  const clips = useClips(project);
  const compiled = useCompiled(project, clips);
  const heard = useMemo(() => isHeard(project, compiled), [project, compiled]);
  const [settings, setSettings] = useState<RenderSettings>(DEFAULT_RENDER);
  const { state, start, cancel } = useRender(project, compiled, clips);
  const saveFile = useSaveFile(project);
  const { width, height } = fileSize(project.size.width, project.size.height, settings.scale);
  const { data: kinds } = useQuery({
    queryKey: ['encoders', width, height],
    queryFn: () => encodableKinds(width, height),
  });
  const [withSound, setWithSound] = useState(true);
  const { data: soundCodec } = useQuery({
    queryKey: ['sound-codec', settings.format],
    queryFn: async () => (await soundCodecOf(fileKind(settings.format))) ?? null,
  });
  const set = (change: Partial<RenderSettings>) => setSettings({ ...settings, ...change });
  const frames = compiled.totalFrames * settings.loops;
  const running = state.kind === 'running';
  const sizes = ([1, 0.75, 0.5] as const).map((scale) => {
    const s = fileSize(project.size.width, project.size.height, scale);
    return { value: String(scale), label: `${s.width}×${s.height}` };
  });
  const able = FILE_KINDS.map((k) => ({
    value: k.id,
    label: kinds && !kinds.includes(k.id) ? `${k.label} (not in this browser)` : k.label,
  }));
  const possible = !kinds || kinds.includes(settings.format);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%' }}>
      <TopBar project={project} onSaveFile={saveFile} />
      <Box
        component="main"
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
          <Box sx={{ bgcolor: colors.panel, borderRadius: 2, p: 2 }}>
            <Row label="File">
              <ChoiceField
                label="File"
                value={settings.format}
                options={able}
                onChange={(v) => set({ format: v as RenderSettings['format'] })}
              />
            </Row>
            <Row label="Size">
              <ChoiceField
                label="Size"
                value={String(settings.scale)}
                options={sizes}
                onChange={(v) => set({ scale: Number(v) as RenderSettings['scale'] })}
              />
            </Row>
            <Row label="Quality">
              <ChoiceField
                label="Quality"
                value={settings.quality}
                options={QUALITY_WORDS}
                onChange={(v) => set({ quality: v as RenderSettings['quality'] })}
              />
            </Row>
            <Row label="Times it plays">
              <ValueField
                label="Times it plays"
                text={String(settings.loops)}
                onEnter={(typed) => {
                  const n = Number(typed);
                  if (!Number.isInteger(n) || n < 1 || n > 1000) return false;
                  set({ loops: n });
                  return true;
                }}
                onStep={(by) => set({ loops: Math.min(1000, Math.max(1, settings.loops + by)) })}
              />
            </Row>
            <Row label="Length">
              <Box sx={{ fontFamily: mono }}>
                {frames} f = {formatTimecode(frame(frames), project.rate)} at {rateText(project.rate)}
              </Box>
            </Row>
            <Row label="Sound">
              {!heard ? (
                <Box sx={{ fontFamily: mono, color: colors.quiet }}>none, picture only</Box>
              ) : (
                <ChoiceField
                  label="Sound"
                  value={withSound ? 'mix' : 'none'}
                  options={[
                    { value: 'mix', label: soundCodec ? `the mix, ${soundCodec.toUpperCase()}` : 'the mix' },
                    { value: 'none', label: 'none, picture only' },
                  ]}
                  onChange={(v) => setWithSound(v === 'mix')}
                />
              )}
            </Row>
          </Box>
          <Box sx={{ bgcolor: colors.panel, borderRadius: 2, p: 2, mt: 1.5 }}>
            <QualitySizes
              project={project}
              compiled={compiled}
              clips={clips}
              settings={settings}
              onChoose={(quality) => set({ quality })}
            />
          </Box>
          <Box sx={{ bgcolor: colors.panel, borderRadius: 2, p: 2, mt: 1.5 }}>
            <ProjectFormat project={project} />
          </Box>
          <Box sx={{ mt: 2, display: 'flex', gap: 1.5, alignItems: 'center' }}>
            {running ? (
              <Button variant="outlined" color="inherit" size="large" onClick={cancel}>
                Cancel
              </Button>
            ) : (
              <Button
                variant="contained"
                size="large"
                disabled={frames === 0 || !possible}
                onClick={() => void start(settings, withSound && heard)}
              >
                Render {frames} {frames === 1 ? 'frame' : 'frames'}
              </Button>
            )}
            {!possible && (
              <Box sx={{ color: colors.attention }}>This browser cannot make that file. Choose another.</Box>
            )}
            {frames === 0 && <Box sx={{ color: colors.quiet }}>There is nothing to render yet.</Box>}
          </Box>
        </Box>
        <Box sx={{ pt: 5.5 }}>
          <Checks compiled={compiled} />
          <Box aria-live="polite" sx={{ mt: 3 }}>
            <Progress state={state} />
          </Box>
          <Box sx={{ mt: 4, maxWidth: 560 }}>
            {heard && <SaveMix project={project} compiled={compiled} clips={clips} />}
            <CutLists project={project} compiled={compiled} />
          </Box>
        </Box>
      </Box>
    </Box>
  );
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
        {state.done === 0 ? 'Looking for the quality on a sample of ' : 'Rendering '}
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
