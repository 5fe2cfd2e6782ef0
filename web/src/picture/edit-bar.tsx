import { frame } from '@skipback/core/time/units';
import { Box, Button } from '@mui/material';
import type { Look } from '@skipback/core/looks/look';
import { treatmentById } from '@skipback/core/looks/registry';
import { setLookRegion } from '@skipback/core/project/look-actions';
import { removeTrackKey } from '@skipback/core/project/track-actions';
import type { Project } from '@skipback/core/project/schema';
import { numbersAt } from '@skipback/core/regions/region';
import { type Track, placeAt } from '@skipback/core/tracks/track';
import type { ReactNode } from 'react';
import { follow, stopFollowing } from '../state/following';
import { type Editing, editOnPicture, useOnPicture } from '../state/on-picture';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors, mono } from '../theme';
import { placingOf } from './placing-hands';
import type { RegionGround } from './region-ground';
import type { Say } from './say';
import type { Seen } from './seen';

interface Props {
  readonly project: Project;
  readonly editing: Editing;
  readonly seen: Seen | undefined;
  readonly track: Track | undefined;
  readonly look: Look | undefined;
  readonly ground: RegionGround | undefined;
  readonly say: Say;
}

const CHOOSE = {
  point: 'Click the place to track, or arrows and Enter',
  points: 'Click two places to track',
  box: 'Drag a box around what is to be tracked',
} as const;

/** Says what is edited on the picture, how it stands at this frame, and what can be done with it. */
export function EditBar({ project, editing, seen, track, look, ground, say }: Props) {
  const underWay = useOnPicture((s) => s.underWay);
  if (editing.kind === 'new-track')
    return (
      <Bar>
        {seen ? (
          <Words>{CHOOSE[editing.trackKind]}</Words>
        ) : (
          <Elsewhere project={project} clipId={editing.clipId} />
        )}
        <Done words="Leave" />
      </Bar>
    );
  if (editing.kind === 'new-polygon')
    return (
      <Bar>
        <Words>Click its corners; the first one again, or Enter, closes it</Words>
        <Done words="Leave" />
      </Bar>
    );
  if (editing.kind === 'placing' && look) {
    const { numbers, driven } = placingOf(look);
    return (
      <Bar>
        <Words strong>{treatmentById(look.look)?.name ?? look.look}, where it lies</Words>
        <Box sx={{ fontFamily: mono, color: colors.quiet }}>
          {Number(numbers.x.toFixed(1))}, {Number(numbers.y.toFixed(1))} px
        </Box>
        {driven.length > 0 && <Words>{driven.join(' and ')}: moved by what drives it</Words>}
        <Done />
      </Bar>
    );
  }
  if (editing.kind === 'track' && track) {
    if (!seen)
      return (
        <Bar>
          <Words strong>{track.name}</Words>
          <Elsewhere project={project} clipId={editing.clipId} />
          <Done />
        </Bar>
      );
    const { frame, loaded } = seen;
    const key = track.keys.some((k) => k.frame === frame);
    const place = placeAt(track, frame);
    if (underWay?.trackId === track.id)
      return (
        <Bar>
          <Words strong>{track.name}</Words>
          <Words>
            tracking, {underWay.done} of {underWay.total || '…'}
          </Words>
          <Button size="small" color="inherit" onClick={stopFollowing}>
            Stop
          </Button>
        </Bar>
      );
    const followed = place && !key && track.runs.length > 0;
    return (
      <Bar>
        <Words strong>{track.name}</Words>
        <Box sx={{ fontFamily: mono, color: place ? colors.quiet : colors.attention }}>
          {frame}: {key ? 'by hand' : followed ? `sure ${place.sure} %` : place ? 'between keys' : 'lost'}
        </Box>
        {key ? (
          <>
            <Button size="small" color="inherit" onClick={() => follow(loaded, track, frame, say)}>
              Track from here
            </Button>
            {track.keys.length > 1 && (
              <Button
                size="small"
                color="inherit"
                onClick={() =>
                  act(`remove a keyframe of ${track.name}`, (p) =>
                    removeTrackKey(p, loaded.clip.id, track.id, frame),
                  )
                }
              >
                remove the key
              </Button>
            )}
          </>
        ) : (
          <Words>{place ? 'drag to correct' : 'drag it to where it is'}</Words>
        )}
        <Done />
      </Bar>
    );
  }
  if (editing.kind !== 'region' || !look?.region) return null;
  const { region } = look;
  const name = treatmentById(look.look)?.name ?? look.look;
  const keyed = region.keys.length > 1;
  const here = ground && region.keys.some((k) => k.at === ground.frame);
  return (
    <Bar>
      <Words strong>Region of {name}</Words>
      {!ground ? (
        <Words>{region.carried ? 'its track is lost here' : 'is not in what is seen'}</Words>
      ) : (
        <>
          {keyed && (
            <Box sx={{ fontFamily: mono, color: colors.quiet }}>
              {ground.frame}: {here ? 'a key' : 'between keys'}
            </Box>
          )}
          <Button
            size="small"
            color="inherit"
            title="Its shape at this frame becomes a key: between keys it goes from one to the other"
            onClick={() =>
              act('key a region', (p) => {
                const values = [...numbersAt(region, ground.frame)];
                const at = ground.frame;
                // The first key is the shape it had: it gets a frame of its own.
                const others = region.keys.filter((k) => k.at !== at);
                const keys = [...others, { at, ease: 'even' as const, values }].sort((a, b) => a.at - b.at);
                return setLookRegion(p, editing.where, editing.lookId, { ...region, keys });
              })
            }
            disabled={here === true && keyed}
          >
            Key here
          </Button>
          {keyed && here && (
            <Button
              size="small"
              color="inherit"
              onClick={() =>
                act('remove a key of a region', (p) =>
                  setLookRegion(p, editing.where, editing.lookId, {
                    ...region,
                    keys: region.keys.filter((k) => k.at !== ground.frame),
                  }),
                )
              }
            >
              remove the key
            </Button>
          )}
        </>
      )}
      <Done />
    </Bar>
  );
}

function Bar({ children }: { readonly children: ReactNode }) {
  return (
    <Box
      role="group"
      aria-label="Edited on the picture"
      sx={{
        pointerEvents: 'auto',
        position: 'absolute',
        top: 8,
        left: '50%',
        transform: 'translateX(-50%)',
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        px: 1.25,
        py: 0.25,
        maxWidth: 'calc(100% - 16px)',
        borderRadius: 2,
        bgcolor: 'rgba(18,18,18,0.88)',
        fontSize: 13,
        whiteSpace: 'nowrap',
        '& .MuiButton-root': { minWidth: 0, py: 0.1, px: 0.75 },
      }}
    >
      {children}
    </Box>
  );
}

const Words = ({ children, strong = false }: { children: ReactNode; strong?: boolean }) => (
  <Box
    sx={{
      fontWeight: strong ? 600 : 400,
      color: strong ? colors.ink : colors.quiet,
      overflow: 'hidden',
      textOverflow: 'ellipsis',
    }}
  >
    {children}
  </Box>
);

const Done = ({ words = 'Done' }: { words?: string }) => (
  <Button size="small" variant="contained" title="Escape leaves as well" onClick={() => editOnPicture(null)}>
    {words}
  </Button>
);

function Elsewhere({ project, clipId }: { project: Project; clipId: string }) {
  const clip = project.clips.find((c) => c.id === clipId);
  return (
    <>
      <Words>belongs to {clip?.name}</Words>
      <Button size="small" color="inherit" onClick={() => transport.seekSource(clipId, frame(0))}>
        Show that clip
      </Button>
    </>
  );
}
