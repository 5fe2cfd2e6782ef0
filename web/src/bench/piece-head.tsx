import { Box, ButtonBase } from '@mui/material';
import { frameCount } from '@skipback/core/clip/frame-table';
import { withEdge } from '@skipback/core/edit/ordered';
import { setSpan } from '@skipback/core/project/actions';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import { loopsOf } from '@skipback/core/project/parts';
import { parseLength } from '@skipback/core/time/amount';
import type { Rational } from '@skipback/core/time/rational';
import { frame } from '@skipback/core/time/units';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { useSaying } from '../notices';
import { cutShort } from '../parts/line';
import { Name } from '../parts/name';
import { ValueField } from '../parts/value-field';
import { useFirst } from '../state/counting';
import type { LoadedClip } from '../state/library';
import { setOpen, useOpen } from '../state/open';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors, mono } from '../theme';
import { ClipReading } from './clip-reading';
import { ComesIn, ComesInSaid } from './comes-in';
import { Held, HeldSaid } from './held';
import { InBetween } from './in-between';
import { Cuts, Motion } from './motion';
import { PieceBar } from './piece-bar';
import { readingWords } from './reading-words';
import { SmallCopyRow } from './small-copy';

interface Props {
  readonly project: CompiledProject;
  readonly compiled: CompiledPiece;
  readonly rate: Rational;
  /** The piece's clip with its media. */
  readonly loaded: LoadedClip | undefined;
}

/** The selected piece: its name and tools, its span as numbers, and how its clip is read. */
export function PieceHead({ project, compiled, rate, loaded }: Props) {
  const reading = useOpen((s) => s.reading);
  const { piece, clip } = compiled;
  const startFrame = project.pieces.find((p) => p.compiled === compiled)?.startFrame ?? 0;
  const isFirst = project.pieces[0]?.compiled === compiled;
  const loops = loopsOf(project);
  const words = readingWords(compiled, isFirst);
  return (
    <Box sx={{ flex: 'none' }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, minHeight: 30 }}>
        <Box sx={{ flex: 1, minWidth: 0, fontWeight: 600, fontSize: 14 }}>
          <Name of={clip.name} />
        </Box>
        <PieceBar piece={compiled} clip={loaded} />
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75, minHeight: 28 }}>
        <Span compiled={compiled} rate={rate} />
        <ButtonBase
          aria-expanded={reading}
          aria-label={`How the clip is read: ${words}`}
          title={words}
          onClick={() => setOpen({ reading: !reading })}
          sx={{
            ml: 'auto',
            minWidth: 0,
            minHeight: 24,
            gap: 0.25,
            borderRadius: 1,
            fontSize: 12.5,
            color: colors.quiet,
            '&:hover': { color: colors.ink },
          }}
        >
          <Box sx={cutShort}>{words}</Box>
          {reading ? <ChevronUp size={14} /> : <ChevronDown size={14} />}
        </ButtonBase>
      </Box>
      {reading && (
        <Box sx={{ bgcolor: colors.panel, borderRadius: 2, px: 1.25, py: 0.5, mt: 0.5, fontSize: 13 }}>
          <ClipReading clip={clip} />
          <InBetween compiled={compiled} loops={loops} />
          <Held compiled={compiled} />
          {!isFirst && <ComesIn compiled={compiled} rate={rate} />}
        </Box>
      )}
      {loaded && <SmallCopyRow loaded={loaded} span={piece.span} />}
      {piece.between === 'flow' && <Motion compiled={compiled} startFrame={startFrame} loops={loops} />}
      <Cuts compiled={compiled} />
      <HeldSaid compiled={compiled} />
      {!isFirst && <ComesInSaid project={project} compiled={compiled} />}
    </Box>
  );
}

/** The span as numbers: where it begins, where it ends, how many frames that is. */
function Span({ compiled, rate }: { readonly compiled: CompiledPiece; readonly rate: Rational }) {
  const say = useSaying();
  const first = useFirst();
  const { piece, clip, table } = compiled;
  const count = frameCount(table);
  const clipRate = table.kind === 'constant' ? table.rate : rate;
  const set = (edge: 'in' | 'out' | 'length') => (typed: string) => {
    // A number is a frame as it is called; a time is a time.
    const called = edge !== 'length' && /^\s*\d+\s*(f|frames?)?\s*$/i.test(typed) ? first : 0;
    const least = (edge === 'in' ? 0 : 1) + called;
    const n = parseLength(typed, clipRate, { least, most: count + called });
    if (typeof n === 'string') return n;
    const at = edge === 'length' ? piece.span.in + n : n - called;
    if (at > count) return `The clip ends at frame ${count + first}.`;
    const { from, to, gaveWay } = withEdge(
      { from: piece.span.in, to: piece.span.out },
      edge === 'in' ? 'from' : 'to',
      at,
      count,
    );
    act('set the span', (p) => setSpan(p, piece.id, { in: from, out: to }, count));
    transport.seekSource(clip.id, frame(edge === 'in' ? from : to - 1));
    if (gaveWay)
      say(
        `The span’s ${edge === 'in' ? 'end' : 'beginning'} gave way: it is frame ${from + first} to ${to + first} now.`,
      );
    return true;
  };
  const nudge = (edge: 'in' | 'out') => (by: number) => {
    const span = { ...piece.span, [edge]: piece.span[edge] + by };
    if (span.out <= span.in || span.in < 0 || span.out > count) return;
    act('set the span', (p) => setSpan(p, piece.id, span, count));
    transport.seekSource(clip.id, frame(edge === 'in' ? span.in : span.out - 1));
  };
  const digits = String(count).length;
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 0.5,
        color: colors.quiet,
        fontFamily: mono,
        flex: 'none',
      }}
    >
      <ValueField
        label="Span in"
        text={String(piece.span.in + first)}
        width={`${Math.max(3, digits) + 0.5}ch`}
        onEnter={set('in')}
        onStep={nudge('in')}
        hint="First frame of the span"
      />
      –
      <ValueField
        label="Span out"
        text={String(piece.span.out + first)}
        width={`${Math.max(3, digits) + 0.5}ch`}
        onEnter={set('out')}
        onStep={nudge('out')}
        hint="The frame after its last"
      />
      =
      <ValueField
        label="Span length"
        text={`${piece.span.out - piece.span.in} f`}
        width={`${Math.max(3, digits) + 2.5}ch`}
        onEnter={set('length')}
        onStep={nudge('out')}
        hint="Frames of the clip, seconds or timecode"
      />
    </Box>
  );
}
