import { Box, ButtonBase } from '@mui/material';
import { LookSchema } from '@skipback/core/looks/look';
import { TREATMENTS } from '@skipback/core/looks/registry';
import type { AnyTreatment } from '@skipback/core/looks/treatment';
import type { CompiledPiece } from '@skipback/core/project/compile';
import type { LookPlace } from '@skipback/core/project/look-actions';
import { useEffect, useRef } from 'react';
import { useLatest } from '../parts/use-latest';
import { resultOfPiece } from '../state/compiled';
import { usePlaying } from '../state/playing';
import { useTold } from '../state/told';
import { transport } from '../state/transport';
import { colors } from '../theme';
import { addLookTo, beginsWith } from './add-look';

/** Pixels of a card's picture, twice as fine as it is shown. */
const PICTURE = { width: 156, height: 88 };

const COSTS = { light: 'little time', middle: 'some time', heavy: 'much time' } as const;

/** The looks as cards, each the picture that is shown now, treated: resting on one shows it big, pressing it adds it. */
export function LookCards({
  piece,
  startFrame,
  where,
}: {
  readonly piece: CompiledPiece | undefined;
  /** Result frame at which it begins. */
  readonly startFrame: number;
  readonly where: LookPlace;
}) {
  const tried = useTold((s) => s.tried);
  const position = usePlaying((s) => s.position);
  const still = usePlaying((s) => s.step === 0 && s.audition === null);
  useEffect(() => {
    if (!still) return;
    const timer = setTimeout(() => transport.tryLooks(PICTURE.width), 250);
    return () => clearTimeout(timer);
  }, [position, still, piece]);
  // The cards stay as they are while the piece is edited.
  const latest = useLatest(piece);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const tryOut = (treatment: AnyTreatment, delay: number) => {
    clearTimeout(timer.current);
    const piece = latest.current;
    if (!piece) return;
    timer.current = setTimeout(() => {
      const looks = [
        ...piece.piece.looks,
        LookSchema.parse({ id: 'tried', look: treatment.id, ...beginsWith(treatment, piece) }),
      ];
      const changed = { ...piece, piece: { ...piece.piece, looks } };
      transport.audition(resultOfPiece(changed, piece.path), treatment.name);
    }, delay);
  };
  const stop = () => {
    clearTimeout(timer.current);
    transport.endAudition();
  };
  const add = (treatment: AnyTreatment) => {
    stop();
    addLookTo(treatment, latest.current && { piece: latest.current, startFrame }, where);
  };
  return (
    <Box
      role="group"
      aria-label="Looks"
      sx={{
        display: 'grid',
        gridTemplateColumns: 'repeat(4, 1fr)',
        gridAutoRows: 'max-content',
        gap: 0.5,
        maxHeight: 216,
        overflowY: 'auto',
        scrollbarWidth: 'thin',
      }}
    >
      {TREATMENTS.map((treatment) => (
        <ButtonBase
          key={treatment.id}
          disabled={!piece}
          aria-label={`Add ${treatment.name}. ${treatment.summary}`}
          title={`${treatment.summary} Costs ${COSTS[treatment.cost]} to draw.`}
          onPointerEnter={() => tryOut(treatment, 350)}
          onPointerLeave={stop}
          onFocus={(event) => event.currentTarget.matches(':focus-visible') && tryOut(treatment, 700)}
          onBlur={stop}
          onClick={() => add(treatment)}
          sx={{
            display: 'block',
            position: 'relative',
            borderRadius: 1.5,
            overflow: 'hidden',
            bgcolor: colors.panel,
            fontSize: 11.5,
            fontWeight: 500,
            textAlign: 'left',
            '&:hover': { bgcolor: colors.raised },
            '&.Mui-disabled': { opacity: 0.45 },
          }}
        >
          <Treated picture={tried[treatment.id]} />
          <Box
            sx={{
              position: 'absolute',
              inset: 'auto 0 0 0',
              px: 0.75,
              pt: 1.25,
              pb: 0.125,
              background: 'linear-gradient(transparent, rgba(10,10,10,0.8) 55%)',
            }}
          >
            {treatment.name}
          </Box>
        </ButtonBase>
      ))}
    </Box>
  );
}

function Treated({ picture }: { readonly picture: ImageBitmap | undefined }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    // One that was closed for a newer one has no size any more.
    if (!context || !picture || picture.width === 0) return;
    const { width, height } = context.canvas;
    const by = Math.max(width / picture.width, height / picture.height);
    const [w, h] = [picture.width * by, picture.height * by];
    context.drawImage(picture, (width - w) / 2, (height - h) / 2, w, h);
  }, [picture]);
  return (
    <canvas
      ref={canvas}
      {...PICTURE}
      aria-hidden="true"
      // All of them are seen at once on a small screen.
      style={{
        width: '100%',
        aspectRatio: '16 / 9',
        objectFit: 'cover',
        background: colors.raised,
        display: 'block',
      }}
    />
  );
}
