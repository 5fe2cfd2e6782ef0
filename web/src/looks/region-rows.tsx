import { parseAmount } from '@skipback/core/time/amount';
import { Box, Button, Switch } from '@mui/material';
import { frameCount } from '@skipback/core/clip/frame-table';
import type { Look } from '@skipback/core/looks/look';
import { type LookPlace, setLookRegion } from '@skipback/core/project/look-actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { type Region, carriesOf, moved } from '@skipback/core/regions/region';
import { regionOn } from '@skipback/core/regions/on-track';
import { Line } from '../parts/line';
import { ChoiceField } from '../parts/choice-field';
import { ValueField } from '../parts/value-field';
import { editOnPicture, useOnPicture } from '../state/on-picture';
import { chooseOn } from './track-for';
import { act, useProjectStore } from '../state/project-store';
import { frameOf, middleRegion } from './region-start';

type Shape = Region['shape'] | 'whole';

const SHAPES: readonly { value: Shape; label: string }[] = [
  { value: 'whole', label: 'the whole picture' },
  { value: 'ellipse', label: 'an ellipse' },
  { value: 'rectangle', label: 'a rectangle' },
  { value: 'polygon', label: 'a polygon' },
];

/** A region on a track, which it goes along with; without an id, on one that is made now. */
const ON = 'on ';

interface Props {
  readonly name: string;
  readonly where: LookPlace;
  readonly look: Look;
  /** The piece it is of; undefined for the whole result. */
  readonly piece: CompiledPiece | undefined;
  /** The result frame at which that begins. */
  readonly pieceStart: number;
}

/** Where in the picture a look applies. */
export function RegionRows({ name, where, look, piece, pieceStart }: Props) {
  const editing = useOnPicture((s) => s.editing);
  const project = useProjectStore((s) => s.project)!;
  const { region } = look;
  const set = (next: Region | null, words: string) =>
    act(words, (p) => setLookRegion(p, where, look.id, next));
  const clipId = project.pieces.find((p) => p.id === where)?.clipId;
  const tracks = project.clips.find((c) => c.id === clipId)?.tracks ?? [];
  const shows = editing?.kind === 'region' && editing.lookId === look.id;

  const choose = (chosen: string) => {
    const track = tracks.find((t) => `${ON}${t.id}` === chosen);
    if (track && piece) {
      set(
        regionOn(track, frameOf(piece, pieceStart), piece.sizes?.picture.height ?? project.size.height),
        `${name} on ${track.name}`,
      );
      return editOnPicture({ kind: 'region', where, lookId: look.id });
    }
    // What is tracked next carries it.
    if (chosen === ON && piece && clipId)
      return chooseOn({ clipId, where, lookId: look.id, frame: frameOf(piece, pieceStart) });
    const shape = chosen as Shape;
    if (shape === 'whole') {
      set(null, `${name} in the whole picture`);
      return editOnPicture(null);
    }
    if (shape === 'polygon') return editOnPicture({ kind: 'new-polygon', where, lookId: look.id });
    const fresh = middleRegion(shape, { piece, pieceStart, where });
    const kept = region && region.shape !== 'polygon' ? region.keys : fresh.keys;
    set(
      { ...(region ?? fresh), shape, keys: kept },
      `${name} in ${shape === 'ellipse' ? 'an ellipse' : 'a rectangle'}`,
    );
    editOnPicture({ kind: 'region', where, lookId: look.id });
  };
  /** By another track, or none, without leaving the place it has now. */
  const carry = (of: CompiledPiece, track: string) => {
    const frame = frameOf(of, pieceStart);
    const carried = carriesOf(region!, of.clip.tracks, frameCount(of.table))?.(frame);
    const keys = carried
      ? region!.keys.map((k) => ({ ...k, values: moved(region!.shape, k.values, carried) }))
      : region!.keys;
    set(
      { ...region!, keys, carried: track === '' ? null : { track, from: frame, turns: true } },
      track === '' ? `${name} carried by nothing` : `${name} carried by a track`,
    );
  };
  const pixels = (label: string, key: 'feather' | 'grow', hint: string, min: number) => (
    <Line label={label}>
      <ValueField
        label={`${name}: ${label}`}
        text={`${Number(region![key].toFixed(1))} px`}
        hint={hint}
        width={74}
        onEnter={(typed) => {
          const n = parseAmount(typed, { unit: 'px', least: min, most: 4000 });
          if (typeof n === 'string') return n;
          set({ ...region!, [key]: n }, `${name}, ${label.toLowerCase()}`);
          return true;
        }}
        onStep={(by) =>
          set(
            { ...region!, [key]: Math.min(4000, Math.max(min, region![key] + by)) },
            `${name}, ${label.toLowerCase()}`,
          )
        }
      />
    </Line>
  );
  return (
    <>
      <Line label="Region">
        <ChoiceField
          label={`${name}: region`}
          value={region?.shape ?? 'whole'}
          options={[
            ...SHAPES,
            ...(piece ? tracks.map((t) => ({ value: `${ON}${t.id}`, label: `on ${t.name}` })) : []),
            ...(piece ? [{ value: ON, label: 'on what I track now …' }] : []),
          ]}
          hint="Where in the picture it applies. It is edited on the picture."
          onChange={choose}
        />
      </Line>
      {region && (
        <Box sx={{ pl: 1 }}>
          <Line label="">
            <Button
              size="small"
              color="inherit"
              aria-pressed={shows}
              onClick={() => editOnPicture(shows ? null : { kind: 'region', where, lookId: look.id })}
            >
              {shows ? 'Leave the picture' : 'Edit on the picture'}
            </Button>
          </Line>
          {pixels('Feather', 'feather', 'How softly it ends', 0)}
          {pixels('Grow', 'grow', 'Its edge moved out; negative moves it in', -4000)}
          <Line label="Invert the region">
            <Switch
              size="small"
              checked={region.inverted}
              slotProps={{ input: { 'aria-label': `${name}: invert the region` } }}
              onChange={(_, inverted) =>
                set({ ...region, inverted }, `${name}, ${inverted ? 'outside' : 'inside'}`)
              }
            />
          </Line>
          {where !== null && (
            <Line label="Attach to track">
              <ChoiceField
                label={`${name}: attach to track`}
                value={region.carried?.track ?? ''}
                options={[
                  { value: '', label: 'nothing' },
                  ...tracks.map((t) => ({ value: t.id, label: t.name })),
                  ...(region.carried && !tracks.some((t) => t.id === region.carried?.track)
                    ? [{ value: region.carried.track, label: 'a track that is gone' }]
                    : []),
                ]}
                hint="A track of the clip carries it: where it is now it lies on the track, and goes along."
                onChange={(track) => piece && carry(piece, track)}
              />
            </Line>
          )}
          {region.carried && (
            <Line label="Also rotate and scale">
              <Switch
                size="small"
                checked={region.carried.turns}
                slotProps={{ input: { 'aria-label': `${name}: also rotate and scale` } }}
                onChange={(_, turns) =>
                  set(
                    { ...region, carried: { ...region.carried!, turns } },
                    `${name}, ${turns ? 'turns' : 'moves'}`,
                  )
                }
              />
            </Line>
          )}
        </Box>
      )}
    </>
  );
}
