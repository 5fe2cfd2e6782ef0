import { Box, Button } from '@mui/material';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { fileKind } from '@skipback/media/render/encoders';
import {
  type FilmFormat,
  type RenderSettings,
  type Way,
  type WaySize,
} from '@skipback/media/render/messages';
import { type RunningRender, startComparing } from '@skipback/media/render/render-client';
import { useEffect, useRef, useState } from 'react';
import { SizeBars } from '../charts/lazy';
import { ChoiceRow } from '../parts/choice-row';
import type { ClipState } from '../state/library';
import { pictureJob } from '../state/picture-job';
import { colors } from '../theme';

interface Props {
  readonly project: Project;
  readonly compiled: CompiledProject;
  readonly clips: readonly ClipState[];
  readonly settings: RenderSettings & { readonly format: FilmFormat };
  /** Kinds of film that can be made here; undefined until that is known. */
  readonly films: readonly FilmFormat[] | undefined;
  readonly onChoose: (way: Way) => void;
}

/** What is compared: the qualities of one kind of file, or the kinds at one quality. */
type By = 'quality' | 'format';
const BY = [
  { value: 'quality', label: 'by quality' },
  { value: 'format', label: 'by format' },
] as const;
const QUALITIES = ['draft', 'good', 'high', 'finest'] as const;

const megabytes = (bytes: number): number => Number((bytes / 1e6).toFixed(bytes < 1e7 ? 2 : 1));

/** How large the file would be by quality or by format, measured on a short sample of this result. */
export function FileSizes({ project, compiled, clips, settings, films, onChoose }: Props) {
  const [by, setBy] = useState<By>('quality');
  const [sizes, setSizes] = useState<readonly WaySize[]>([]);
  const [trouble, setTrouble] = useState<string>();
  const [measuring, setMeasuring] = useState(false);
  const running = useRef<RunningRender>(undefined);
  const { format, quality, scale } = settings;
  // What was measured holds for one result and size, and for the kind or the quality that was not compared.
  const held = by === 'quality' ? format : quality;
  useEffect(() => {
    setSizes([]);
    setTrouble(undefined);
    setMeasuring(false);
    return () => running.current?.cancel();
  }, [compiled, scale, by, held]);
  const ways: Way[] =
    by === 'quality'
      ? QUALITIES.map((q) => ({ format, quality: q }))
      : (films ?? []).map((f) => ({ format: f, quality }));
  const measure = () => {
    setSizes([]);
    setTrouble(undefined);
    setMeasuring(true);
    running.current = startComparing(pictureJob(project, compiled, clips, settings), ways, (reply) => {
      if (reply.kind === 'size') return setSizes((before) => [...before, reply.size]);
      setMeasuring(false);
      if (reply.kind === 'failed') setTrouble(reply.sentence);
    });
  };
  const frames = compiled.totalFrames * settings.loops;
  const idOf = (way: Way) => (by === 'quality' ? way.quality : way.format);
  const rows = sizes.map((s) => {
    const size = megabytes(s.bytesPerFrame * frames);
    const label = by === 'quality' ? s.quality : fileKind(s.format).label;
    return { id: idOf(s), label, megabytes: size, words: `${size} MB, ${s.db.toFixed(1)} dB` };
  });
  return (
    <Box role="group" aria-label="File sizes">
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, mb: rows.length > 0 ? 1 : 0 }}>
        <Button
          size="small"
          color="inherit"
          variant="outlined"
          disabled={measuring || compiled.totalFrames === 0 || ways.length === 0}
          onClick={measure}
        >
          Compare file sizes
        </Button>
        <ChoiceRow<By> label="Compare file sizes" value={by} options={BY} onChange={setBy} />
      </Box>
      {rows.length > 0 && (
        <SizeBars
          name="File sizes"
          rows={rows}
          chosen={idOf({ format, quality })}
          onChoose={(id) => onChoose(sizes.find((s) => idOf(s) === id)!)}
        />
      )}
      <Box
        sx={{
          color: trouble ? colors.attention : colors.quiet,
          fontSize: 12,
          mt: 1,
          '&:empty': { display: 'none' },
        }}
        role="status"
      >
        {trouble ??
          (measuring
            ? `Encoding a short sample: ${sizes.length} of ${ways.length}`
            : rows.length > 0
              ? 'By a short sample of this result; dB is how near the pictures come to what goes in.'
              : '')}
      </Box>
    </Box>
  );
}
