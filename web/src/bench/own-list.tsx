import { Box, Button } from '@mui/material';
import type { Notice } from '@skipback/core/notice';
import type { Project } from '@skipback/core/project/schema';
import { ownSounds } from '@skipback/core/project/sound-actions';
import { useRef, useState } from 'react';
import { Line } from '../parts/line';
import { usePlaying } from '../state/playing';
import { bringOwnSound, placeOwn } from '../state/own-sounds';
import { colors, mono } from '../theme';

/** The user's own sounds that are placed, and a way to bring in another. */
export function OwnList({ project }: { readonly project: Project }) {
  const input = useRef<HTMLInputElement>(null);
  const [reading, setReading] = useState<string>();
  const [notice, setNotice] = useState<Notice>();
  const bring = async (file: File) => {
    setReading(file.name);
    setNotice(undefined);
    setNotice(await bringOwnSound(file, project.id));
    setReading(undefined);
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        accept="audio/*,.wav,.mp3,.flac,.ogg,.oga,.opus,.m4a,.aac"
        hidden
        aria-label="A sound of your own, choose a file"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) void bring(file);
        }}
      />
      <Line
        quiet={false}
        label={
          <Box component="span" sx={{ fontWeight: 600 }}>
            Your own
          </Box>
        }
      >
        {reading ? (
          <Box component="span" role="status" sx={{ color: colors.quiet, fontSize: 12.5 }}>
            Reading {reading}
          </Box>
        ) : (
          <Button
            size="small"
            color="inherit"
            variant="outlined"
            title="Reads a sound file and places it at the playhead, in the lane under the result"
            onClick={() => input.current?.click()}
            sx={{ minWidth: 0, px: 1, py: 0, borderColor: colors.line }}
          >
            Import a sound
          </Button>
        )}
      </Line>
      {ownSounds(project).map((own) => (
        <Line
          key={own.mediaId}
          quiet={false}
          label={
            <Box
              component="span"
              title={own.name}
              sx={{ display: 'block', overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
            >
              {own.name}{' '}
              <Box component="span" sx={{ color: colors.quiet, fontFamily: mono, fontSize: 12 }}>
                {own.lengthS.toFixed(1)} s
              </Box>
            </Box>
          }
        >
          <Button
            size="small"
            color="inherit"
            variant="outlined"
            aria-label={`Place ${own.name} at the playhead`}
            onClick={() =>
              void placeOwn(project.id, { ...own, fromS: 0, backward: false }, usePlaying.getState().position)
            }
            sx={{ minWidth: 0, px: 1, py: 0, borderColor: colors.line }}
          >
            Place
          </Button>
        </Line>
      ))}
      {notice && (
        <Box role="alert" sx={{ color: colors.attention, fontSize: 12.5 }}>
          {notice.text} {notice.wayOut}
        </Box>
      )}
    </>
  );
}
