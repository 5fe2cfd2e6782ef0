import { Box } from '@mui/material';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { useOpen } from '../state/open';
import { usePlaying } from '../state/playing';
import { useTold } from '../state/told';
import { shelfFacts } from '../state/saving';
import { transport } from '../state/transport';
import { useSize } from '../weave/use-size';
import { Stats } from './stats';

interface Props {
  readonly size: { readonly width: number; readonly height: number };
  readonly describe: string;
  /** What lies over it, given its width on the screen. */
  readonly children?: (width: number) => ReactNode;
}

/** The big picture. A worker draws into it; its pixels are as many as are seen, the project's at most. */
export function Picture({ size, describe, children }: Props) {
  const room = useRef<HTMLDivElement>(null);
  const mount = useRef<HTMLDivElement>(null);
  const box = useSize(room);
  const scale = Math.min(box.width / size.width, box.height / size.height);
  const width = Math.floor(size.width * scale);
  const height = Math.floor(size.height * scale);

  const turn = useTold((s) => s.picture);
  useEffect(() => {
    const canvas = document.createElement('canvas');
    canvas.style.cssText = 'display:block;width:100%;height:100%';
    mount.current!.append(canvas);
    const disconnect = transport.connect(canvas);
    return () => {
      disconnect();
      canvas.remove();
    };
  }, [turn]);

  useEffect(() => {
    if (width <= 0 || height <= 0) return;
    const ratio = Math.min(window.devicePixelRatio || 1, size.width / width);
    transport.resize(Math.round(width * ratio), Math.round(height * ratio), size.width);
  }, [width, height, size.width]);

  const audition = usePlaying((s) => s.audition);
  const grey = useOpen((s) => s.greyLook !== null);
  // Before anything was seen, the picture it was left with is there.
  const late = useTold((s) => s.standsIn && s.seen);
  const coarseness = useTold((s) => s.stats?.coarseness ?? 1);
  const plays = usePlaying((s) => s.step !== 0);
  return (
    <Box
      ref={room}
      sx={{ position: 'relative', flex: 1, minWidth: 0, minHeight: 0, display: 'grid', placeItems: 'center' }}
    >
      <Box
        ref={mount}
        role="img"
        aria-label={describe}
        data-testid="picture"
        style={{ width: Math.max(0, width), height: Math.max(0, height) }}
        sx={{
          bgcolor: '#000',
          overflow: 'hidden',
          borderRadius: '3px',
        }}
      />
      <LastPicture width={width} height={height} />
      {children && width > 0 && (
        <Box sx={{ position: 'absolute', width, height, pointerEvents: 'none' }}>{children(width)}</Box>
      )}
      <Stats />
      {late && audition === null && !grey && <Said small>another frame, until the right one is ready</Said>}
      {plays && coarseness > 1 && (
        <Said small>looks at {coarseness === 2 ? 'half' : 'a third of the'} size, to keep up</Said>
      )}
      {grey && audition === null && <Said>White is where it applies. W leaves.</Said>}
      {audition !== null && <Said>{audition}, tried out. Click to keep it.</Said>}
    </Box>
  );
}

/** What the project showed when it was left, until its frames are there. */
function LastPicture({ width, height }: { readonly width: number; readonly height: number }) {
  const seen = useTold((s) => s.seen);
  const [kept, setKept] = useState<string>();
  useEffect(() => {
    if (seen) shelfFacts.fromBefore = false;
    if (!shelfFacts.poster || !shelfFacts.fromBefore) return;
    const address = URL.createObjectURL(shelfFacts.poster);
    setKept(address);
    return () => {
      setKept(undefined);
      URL.revokeObjectURL(address);
    };
  }, [seen]);
  if (!kept || seen || width <= 0) return null;
  return (
    <Box
      component="img"
      src={kept}
      alt=""
      data-testid="last-picture"
      sx={{
        position: 'absolute',
        width,
        height,
        objectFit: 'cover',
        borderRadius: '3px',
        pointerEvents: 'none',
      }}
    />
  );
}

/** A line over the picture's lower edge. */
function Said({ small = false, children }: { readonly small?: boolean; readonly children: ReactNode }) {
  return (
    <Box
      role="status"
      sx={{
        position: 'absolute',
        bottom: 10,
        bgcolor: 'rgba(18,18,18,0.86)',
        ...(small
          ? { px: 1, borderRadius: 1, fontSize: 12.5 }
          : { px: 1.25, py: 0.4, borderRadius: 2, fontWeight: 500 }),
      }}
    >
      {children}
    </Box>
  );
}
