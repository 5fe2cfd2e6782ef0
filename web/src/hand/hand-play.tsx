import { parseAmount } from '@skipback/core/time/amount';
import { Box, Button, Switch } from '@mui/material';
import { meanRateHz } from '@skipback/core/clip/frame-table';
import type { WheelSends } from '@skipback/core/edit/wheel';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { type PointerEvent, type ReactNode, useRef, useState } from 'react';
import { ChoiceField } from '../parts/choice-field';
import { ValueField } from '../parts/value-field';
import type { LoadedClip } from '../state/library';
import { colors } from '../theme';
import { useArrowWheel } from './use-arrow-wheel';
import { type MidiWheel, useMidiWheel } from './use-midi-wheel';
import { useRecording } from './use-recording';
import { Wheel } from './wheel';

interface Props {
  readonly piece: CompiledPiece;
  readonly pieceStart: number;
  /** The piece's clip, for its sound. */
  readonly clip: LoadedClip | undefined;
  readonly gainDb: number;
  onClose(): void;
}

/** Pixels of a drag, and degrees of the wheel, for one frame of the clip. */
const PIXELS_A_FRAME = 5;
const DEGREES_A_FRAME = 6;

/**
 * The source under the hand: drag on the picture or on the wheel, turn it with the arrows or a MIDI control, while
 * the song runs.
 */
export function HandPlay({ piece, pieceStart, clip, gainDb, onClose }: Props) {
  const [tidy, setTidy] = useState(true);
  const [heard, setHeard] = useState(true);
  const hand = useRecording(piece, pieceStart, clip, { tidy, heard, gainDb });
  const midi = useMidiWheel(hand);
  useArrowWheel(hand, onClose);
  const pointer = useRef<number | null>(null);
  const onDown = (event: PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    pointer.current = event.clientX;
    hand.begin();
  };
  const onMove = (event: PointerEvent) => {
    if (pointer.current === null || !hand.live) return;
    hand.turn((event.clientX - pointer.current) / PIXELS_A_FRAME, event.timeStamp);
    pointer.current = event.clientX;
  };
  const onUp = () => {
    if (pointer.current !== null) hand.finish();
    pointer.current = null;
  };
  const hands = { onPointerDown: onDown, onPointerMove: onMove, onPointerUp: onUp, onPointerCancel: onUp };
  const aSecond = Math.round(meanRateHz(piece.table) * PIXELS_A_FRAME);
  const title = `Drag sideways: ${PIXELS_A_FRAME} pixels are a frame, ${aSecond} a second`;
  return (
    <>
      <Box
        {...hands}
        data-testid="hand-picture"
        title={title}
        sx={{ position: 'absolute', inset: 0, cursor: hand.live ? 'grabbing' : 'grab', touchAction: 'none' }}
      />
      <Box
        role="group"
        aria-label="Play by hand"
        sx={{
          position: 'absolute',
          left: '50%',
          bottom: 12,
          maxWidth: 'calc(100% - 8px)',
          width: 'max-content',
          transform: 'translateX(-50%)',
          display: 'flex',
          alignItems: 'center',
          gap: 2,
          px: 2,
          py: 1.25,
          borderRadius: 3,
          bgcolor: 'rgba(18,18,18,0.92)',
          boxShadow: hand.live ? `0 0 0 2px ${colors.attention}` : 'none',
        }}
      >
        <Wheel
          angle={hand.turned * DEGREES_A_FRAME}
          frames={Math.round(hand.turned)}
          hands={hands}
          title={title}
        />
        <Box sx={{ flex: '0 1 372px', minWidth: 0, fontSize: 13, lineHeight: 1.45 }}>
          <Box sx={{ fontWeight: 600 }}>
            {hand.live ? 'Recording: let go to keep it' : 'Drag the picture or the wheel, or hold ← and →'}
          </Box>
          <Box sx={{ color: colors.quiet }}>It goes into the curve at the playhead while the song runs.</Box>
          <Box sx={{ display: 'flex', columnGap: 2, flexWrap: 'wrap', ml: -1 }}>
            <Option label="Turns on half beats" name="Tidy to the beat" on={tidy} onChange={setTidy} />
            <Option
              label={hand.sound === 'record' ? 'Sound of a record' : 'Sound of the clip'}
              name="Sound under the hand"
              on={heard}
              onChange={setHeard}
            />
          </Box>
          {midi.state !== 'none' && <MidiLine midi={midi} />}
        </Box>
        <Button size="small" color="inherit" onClick={onClose}>
          Done
        </Button>
      </Box>
    </>
  );
}

function Option({
  label,
  name,
  on,
  onChange,
}: {
  readonly label: ReactNode;
  readonly name: string;
  readonly on: boolean;
  onChange(on: boolean): void;
}) {
  return (
    <Box component="label" sx={{ display: 'flex', alignItems: 'center', color: colors.quiet }}>
      <Switch
        size="small"
        checked={on}
        slotProps={{ input: { 'aria-label': name } }}
        onChange={(_, next) => onChange(next)}
      />
      {label}
    </Box>
  );
}

const SENDS: readonly { value: WheelSends; label: string }[] = [
  { value: 'around-0', label: 'steps around 0' },
  { value: 'around-64', label: 'steps around 64' },
  { value: 'position', label: 'its position' },
];

function MidiLine({ midi }: { readonly midi: MidiWheel }) {
  return (
    <Box sx={{ color: colors.quiet, display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap' }}>
      <Box data-testid="midi">{midi.words}</Box>
      {(midi.state === 'off' || midi.state === 'failed') && (
        <Button size="small" color="inherit" onClick={midi.connect} sx={{ py: 0, minWidth: 0 }}>
          Connect
        </Button>
      )}
      {midi.state === 'on' && (
        <>
          <ChoiceField
            label="MIDI control sends"
            value={midi.sends}
            options={SENDS}
            onChange={(value) => midi.setSends(value as WheelSends)}
          />
          <ValueField
            label="Frames a step"
            text={`${midi.framesAStep} f`}
            width={48}
            hint="Frames of the clip for one step of the control"
            onEnter={(typed) => {
              const n = parseAmount(typed, { unit: 'f', least: 0.01, most: 100 });
              if (typeof n === 'string') return n;
              midi.setFramesAStep(n);
              return true;
            }}
          />
        </>
      )}
    </Box>
  );
}
