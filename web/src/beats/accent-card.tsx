import { Box } from '@mui/material';
import { type AccentKey, changedAccent, isAccent, removedAccent } from '@skipback/core/beats/accent-edits';
import type { Band } from '@skipback/core/beats/grid';
import { ACCENT_WORDS } from '@skipback/core/places/words';
import type { Song } from '@skipback/core/project/schema';
import { changeAccents } from '@skipback/core/project/song-actions';
import { parseAmount } from '@skipback/core/time/amount';
import { ChoiceRow } from '../parts/choice-row';
import { Line } from '../parts/line';
import { ValueField } from '../parts/value-field';
import { setBeatsView } from '../state/beats-view';
import { useSaying } from '../notices';
import { act } from '../state/project-store';
import { colors } from '../theme';
import { Small } from '../parts/small-button';
import { Card } from './card';

const BANDS = (['low', 'mid', 'high'] as const).map((value) => ({ value, label: ACCENT_WORDS[value] }));

/** The chosen accent: whose it is, how strong, which of its band. */
export function AccentCard({ song, chosen }: { readonly song: Song; readonly chosen: AccentKey | null }) {
  const say = useSaying();
  const accent = song.accents.find((a) => isAccent(a, chosen));
  if (!accent)
    return (
      <Card title="Accents">
        <Box sx={{ color: colors.quiet, fontSize: 12.5 }}>
          Click one to choose it, drag it up or down for its strength, double-click to add one. What is
          changed by hand stays when beats are found again.
        </Box>
      </Card>
    );
  const nth = song.accents.filter((a) => a.band === accent.band && a.at <= accent.at).length;
  const set = (change: { strength?: number; band?: Band }) => {
    if (changedAccent(song, accent, change).accents === song.accents)
      return void (change.band && say('They have an accent here already.'));
    act('change an accent', (p) => changeAccents(p, (s) => changedAccent(s, accent, change)));
    if (change.band) setBeatsView({ accent: { at: accent.at, band: change.band } });
    return undefined;
  };
  return (
    <Card title={`Accent: ${ACCENT_WORDS[accent.band]} ${nth}, ${accent.at.toFixed(2)} s`}>
      <ChoiceRow<Band>
        label="Given to"
        value={accent.band}
        options={BANDS}
        onChange={(band) => set({ band })}
      />
      <Line label="Strength">
        <ValueField
          label="Accent: strength"
          text={`${Math.round(accent.strength * 100)} %`}
          width={72}
          hint="100 is a strong one of its band"
          onEnter={(typed) => {
            const n = parseAmount(typed, { unit: '%', least: 0, most: 1000 });
            if (typeof n === 'string') return n;
            set({ strength: n / 100 });
            return true;
          }}
          onStep={(by) => set({ strength: Math.min(10, Math.max(0, accent.strength + by * 0.05)) })}
        />
      </Line>
      <Small
        onPress={() => {
          act('remove an accent', (p) => changeAccents(p, (s) => removedAccent(s, accent)));
          setBeatsView({ accent: null });
        }}
      >
        Remove it
      </Small>
    </Card>
  );
}
