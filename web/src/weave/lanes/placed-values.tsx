import { Box, Button, Popover } from '@mui/material';
import type { Placed, Project } from '@skipback/core/project/schema';
import {
  movePlaced,
  placedAt,
  removePlaced,
  setPlaced,
  setPlacedWith,
} from '@skipback/core/project/sound-actions';
import { MADE_KINDS, MADE_WORDS, type MadeKind } from '@skipback/core/sound/made/kinds';
import { parseFrames } from '@skipback/core/time/entry';
import { ChoiceField } from '../../parts/choice-field';
import { LevelField } from '../../parts/level-field';
import { ValueField } from '../../parts/value-field';
import { Line } from '../../parts/line';
import { act } from '../../state/project-store';

interface Props {
  readonly project: Project;
  readonly sound: Placed;
  readonly anchor: HTMLElement;
  onClose(): void;
}

/** The values of a sound placed by hand, beside it. */
export function PlacedValues({ project, sound, anchor, onClose }: Props) {
  const { name } = MADE_WORDS[sound.kind];
  const at = placedAt(project, sound);
  const set = (words: string, values: Parameters<typeof setPlaced>[2]) =>
    act(words, (p) => setPlaced(p, sound.id, values));
  const frames = (label: string, value: number, least: number, take: (n: number) => void) => (
    <ValueField
      label={label}
      text={`${value} f`}
      width={84}
      onEnter={(typed) => {
        const n = parseFrames(typed, project.rate);
        if (n === undefined || n < least) return false;
        take(n);
        return true;
      }}
      onStep={(by) => take(Math.max(least, value + by))}
    />
  );
  return (
    <Popover
      open
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
      transformOrigin={{ vertical: 'bottom', horizontal: 'left' }}
    >
      <Box role="group" aria-label="Placed sound" sx={{ p: 1.5, width: 270 }}>
        <Line label="Sound">
          <ChoiceField
            label="Placed: sound"
            value={sound.kind}
            options={MADE_KINDS.map((value) => ({ value, label: MADE_WORDS[value].name }))}
            onChange={(kind) => set('change a placed sound', { kind: kind as MadeKind })}
          />
        </Line>
        <Line label="Begins at">
          {frames('Placed: begins at', at, 0, (n) =>
            act(`move the ${name}`, (p) => movePlaced(p, sound.id, n)),
          )}
        </Line>
        <Line label="Length">
          {frames('Placed: length', sound.frames, 1, (n) =>
            set(`change the length of the ${name}`, { frames: n }),
          )}
        </Line>
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
              act(`take the ${name} away`, (p) => removePlaced(p, sound.id));
            }}
          >
            Take away
          </Button>
        </Box>
      </Box>
    </Popover>
  );
}
