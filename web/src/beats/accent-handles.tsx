import { Box } from '@mui/material';
import { type AccentKey, changedAccent, isAccent } from '@skipback/core/beats/accent-edits';
import type { Accent, Band } from '@skipback/core/beats/grid';
import { ACCENT_WORDS } from '@skipback/core/places/words';
import type { Song } from '@skipback/core/project/schema';
import { changeAccents } from '@skipback/core/project/song-actions';
import { setBeatsView } from '../state/beats-view';
import { act } from '../state/project-store';
import { colors } from '../theme';
import type { Scale } from '../weave/scales';
import { useEditDrag } from '../weave/use-edit-drag';
import { type BeatsLayout, accentHeight } from './draw-beats';

/** Pixels that accents of a band must be apart to be taken hold of, and the width of a handle. */
const APART = 8;
const WIDTH = 12;

/** The accents of a band that are far enough apart in sight; the chosen one always. */
function inHand(song: Song, band: Band, x: Scale, width: number, chosen: AccentKey | null): Accent[] {
  const kept = song.accents.find((a) => isAccent(a, chosen));
  let last = -Infinity;
  return song.accents.filter((a) => {
    if (a.band !== band) return false;
    if (a === kept) return true;
    const px = x(a.at);
    if (px < -4 || px > width + 4 || px - last < APART) return false;
    if (kept?.band === band && Math.abs(px - x(kept.at)) < APART) return false;
    last = px;
    return true;
  });
}

/** The accents as they can be taken hold of: pressed to choose one, dragged up and down for its strength. */
export function AccentHandles({
  song,
  layout,
  x,
  chosen,
}: {
  readonly song: Song;
  readonly layout: BeatsLayout;
  readonly x: Scale;
  readonly chosen: AccentKey | null;
}) {
  const drag = useEditDrag<Accent, { key: AccentKey; was: number; row: number }>({
    begin: (accent) => {
      setBeatsView({ accent: { at: accent.at, band: accent.band }, chosen: null });
      const [, top, bottom] = layout.bands.find(([band]) => band === accent.band)!;
      return { key: accent, was: Math.min(1, accent.strength), row: bottom - top };
    },
    move: ({ key, was, row }, { dy }) => {
      if (Math.abs(dy) < 2) return;
      const strength = Number(Math.min(1, Math.max(0.02, was - dy / (row - 4))).toFixed(2));
      act('change an accent', (p) => changeAccents(p, (s) => changedAccent(s, key, { strength })));
    },
  });
  return layout.bands.flatMap(([band, top, bottom]) =>
    inHand(song, band, x, layout.width, chosen).map((accent) => {
      const mine = isAccent(accent, chosen);
      const high = accentHeight(accent.strength, bottom - top);
      return (
        <Box
          key={`${band} ${accent.at}`}
          {...drag(accent)}
          role="slider"
          tabIndex={mine ? 0 : -1}
          aria-label={`${ACCENT_WORDS[band]} at ${accent.at.toFixed(2)} s`}
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(accent.strength * 100)}
          data-testid="accent"
          title="Drag up or down to make it stronger or weaker; Delete removes it"
          style={{ touchAction: 'none', left: x(accent.at) - WIDTH / 2, top: bottom - 2 - high - 6 }}
          sx={{
            position: 'absolute',
            width: WIDTH,
            height: high + 8,
            cursor: 'ns-resize',
            '&::after': {
              content: '""',
              position: 'absolute',
              left: 1,
              top: 1,
              width: 8,
              height: 8,
              boxSizing: 'border-box',
              borderRadius: '50%',
              border: `2px solid ${mine ? colors.attention : accent.hand ? colors.ink : 'transparent'}`,
            },
            '&:hover::after': { borderColor: colors.ink },
          }}
        />
      );
    }),
  );
}
