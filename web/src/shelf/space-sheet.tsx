import { Box, Button, Dialog, DialogContent, LinearProgress } from '@mui/material';
import { budgets, memoryGib } from '@skipback/media/budgets';
import { clearMotion } from '@skipback/media/storage/media-files';
import { useQuery } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { type ReactNode, useRef } from 'react';
import { CAUTION } from '../notices';
import { Line, cutShort } from '../parts/line';
import { Small } from '../parts/small-button';
import { queryClient } from '../state/query-client';
import { dropCopies } from '../state/small-copies';
import { putBack, spaceQuery, takeProject, useTaken } from '../state/space';
import { colors, mono } from '../theme';

/** Bytes for people. */
const sizeText = (bytes: number): string =>
  bytes === 0
    ? 'nothing'
    : bytes < 1e5
      ? `${(bytes / 1e3).toFixed(1)} kB`
      : bytes < 1e9
        ? `${(bytes / 1e6).toFixed(1)} MB`
        : `${(bytes / 1e9).toFixed(2)} GB`;

const again = () => void queryClient.invalidateQueries({ queryKey: spaceQuery.queryKey });

/** What this browser keeps for the program, who uses it, and how to take it away. */
export function SpaceSheet({ onClose }: { readonly onClose: () => void }) {
  const { data: space, error } = useQuery(spaceQuery);
  const taken = useTaken((s) => s.records);
  const { enqueueSnackbar } = useSnackbar();
  const content = useRef<HTMLDivElement>(null);
  // The button that was pressed goes with its line: the keys stay with the sheet.
  const stay = () => content.current?.focus();
  const take = async (id: string, name: string) => {
    stay();
    if (!(await takeProject(id)))
      enqueueSnackbar(`${name} is open in another tab: leave it there, or close it first.`, CAUTION);
  };
  return (
    <Dialog open onClose={onClose} maxWidth={false} aria-labelledby="space-title">
      <DialogContent ref={content} tabIndex={-1} sx={{ width: 520, p: 3, outline: 'none' }}>
        <Box id="space-title" component="h2" sx={{ m: 0, mb: 1.5, fontSize: 16, fontWeight: 600 }}>
          What is kept here
        </Box>
        {error && (
          <Box role="alert" sx={{ color: colors.attention }}>
            The browser does not say what it keeps: storage is switched off, or this is a private window.
          </Box>
        )}
        {space && (
          <>
            {space.usedBytes !== undefined && space.mostBytes !== undefined && (
              <>
                <Line label="In all, of what the browser allows" quiet={false}>
                  <Size>
                    {sizeText(space.usedBytes)} of {sizeText(space.mostBytes)}
                  </Size>
                </Line>
                <LinearProgress
                  variant="determinate"
                  aria-label="Used of what the browser allows"
                  value={Math.min(100, (100 * space.usedBytes) / Math.max(1, space.mostBytes))}
                  sx={{ height: 6, borderRadius: 3, bgcolor: colors.raised, mb: 1 }}
                />
              </>
            )}
            <Box sx={{ color: colors.quiet, mb: 2 }}>
              {space.forGood
                ? 'Kept for good: the browser takes nothing of it away by itself.'
                : 'The browser may take it away when the disk runs low. It is asked to keep it when a clip of yours comes in; save what matters as files.'}
            </Box>
            {space.projects.map(({ id, name, ownBytes, sharedBytes }) => (
              <Line
                key={id}
                quiet={false}
                label={
                  <Box component="span" title={name}>
                    {name}
                    {sharedBytes > 0 && (
                      <Box component="span" sx={{ color: colors.quiet }}>
                        {' '}
                        and {sizeText(sharedBytes)} with others
                      </Box>
                    )}
                  </Box>
                }
              >
                <Size>{sizeText(ownBytes)}</Size>
                <Small width={76} name={`Delete ${name}`} onPress={() => void take(id, name)}>
                  Delete
                </Small>
              </Line>
            ))}
            {taken.map(({ id, name }) => (
              <Line
                key={id}
                label={
                  <Box component="span" sx={{ ...cutShort, textDecoration: 'line-through' }}>
                    {name}
                  </Box>
                }
              >
                <Small width={76} name={`Put ${name} back`} onPress={() => void putBack(id).then(stay)}>
                  Put back
                </Small>
              </Line>
            ))}
            {space.unusedBytes > 0 && (
              <Line label="Clips and songs of no project, until this page closes">
                <Size>{sizeText(space.unusedBytes)}</Size>
              </Line>
            )}
            {space.queuedBytes > 0 && (
              <Line label="Finished files of the queue">
                <Size>{sizeText(space.queuedBytes)}</Size>
              </Line>
            )}
            <MadeAgain
              bytes={space.copiesBytes}
              label="Preview copies of large clips, to cut with"
              name="Delete the preview copies"
              forget={() => dropCopies()}
            />
            <MadeAgain
              bytes={space.motionBytes}
              label="Motion between frames, found anew when needed"
              name="Forget the motion"
              forget={clearMotion}
            />
          </>
        )}
        <Box sx={{ color: colors.quiet, mt: 2 }}>
          In memory while it works: up to {sizeText(budgets.preview)} of pictures to play from, as much to
          render from, and {sizeText(budgets.drawing)} to draw a render’s looks in.{' '}
          {memoryGib === undefined
            ? 'The browser does not say how much memory this machine has; 4 GB is taken.'
            : `That goes by the ${memoryGib} GB this browser says the machine has.`}
        </Box>
        <Box sx={{ mt: 2, display: 'flex', justifyContent: 'flex-end' }}>
          <Button color="inherit" onClick={onClose}>
            Close
          </Button>
        </Box>
      </DialogContent>
    </Dialog>
  );
}

/** What can be made again and so forgotten; nothing where there is none of it. */
function MadeAgain({
  bytes,
  label,
  name,
  forget,
}: {
  readonly bytes: number;
  readonly label: string;
  readonly name: string;
  readonly forget: () => Promise<void>;
}) {
  if (bytes === 0) return null;
  return (
    <Line label={label}>
      <Size>{sizeText(bytes)}</Size>
      <Small width={76} name={name} onPress={() => void forget().then(again)}>
        Forget
      </Small>
    </Line>
  );
}

function Size({ children }: { readonly children: ReactNode }) {
  return <Box sx={{ fontFamily: mono, whiteSpace: 'nowrap' }}>{children}</Box>;
}
