import { Box, Button } from '@mui/material';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import type { QualitySize, RenderSettings } from '@skipback/media/render/messages';
import { type RunningRender, startComparing } from '@skipback/media/render/render-client';
import { useEffect, useRef, useState } from 'react';
import { Bar, BarChart, Cell, LabelList, XAxis, YAxis } from 'recharts';
import type { ClipState } from '../state/library';
import { colors, mono } from '../theme';
import { pictureJob } from '../state/picture-job';

interface Props {
  readonly project: Project;
  readonly compiled: CompiledProject;
  readonly clips: readonly ClipState[];
  readonly settings: RenderSettings;
  readonly onChoose: (quality: RenderSettings['quality']) => void;
}

const megabytes = (bytes: number): number => Number((bytes / 1e6).toFixed(bytes < 1e7 ? 2 : 1));

/** What each quality would come to, measured on a short sample of this result: size, and nearness to its source. */
export function QualitySizes({ project, compiled, clips, settings, onChoose }: Props) {
  const [sizes, setSizes] = useState<readonly QualitySize[]>([]);
  const [trouble, setTrouble] = useState<string>();
  const [measuring, setMeasuring] = useState(false);
  const running = useRef<RunningRender>(undefined);
  const { format, scale } = settings;
  // What was measured holds for one result, kind and size.
  useEffect(() => {
    setSizes([]);
    setMeasuring(false);
    return () => running.current?.cancel();
  }, [compiled, format, scale]);
  const measure = () => {
    setSizes([]);
    setTrouble(undefined);
    setMeasuring(true);
    running.current = startComparing(pictureJob(project, compiled, clips, settings), (reply) => {
      if (reply.kind === 'quality') return setSizes((before) => [...before, reply.size]);
      setMeasuring(false);
      if (reply.kind === 'failed') setTrouble(reply.sentence);
    });
  };
  const frames = compiled.totalFrames * settings.loops;
  const rows = sizes.map((s) => ({
    quality: s.quality,
    size: megabytes(s.bytesPerFrame * frames),
    words: `${megabytes(s.bytesPerFrame * frames)} MB, ${s.db.toFixed(1)} dB`,
  }));
  if (sizes.length === 0)
    return (
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
        <Button
          size="small"
          color="inherit"
          variant="outlined"
          disabled={measuring || compiled.totalFrames === 0}
          onClick={measure}
        >
          Measure the qualities
        </Button>
        <Box sx={{ color: colors.quiet, fontSize: 12 }} role="status">
          {measuring ? 'Encoding a short sample' : (trouble ?? 'Sizes, by a short sample')}
        </Box>
      </Box>
    );
  return (
    <Box role="group" aria-label="Qualities">
      <BarChart
        width={388}
        height={128}
        data={rows}
        layout="vertical"
        margin={{ left: 0, right: 120, top: 4, bottom: 0 }}
      >
        <XAxis type="number" hide />
        <YAxis
          type="category"
          dataKey="quality"
          width={52}
          axisLine={false}
          tickLine={false}
          tick={{ fill: colors.quiet, fontSize: 12 }}
        />
        <Bar
          dataKey="size"
          radius={3}
          isAnimationActive={false}
          onClick={(_, i) => rows[i] && onChoose(rows[i].quality)}
          style={{ cursor: 'pointer' }}
        >
          {rows.map((row) => (
            <Cell key={row.quality} fill={row.quality === settings.quality ? colors.forward : colors.line} />
          ))}
          <LabelList dataKey="words" position="right" fill={colors.ink} fontSize={12} fontFamily={mono} />
        </Bar>
      </BarChart>
      <Box sx={{ color: colors.quiet, fontSize: 12 }}>
        Measured on a short sample; dB is how near the pictures come to their source. Press a bar to choose
        it.
      </Box>
    </Box>
  );
}
