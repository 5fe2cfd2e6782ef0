import { Box, Button, Switch } from '@mui/material';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { placeSound, setMade } from '@skipback/core/project/sound-actions';
import { MADE_KINDS, MADE_WORDS, type MadeKind } from '@skipback/core/sound/made/kinds';
import { toNumber } from '@skipback/core/time/rational';
import { useMemo } from 'react';
import { LevelField } from '../parts/level-field';
import { Line } from '../parts/line';
import { freshId } from '../state/ids';
import { usePlaying } from '../state/playing';
import { act } from '../state/project-store';
import { colors, mono } from '../theme';
import { outlineOf } from '../weave/lanes/draw-sounds';
import { soundsCalledFor } from '../weave/lanes/heard-sounds';

interface Props {
  readonly project: Project;
  readonly compiled: CompiledProject;
}

const capital = (words: string): string => words[0]!.toUpperCase() + words.slice(1);

/** The sounds made here: each kind as it comes from the path, and by hand at the playhead. */
export function MadeList({ project, compiled }: Props) {
  const counts = useMemo(() => {
    const all = soundsCalledFor(compiled, project);
    return new Map(MADE_KINDS.map((kind) => [kind, all.filter((s) => s.kind === kind).length]));
  }, [compiled, project]);
  const place = (kind: MadeKind) => {
    const frames = Math.max(1, Math.round(MADE_WORDS[kind].lengthS * toNumber(project.rate)));
    const { position } = usePlaying.getState();
    act(`place a ${MADE_WORDS[kind].name}`, (p) => placeSound(p, { id: freshId(), kind, frames }, position));
  };
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', mt: 1, mb: 0.25 }}>
        <Box sx={{ flex: 1, fontWeight: 600 }}>Made from the path</Box>
        <Box sx={{ color: colors.quiet, fontSize: 12.5 }}>or by hand</Box>
      </Box>
      {MADE_KINDS.map((kind) => {
        const { name, plural, when } = MADE_WORDS[kind];
        const { on, gainDb } = project.made[kind];
        const count = counts.get(kind) ?? 0;
        return (
          <Line
            key={kind}
            quiet={false}
            label={
              <Box component="span" title={`A ${name}: ${when}`}>
                <svg width="34" height="16" aria-hidden="true" style={{ verticalAlign: -3, marginRight: 8 }}>
                  <path d={outlineOf(kind, 0, 34, 1, 16)} fill={on ? colors.ink : colors.faint} />
                </svg>
                {capital(plural)}{' '}
                <Box component="span" sx={{ color: colors.quiet, fontFamily: mono, fontSize: 12 }}>
                  {count}
                </Box>
              </Box>
            }
          >
            {on && (
              <LevelField
                label={`${capital(plural)}: level`}
                db={gainDb}
                onChange={(db) => act('change the level', (p) => setMade(p, kind, { gainDb: db }))}
              />
            )}
            <Switch
              size="small"
              checked={on}
              slotProps={{ input: { 'aria-label': capital(plural) } }}
              onChange={(_, next) =>
                act(`${plural} ${next ? 'on' : 'off'}`, (p) => setMade(p, kind, { on: next }))
              }
            />
            <Button
              size="small"
              color="inherit"
              variant="outlined"
              aria-label={`Place a ${name} at the playhead`}
              title={`Places a ${name} at the playhead, in the lane under the result`}
              onClick={() => place(kind)}
              sx={{ minWidth: 0, px: 1, py: 0, borderColor: colors.line }}
            >
              Place
            </Button>
          </Line>
        );
      })}
    </>
  );
}
