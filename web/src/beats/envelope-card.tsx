import { timeAt } from '../state/time-at';
import { parseAmount } from '@skipback/core/time/amount';
import type { Envelope } from '@skipback/core/beats/envelope';
import type { Band } from '@skipback/core/beats/grid';
import type { Song } from '@skipback/core/project/schema';
import { setEnvelope } from '@skipback/core/project/song-actions';
import { useState } from 'react';
import { EnvelopeShape } from '../charts/lazy';
import { ChoiceRow } from '../parts/choice-row';
import { Line } from '../parts/line';
import { ValueField } from '../parts/value-field';
import { act } from '../state/project-store';
import { Card } from './card';

const BANDS: readonly { readonly value: Band; readonly label: string }[] = (
  ['low', 'mid', 'high'] as const
).map((value) => ({ value, label: value }));

const FIELDS: readonly {
  readonly key: keyof Envelope;
  readonly label: string;
  readonly unit: 'ms' | '%';
  readonly least: number;
  readonly most: number;
  readonly hint: string;
}[] = [
  {
    key: 'riseMs',
    label: 'Rises over',
    unit: 'ms',
    least: 0,
    most: 5000,
    hint: 'Before the accent: it is at its top when the accent sounds',
  },
  { key: 'holdMs', label: 'Holds', unit: 'ms', least: 0, most: 5000, hint: 'At its top, after the accent' },
  { key: 'fallMs', label: 'Falls over', unit: 'ms', least: 1, most: 10_000, hint: 'Until it is over' },
  {
    key: 'leastPercent',
    label: 'Accents from',
    unit: '%',
    least: 0,
    most: 100,
    hint: 'Weaker accents do nothing; 100 is a strong one of its band',
  },
];

/** The shape that accents of each band are given, for moves that follow it. */
export function EnvelopeCard({ song }: { readonly song: Song }) {
  const [band, setBand] = useState<Band>('low');
  const envelope = song.envelopes[band];
  return (
    <Card title="Envelope">
      <ChoiceRow<Band> label="Band of the envelope" value={band} options={BANDS} onChange={setBand} />
      <EnvelopeShape envelope={envelope} name={`Accents of ${band}`} />
      {FIELDS.map(({ key, label, unit, least, most, hint }) => {
        const set = (value: number) =>
          act(`change the ${band} envelope`, (p) => setEnvelope(p, band, { [key]: value }));
        return (
          <Line key={key} label={label}>
            <ValueField
              label={`Envelope: ${label.toLowerCase()}`}
              text={`${envelope[key]} ${unit}`}
              width={72}
              hint={hint}
              onEnter={(typed) => {
                const n = parseAmount(typed, {
                  unit,
                  least,
                  most,
                  at: timeAt(),
                });
                if (typeof n === 'string') return n;
                set(n);
                return true;
              }}
              onStep={(by) =>
                set(Math.min(most, Math.max(least, envelope[key] + by * (unit === 'ms' ? 10 : 5))))
              }
            />
          </Line>
        );
      })}
    </Card>
  );
}
