import { Box } from '@mui/material';
import { cutsOver, weakPairs } from '@skipback/core/gather/gathers';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { setNotCuts } from '@skipback/core/project/actions';
import { mixNothing, mixPairs } from '@skipback/core/project/gather-actions';
import { useMemo } from 'react';
import { useTold } from '../state/told';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { Mending } from '../parts/small-button';
import { colors, mono } from '../theme';

/** How far a piece's pictures along the motion are, where motion was lost, and what can be done about it. */
export function Motion({
  compiled,
  startFrame,
  loops,
}: {
  readonly compiled: CompiledPiece;
  readonly startFrame: number;
  readonly loops: boolean;
}) {
  const motion = useTold((s) => s.motion);
  const { piece } = compiled;
  const end = startFrame + compiled.shown.length;
  const weak = useMemo(() => {
    const own = (motion?.lost ?? []).filter(([at]) => at >= startFrame && at < end);
    return weakPairs(
      compiled,
      loops,
      own.map(([at, share]) => [at - startFrame, share] as const),
    );
  }, [motion, compiled, startFrame, end, loops]);
  const mixed = piece.mixed.reduce((sum, { from, to }) => sum + to - from, 0);
  return (
    <Box
      role="group"
      aria-label="Motion"
      sx={{ mt: 0.5, color: colors.quiet, '& b': { fontFamily: mono, fontWeight: 500 } }}
    >
      {motion && (
        <Line>
          {!motion.goesOn ? (
            <>
              <span>stopped: blended, on the screen only</span>
              <Mending onPress={() => transport.setMotion(true)}>Resume</Mending>
            </>
          ) : motion.made < motion.of && !motion.working ? (
            <span>
              <b>{motion.made}</b> of <b>{motion.of}</b> of motion flow: no room for more. The rest plays
              blended; the file has all.
            </span>
          ) : motion.made < motion.of ? (
            <>
              <span>
                pictures of motion flow: <b>{motion.made}</b> of <b>{motion.of}</b>
              </span>
              <Mending onPress={() => transport.setMotion(false)}>Stop</Mending>
            </>
          ) : (
            <span>
              all <b>{motion.of}</b> pictures of motion flow are made
            </span>
          )}
        </Line>
      )}
      {weak.pictures > 0 && (
        <Line>
          <span style={{ color: colors.attention }}>
            motion is lost in <b>{weak.pictures}</b> {weak.pictures === 1 ? 'picture' : 'pictures'}
          </span>
          <Mending
            onPress={() => act('blend where motion is lost', (p) => mixPairs(p, piece.id, weak.pairs))}
          >
            Blend these
          </Mending>
        </Line>
      )}
      {mixed > 0 && (
        <Line>
          <span>
            blended between <b>{mixed}</b> {mixed === 1 ? 'pair' : 'pairs'} of frames
          </span>
          <Mending onPress={() => act('motion flow everywhere', (p) => mixNothing(p, piece.id))}>
            Motion flow again
          </Mending>
        </Line>
      )}
    </Box>
  );
}

/** Cuts listed by their frames at most. */
const MOST_LISTED = 6;

/** Which cuts of its clip a piece plays over whose pictures are made between frames: there none is. */
export function Cuts({ compiled }: { readonly compiled: CompiledPiece }) {
  const { between, shutter } = compiled.piece;
  const { clip } = compiled;
  const cuts = useMemo(() => cutsOver(compiled), [compiled]);
  const gone = clip.notCuts ?? [];
  const say = (words: string, frames: readonly number[]) => act(words, (p) => setNotCuts(p, clip.id, frames));
  if ((between === 'repeat' && shutter === 0) || cuts.length + gone.length === 0) return null;
  return (
    <Box
      role="group"
      aria-label="Cuts"
      sx={{ mt: 0.5, color: colors.quiet, '& b': { fontFamily: mono, fontWeight: 500 } }}
    >
      {cuts.length > 0 && (
        <Line>
          <Box
            component="span"
            sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 0.5 }}
          >
            {cuts.length === 1 ? 'a cut at' : 'cuts at'}
            {cuts.slice(0, MOST_LISTED).map((cut) => (
              <Mending
                key={cut}
                name={`${cut} is no cut`}
                title="It is none: make pictures between its frames too"
                onPress={() => say(`no cut at ${cut}`, [...gone, cut])}
              >
                <b>{cut}</b> ×
              </Mending>
            ))}
            {cuts.length > MOST_LISTED && (
              <span>
                and <b>{cuts.length - MOST_LISTED}</b> more
              </span>
            )}
            <span>· the nearer frame stands there</span>
          </Box>
        </Line>
      )}
      {gone.length > 0 && (
        <Line>
          <span>
            <b>{gone.length}</b> {gone.length === 1 ? 'cut' : 'cuts'} taken away
          </span>
          <Mending onPress={() => say('look for cuts again', [])}>Bring back</Mending>
        </Line>
      )}
    </Box>
  );
}

function Line({ children }: { readonly children: React.ReactNode }) {
  return (
    <Box
      sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', gap: 1, minHeight: 22 }}
    >
      {children}
    </Box>
  );
}
