import { Sheet } from '../parts/sheet';
import { useKeyOf } from '../commands/use-commands';
import { frame } from '@skipback/core/time/units';
import { Box, Button, IconButton } from '@mui/material';
import { frameCount } from '@skipback/core/clip/frame-table';
import { forgetFollowed, removeTrack, renameTrack, usesOf } from '@skipback/core/project/track-actions';
import type { Project } from '@skipback/core/project/schema';
import { type Track, type TrackKind, lostIn } from '@skipback/core/tracks/track';
import { BoxSelect, Crosshair, Spline, X } from 'lucide-react';
import { useState } from 'react';
import { MoreMenu } from '../parts/more-menu';
import { ValueField } from '../parts/value-field';
import type { LoadedClip } from '../state/library';
import { editOnPicture } from '../state/on-picture';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors } from '../theme';
import { useSay } from './say';

const KINDS: readonly { kind: TrackKind; label: string; title: string; icon: typeof Crosshair }[] = [
  { kind: 'point', label: 'A point', title: 'One place', icon: Crosshair },
  { kind: 'points', label: 'Two points', title: 'Where they are, and how they turn and grow', icon: Spline },
  {
    kind: 'box',
    label: 'A box',
    title: 'Where what is in it is, and how it turns and grows',
    icon: BoxSelect,
  },
];

/** Begins to choose a place to follow in a clip: the frame that is seen if it is of the clip, or its first. */
export function chooseTrack(loaded: LoadedClip, kind: TrackKind, at: number | undefined): void {
  transport.seekSource(loaded.clip.id, frame(at ?? 0));
  editOnPicture({ kind: 'new-track', clipId: loaded.clip.id, trackKind: kind });
}

/** What is followed through the clip on the source strip: begun, edited on the picture, renamed, taken away. */
export function TracksMenu({
  project,
  loaded,
  frame: seen,
}: {
  readonly project: Project;
  readonly loaded: LoadedClip | undefined;
  /** The clip's frame that is seen, if one is. */
  readonly frame: number | undefined;
}) {
  const key = useKeyOf('track');
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const tracks = project.clips.find((c) => c.id === loaded?.clip.id)?.tracks ?? [];
  const close = () => setAnchor(null);
  return (
    <>
      <IconButton
        aria-label="Tracks"
        title={`Tracks: what is tracked through the clip (${key}: a new point)`}
        disabled={!loaded}
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{ color: tracks.length > 0 ? colors.ink : colors.quiet }}
      >
        <Crosshair size={18} />
      </IconButton>
      <Sheet anchor={anchor} name="Tracks" place="underLeft" onClose={close}>
        {loaded && (
          <Box role="group" aria-label="Tracks" sx={{ p: 1.5, width: 372 }}>
            <Box sx={{ fontWeight: 600, mb: 0.5 }}>Tracked through {loaded.clip.name}</Box>
            {tracks.length === 0 && (
              <Box sx={{ color: colors.quiet, mb: 1 }}>
                Nothing yet. What is tracked once stays right through every trip, backward part and hold.
              </Box>
            )}
            {tracks.map((track) => (
              <TrackLine
                key={track.id}
                project={project}
                loaded={loaded}
                track={track}
                onEdit={() => {
                  close();
                  if (seen === undefined) transport.seekSource(loaded.clip.id, frame(track.keys[0]!.frame));
                  editOnPicture({ kind: 'track', clipId: loaded.clip.id, trackId: track.id });
                }}
              />
            ))}
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, mt: 1 }}>
              <Box sx={{ color: colors.quiet, mr: 0.5 }}>Track</Box>
              {KINDS.map(({ kind, label, title, icon: Icon }) => (
                <Button
                  key={kind}
                  size="small"
                  variant="outlined"
                  color="inherit"
                  title={title}
                  startIcon={<Icon size={14} />}
                  onClick={() => {
                    close();
                    chooseTrack(loaded, kind, seen);
                  }}
                >
                  {label}
                </Button>
              ))}
            </Box>
          </Box>
        )}
      </Sheet>
    </>
  );
}

function TrackLine({
  project,
  loaded,
  track,
  onEdit,
}: {
  readonly project: Project;
  readonly loaded: LoadedClip;
  readonly track: Track;
  readonly onEdit: () => void;
}) {
  const say = useSay();
  const clipId = loaded.clip.id;
  const count = frameCount(loaded.record.facts.table);
  const lost = lostIn(track, 0, count).reduce((sum, [from, to]) => sum + to - from, 0);
  const uses = usesOf(project, clipId, track.id);
  return (
    <Box
      role="group"
      aria-label={`Track ${track.name}`}
      sx={{ display: 'flex', alignItems: 'center', minHeight: 34 }}
    >
      <ValueField
        label={`Name of ${track.name}`}
        text={track.name}
        width={120}
        onEnter={(name) => {
          if (name.trim() === '') return false;
          act(`rename ${track.name}`, (p) => renameTrack(p, clipId, track.id, name.trim().slice(0, 200)));
          return true;
        }}
      />
      <Box sx={{ flex: 1, color: lost > 0 ? colors.attention : colors.quiet, fontSize: 12.5, pl: 1 }}>
        {lost === 0 ? 'all frames' : lost === count ? 'lost' : `lost in ${lost} of ${count}`}
      </Box>
      <Button size="small" color="inherit" onClick={onEdit}>
        Edit
      </Button>
      <MoreMenu
        name={track.name}
        items={[
          [
            'Keep only the keys set by hand',
            () => act(`forget what ${track.name} followed`, (p) => forgetFollowed(p, clipId, track.id)),
          ],
        ]}
      />
      <IconButton
        size="small"
        aria-label={`Remove ${track.name}`}
        onClick={() => {
          act(`remove ${track.name}`, (p) => removeTrack(p, clipId, track.id));
          if (uses.length > 0)
            say(`${track.name} is gone. It carried ${uses.join(', ')}: undo brings it back.`);
        }}
      >
        <X size={15} />
      </IconButton>
    </Box>
  );
}
