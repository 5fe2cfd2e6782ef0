import { Box, Button, LinearProgress, Tooltip } from '@mui/material';
import { copySize, uncopied } from '@skipback/media/frames/small-copy';
import { useSnackbar } from 'notistack';
import type { LoadedClip } from '../state/library';
import {
  copiedFor,
  dropCopies,
  isDear,
  makeCopies,
  stopCopying,
  useCopies,
  useCopying,
} from '../state/small-copies';
import { mono } from '../theme';

/** Offers a small copy of a span whose pictures take longer to decode than to play, and says where one is seen. */
export function SmallCopyRow({
  loaded,
  span,
}: {
  readonly loaded: LoadedClip;
  readonly span: { readonly in: number; readonly out: number };
}) {
  const { enqueueSnackbar } = useSnackbar();
  const copies = useCopies([loaded]).get(loaded.source.file) ?? [];
  const now = useCopying((s) => s.now);
  if (copies.length === 0 && !isDear(loaded)) return null;
  const { facts } = loaded.record;
  const mine = now?.mediaId === loaded.record.id;
  const missing = uncopied(Math.floor(span.in), Math.ceil(span.out), copies).length > 0;
  const size = copySize(facts.width, facts.height);
  const range = copiedFor(loaded, span);
  const make = async () => {
    const sentence = await makeCopies(loaded, range);
    if (sentence) enqueueSnackbar(sentence);
  };
  const words = mine
    ? `copying ${Math.floor(100 * now.share)} %`
    : !missing
      ? 'preview copy in use'
      : copies.length > 0
        ? 'beyond the preview copy'
        : `large: ${facts.width} × ${facts.height}`;
  return (
    <Box role="group" aria-label="Preview copy" sx={{ mt: 0.5, position: 'relative' }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75 }}>
        <Tooltip
          title={
            missing
              ? 'Pictures of this size take longer to decode than to play, backward most of all.'
              : 'For playing and cutting. Files are made of the clip itself.'
          }
        >
          <Box sx={{ flex: 1, fontFamily: mono }}>{words}</Box>
        </Tooltip>
        {mine ? (
          <Small
            onPress={stopCopying}
            words="Stop"
            hint="Parts of a long span that are copied already stay"
          />
        ) : missing ? (
          <Small
            onPress={() => void make()}
            words={copies.length > 0 ? 'Copy the rest' : 'Make a preview copy'}
            hint={`Frames ${range.first} to ${range.end} at ${size.width} × ${size.height}, to play and cut with; files are made of the clip itself`}
            disabled={now !== null}
          />
        ) : (
          <Small
            onPress={() => void dropCopies(loaded.record.id)}
            words="Delete the copy"
            hint="Plays the clip itself again"
          />
        )}
      </Box>
      {mine && (
        <LinearProgress
          variant="determinate"
          aria-label="Copied"
          value={100 * now.share}
          sx={{ height: 3, borderRadius: 2, position: 'absolute', left: 0, right: 0, bottom: -3 }}
        />
      )}
    </Box>
  );
}

function Small({
  words,
  hint,
  onPress,
  disabled = false,
}: {
  readonly words: string;
  readonly hint: string;
  readonly onPress: () => void;
  readonly disabled?: boolean;
}) {
  return (
    <Tooltip title={hint} describeChild>
      <span>
        <Button size="small" color="inherit" onClick={onPress} disabled={disabled} sx={{ py: 0 }}>
          {words}
        </Button>
      </span>
    </Tooltip>
  );
}
