import { Box } from '@mui/material';
import { setReadAt } from '@skipback/core/project/actions';
import type { Clip } from '@skipback/core/project/schema';
import { STANDARD_RATES, rateText } from '@skipback/core/time/rational';
import { ChoiceField } from '../parts/choice-field';
import { act } from '../state/project-store';
import { mono } from '../theme';

const RATES = STANDARD_RATES.filter((r) => r.num / r.den <= 60);

/** At which rate a clip is read: 120 frames a second read at 30 play four times slower, every frame once. */
export function ReadAt({ clip }: { readonly clip: Clip }) {
  const options = [
    { value: 'own', label: 'its own rate' },
    ...RATES.map((r) => ({ value: rateText(r), label: `${rateText(r)} frames/s` })),
  ];
  return (
    <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', mt: 0.5 }}>
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
    </Box>
  );
}
