import { setFraming, setReadAt } from '@skipback/core/project/actions';
import type { Clip, Framing } from '@skipback/core/project/schema';
import { STANDARD_RATES, rateText } from '@skipback/core/time/rational';
import { ChoiceField } from '../parts/choice-field';
import { Line } from '../parts/line';
import { act } from '../state/project-store';
import { FRAMING_WORDS } from './reading-words';

const RATES = STANDARD_RATES.filter((r) => r.num / r.den <= 60);

const FRAMINGS = (Object.keys(FRAMING_WORDS) as Framing[]).map((value) => ({
  value,
  label: FRAMING_WORDS[value],
}));

/** How a clip is taken into the project: at which rate it plays, and how its picture stands in the frame. */
export function ClipReading({ clip }: { readonly clip: Clip }) {
  const options = [
    { value: 'own', label: 'its own rate' },
    ...RATES.map((r) => ({ value: rateText(r), label: `${rateText(r)}/s` })),
  ];
  return (
    <>
      <Line label="Play clip at">
        <ChoiceField
          label="Play clip at"
          value={clip.readAt ? rateText(clip.readAt) : 'own'}
          options={options}
          hint="120 frames a second played at 30 are four times slower, every frame shown once."
          onChange={(value) => {
            const rate = RATES.find((r) => rateText(r) === value) ?? null;
            act(`play ${clip.name} at ${rate ? `${value}/s` : 'its own rate'}`, (p) =>
              setReadAt(p, clip.id, rate),
            );
          }}
        />
      </Line>
      <Line label="Framing">
        <ChoiceField
          label="Framing"
          value={clip.framing}
          options={FRAMINGS}
          hint="Show all of the picture, fill the frame without a border, or keep its pixels."
          onChange={(value) =>
            act(`${FRAMING_WORDS[value as Framing]}: ${clip.name}`, (p) =>
              setFraming(p, clip.id, value as Framing),
            )
          }
        />
      </Line>
    </>
  );
}
