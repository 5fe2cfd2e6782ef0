import { Box } from '@mui/material';
import { setFraming, setReadAt } from '@skipback/core/project/actions';
import type { Clip, Framing } from '@skipback/core/project/schema';
import { STANDARD_RATES, rateText } from '@skipback/core/time/rational';
import { ChoiceField } from '../parts/choice-field';
import { act } from '../state/project-store';
import { mono } from '../theme';

const RATES = STANDARD_RATES.filter((r) => r.num / r.den <= 60);

const FRAMINGS: readonly { value: Framing; label: string }[] = [
  { value: 'fit', label: 'fit' },
  { value: 'fill', label: 'fill' },
  { value: 'centre', label: 'centre' },
];

/** How a clip is taken into the project: at which rate it is read, and how its picture stands in the frame. */
export function ClipReading({ clip }: { readonly clip: Clip }) {
  const options = [
    { value: 'own', label: 'own rate' },
    ...RATES.map((r) => ({ value: rateText(r), label: `${rateText(r)}/s` })),
  ];
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75, mt: 0.5 }}>
      <Box sx={{ fontFamily: mono }}>read at</Box>
      <ChoiceField
        label="Read the clip at"
        value={clip.readAt ? rateText(clip.readAt) : 'own'}
        options={options}
        hint="120 frames a second read at 30 play four times slower, every frame once."
        onChange={(value) => {
          const rate = RATES.find((r) => rateText(r) === value) ?? null;
          act(`read ${clip.name} at ${rate ? value : 'its own rate'}`, (p) => setReadAt(p, clip.id, rate));
        }}
      />
      <Box sx={{ flex: 1 }} />
      <ChoiceField
        label="Picture in the frame"
        value={clip.framing}
        options={FRAMINGS}
        hint="Fit shows all of it, fill leaves no border, centre keeps its pixels."
        onChange={(value) => act(`${value} ${clip.name}`, (p) => setFraming(p, clip.id, value as Framing))}
      />
    </Box>
  );
}
