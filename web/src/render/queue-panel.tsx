import { Box, Button, IconButton, LinearProgress, Tooltip } from '@mui/material';
import type { RenderProof } from '@skipback/media/render/messages';
import type { QueueRecord } from '@skipback/media/storage/database';
import { ArrowDown, ArrowUp, Download, RotateCcw, Trash2, X } from 'lucide-react';
import { useSnackbar } from 'notistack';
import type { ReactNode } from 'react';
import { CAUTION } from '../notices';
import { cutShort } from '../parts/line';
import { Name } from '../parts/name';
import {
  cancelQueued,
  moveQueued,
  pauseQueue,
  removeQueued,
  retryQueued,
  saveQueued,
  useQueue,
} from '../state/queue';
import { colors, mono } from '../theme';

/** Whether a file may be handed over, and why not. Files of before say nothing of what they lack. */
function verdictOf({ asOrdered, lacks = [], notes = [], damaged = 0 }: Partial<RenderProof>): string {
  if (lacks.length > 0) return `check failed, do not deliver: ${lacks.join(' ')}`;
  if (!asOrdered) return 'check failed: do not deliver';
  if (notes.length > 0) return `checked. ${notes.join(' ')}`;
  return damaged > 0
    ? `whole, but ${damaged} source frame${damaged === 1 ? ' is' : 's are'} damaged`
    : 'checked';
}

/** What became of a file, in words. */
function wordsOf({ state, sentence, proof }: QueueRecord): string {
  if (state === 'done' && proof)
    return `${proof.frames} f, ${(proof.bytes / 1e6).toFixed(2)} MB, ${verdictOf(proof)}`;
  return {
    waiting: 'waits',
    rendering: 'rendering',
    done: 'made',
    failed: sentence ?? 'failed',
    cancelled: 'cancelled',
  }[state];
}

/** The row of files: what is being made, what waits, what is there, each with its proof. Nothing where there is none. */
export function QueuePanel() {
  const { records, running, paused, left } = useQueue();
  const { enqueueSnackbar } = useSnackbar();
  if (records.length === 0) return null;
  const ended = records.filter((r) => r.state !== 'waiting' && r.state !== 'rendering');
  const made = records.filter((r) => r.state === 'done');
  const waiting = records.filter((r) => r.state === 'waiting').length;
  const share = running && running.total > 0 ? running.done / running.total : 0;
  const whole = (ended.length + share) / records.length;
  const save = async (record: QueueRecord) => {
    if (!(await saveQueued(record)))
      enqueueSnackbar(`${record.name} is not in this browser any more.`, CAUTION);
  };
  return (
    <Box role="group" aria-label="Queue" sx={{ bgcolor: colors.panel, borderRadius: 2, p: 2 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 1 }}>
        <Box component="h2" sx={{ m: 0, fontSize: 15, fontWeight: 600 }}>
          Queue
        </Box>
        <Box sx={{ color: colors.quiet }} data-testid="queue-words">
          {ended.length} of {records.length} ended
        </Box>
        <Box sx={{ flex: 1 }} />
        {made.length > 1 && (
          <Button size="small" color="inherit" onClick={() => made.forEach((r) => void save(r))}>
            Save all
          </Button>
        )}
        {(waiting > 0 || paused) && (
          <Button size="small" color="inherit" onClick={() => pauseQueue(!paused)}>
            {paused ? 'Resume' : 'Pause after this file'}
          </Button>
        )}
        {ended.length > 0 && (
          <Tooltip title="Remove what has ended, files too">
            <IconButton
              size="small"
              aria-label="Remove what has ended"
              onClick={() => void removeQueued(ended.map((r) => r.id))}
            >
              <Trash2 size={15} />
            </IconButton>
          </Tooltip>
        )}
      </Box>
      {left > 0 && (
        <Box role="alert" sx={{ color: colors.attention, mb: 1 }}>
          {left === 1 ? 'A file was' : `${left} files were`} still waiting when the page was closed.
        </Box>
      )}
      <LinearProgress
        variant="determinate"
        value={100 * whole}
        aria-label="Queue progress"
        sx={{
          height: 6,
          borderRadius: 3,
          mb: 1,
          bgcolor: colors.raised,
          '& .MuiLinearProgress-bar': { bgcolor: colors.forward },
        }}
      />
      <Box
        component="ul"
        aria-label="Files"
        sx={{ m: 0, p: 0, listStyle: 'none', maxHeight: 300, overflowY: 'auto' }}
      >
        {records.map((record) => {
          const { id, name, state, proof } = record;
          const now = running?.id === id ? running : undefined;
          const wrong = state === 'failed' || (proof && (!proof.asOrdered || proof.damaged > 0));
          return (
            <Box
              component="li"
              key={id}
              data-state={state}
              sx={{ display: 'flex', alignItems: 'center', gap: 1, minHeight: 32 }}
            >
              <Box sx={{ flex: 1, minWidth: 0 }}>
                <Name of={name} />
                <Box
                  sx={{
                    ...cutShort,
                    fontSize: 12,
                    color: wrong ? colors.attention : colors.quiet,
                    fontFamily: mono,
                  }}
                >
                  {now && now.total > 0
                    ? `${now.done} of ${now.total}, ${now.framesPerS.toFixed(0)} frames/s`
                    : wordsOf(record)}
                </Box>
              </Box>
              {state === 'waiting' && (
                <>
                  <Tool words={`Earlier: ${name}`} onPress={() => void moveQueued(id, -1)}>
                    <ArrowUp size={15} />
                  </Tool>
                  <Tool words={`Later: ${name}`} onPress={() => void moveQueued(id, 1)}>
                    <ArrowDown size={15} />
                  </Tool>
                </>
              )}
              {(state === 'waiting' || state === 'rendering') && (
                <Tool words={`Cancel ${name}`} onPress={() => void cancelQueued(id)}>
                  <X size={15} />
                </Tool>
              )}
              {(state === 'failed' || state === 'cancelled') && (
                <Tool words={`Render ${name} again`} onPress={() => void retryQueued(id)}>
                  <RotateCcw size={15} />
                </Tool>
              )}
              {state === 'done' && (
                <Tool words={`Save ${name}`} onPress={() => void save(record)}>
                  <Download size={15} />
                </Tool>
              )}
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}

function Tool({ words, onPress, children }: { words: string; onPress: () => void; children: ReactNode }) {
  return (
    // Beside it: the row below is for the hand.
    <Tooltip title={words} placement="left" disableInteractive>
      <IconButton size="small" aria-label={words} onClick={onPress}>
        {children}
      </IconButton>
    </Tooltip>
  );
}
