import { useFirst } from '../../state/counting';
import { Sheet } from '../../parts/sheet';
import { timeAt } from '../../state/time-at';
import { parseAmount, parseLength } from '@skipback/core/time/amount';
import { Box, Button } from '@mui/material';
import type { OwnSound, Placed, Project } from '@skipback/core/project/schema';
import {
  movePlaced,
  ownSounds,
  placedAt,
  placedName,
  removePlaced,
  setPlaced,
  setPlacedSource,
  setPlacedWith,
} from '@skipback/core/project/sound-actions';
import { MADE_KINDS, MADE_WORDS, type MadeKind } from '@skipback/core/sound/made/kinds';
import { ChoiceField } from '../../parts/choice-field';
import { ChoiceRow } from '../../parts/choice-row';
import { LevelField } from '../../parts/level-field';
import { ValueField } from '../../parts/value-field';
import { Line } from '../../parts/line';
import { useOwnSound } from '../../state/own-sounds';
import { act } from '../../state/project-store';
import { colors } from '../../theme';

const shortened = (name: string) => (name.length > 26 ? `${name.slice(0, 24)}…` : name);

interface Props {
  readonly project: Project;
  readonly sound: Placed;
  readonly anchor: HTMLElement;
  onClose(): void;
}

/** The values of a sound placed by hand, beside it. */
export function PlacedValues({ project, sound, anchor, onClose }: Props) {
  const name = placedName(sound);
  const owns = ownSounds(project);
  const setOwn = (words: string, values: Partial<OwnSound>) =>
    sound.kind === 'own' &&
    act(words, (p) => setPlacedSource(p, sound.id, { kind: 'own', own: { ...sound.own, ...values } }));
  const at = placedAt(project, sound);
  const set = (words: string, values: Parameters<typeof setPlaced>[2]) =>
    act(words, (p) => setPlaced(p, sound.id, values));
  const first = useFirst();
  const frames = (label: string, value: number, least: number, take: (n: number) => void, called = 0) => (
    <ValueField
      label={label}
      text={`${value + called} f`}
      width={84}
      onEnter={(typed) => {
        // A number is a frame as it is called; a time is a time.
        const by = /^\s*\d+\s*f?\s*$/i.test(typed) ? called : 0;
        const n = parseLength(typed, project.rate, {
          ...{ least: least + by, most: 10_000_000, beat: timeAt().beat },
        });
        if (typeof n === 'string') return n;
        take(n - by);
        return true;
      }}
      onStep={(by) => take(Math.max(least, value + by))}
    />
  );
  return (
    <Sheet anchor={anchor} name="Placed sound" place="atColumn" onClose={onClose}>
      <Box role="group" aria-label="Placed sound" sx={{ p: 1.5, width: 270 }}>
        <Line label="Sound">
          <ChoiceField
            label="Placed: sound"
            value={sound.kind === 'own' ? `own ${sound.own.mediaId}` : sound.kind}
            options={[
              ...MADE_KINDS.map((value) => ({ value: value as string, label: MADE_WORDS[value].name })),
              ...owns.map((own) => ({ value: `own ${own.mediaId}`, label: shortened(own.name) })),
            ]}
            onChange={(chosen) => {
              const own = owns.find((o) => `own ${o.mediaId}` === chosen);
              act('change a placed sound', (p) =>
                setPlacedSource(
                  p,
                  sound.id,
                  own
                    ? { kind: 'own', own: { ...own, fromS: 0, backward: false } }
                    : { kind: chosen as MadeKind },
                ),
              );
            }}
          />
        </Line>
        <Line label="Begins at">
          {frames(
            'Placed: begins at',
            at,
            0,
            (n) => act(`move the ${name}`, (p) => movePlaced(p, sound.id, n)),
            first,
          )}
        </Line>
        <Line label="Length">
          {frames('Placed: length', sound.frames, 1, (n) =>
            set(`change the length of the ${name}`, { frames: n }),
          )}
        </Line>
        {sound.kind === 'own' && (
          <>
            <Line label="From its second">
              <ValueField
                label="Placed: from its second"
                text={`${Number(sound.own.fromS.toFixed(2))} s`}
                width={84}
                onEnter={(typed) => {
                  const fromS = parseAmount(typed, {
                    unit: 's',
                    at: timeAt(),
                    least: 0,
                    most: sound.own.lengthS - 0.01,
                  });
                  if (typeof fromS === 'string') return fromS;
                  setOwn(`change where ${name} begins`, { fromS });
                  return true;
                }}
                fine
                onStep={(by) =>
                  setOwn(`change where ${name} begins`, {
                    fromS: Math.min(sound.own.lengthS - 0.01, Math.max(0, sound.own.fromS + by * 0.1)),
                  })
                }
              />
            </Line>
            <Line label="Plays">
              <ChoiceRow
                label="Placed: plays"
                value={sound.own.backward ? 'backward' : 'forward'}
                options={[
                  { value: 'forward', label: 'forward' },
                  { value: 'backward', label: 'backward' },
                ]}
                onChange={(way) => setOwn(`play ${name} ${way}`, { backward: way === 'backward' })}
              />
            </Line>
            <OwnGone own={sound.own} />
          </>
        )}
        <Line label="Level">
          <LevelField
            label="Placed: level"
            db={sound.gainDb}
            onChange={(gainDb) => set('change the level', { gainDb })}
          />
        </Line>
        {project.song && (
          <Line label="Stays with">
            <ChoiceField
              label="Placed: stays with"
              value={sound.with}
              hint="What it goes along with when the song is slid"
              options={[
                { value: 'song', label: 'the song' },
                { value: 'result', label: 'the picture' },
              ]}
              onChange={(next) =>
                act(`change what the ${name} stays with`, (p) =>
                  setPlacedWith(p, sound.id, next as Placed['with']),
                )
              }
            />
          </Line>
        )}
        <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
          <Button
            size="small"
            color="inherit"
            variant="outlined"
            onClick={() => set(`${name} ${sound.on ? 'off' : 'on'}`, { on: !sound.on })}
          >
            {sound.on ? 'Switch off' : 'Switch on'}
          </Button>
          <Button
            size="small"
            color="inherit"
            variant="outlined"
            onClick={() => {
              onClose();
              act(`remove the ${name}`, (p) => removePlaced(p, sound.id));
            }}
          >
            Remove
          </Button>
        </Box>
      </Box>
    </Sheet>
  );
}

/** Said where the file of a sound is not kept here any more. */
function OwnGone({ own }: { readonly own: OwnSound }) {
  if (useOwnSound(own) !== null) return null;
  return (
    <Box role="alert" sx={{ color: colors.attention, fontSize: 12.5 }}>
      {own.name} is not in this browser any more, so it is silent. Import it again under Sound.
    </Box>
  );
}
