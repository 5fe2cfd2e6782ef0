import { treatmentById } from '@skipback/core/looks/registry';
import { Box } from '@mui/material';
import type { LookPlace } from '@skipback/core/project/look-actions';
import { shiftLook } from '@skipback/core/project/look-actions';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import type { Rational } from '@skipback/core/time/rational';
import { SortedList, focusCard } from '../parts/sorted-list';
import { neighbour, select, useSelection } from '../state/selection';
import { act } from '../state/project-store';
import { colors } from '../theme';
import { LookCard } from './look-card';
import { type LookList, useLooks } from './use-looks';

interface Props {
  readonly project: CompiledProject;
  readonly piece: CompiledPiece;
  readonly rate: Rational;
}

/** The looks of the selected piece, then those of the whole result: in the order in which they are drawn. */
export function LookLists({ project, piece, rate }: Props) {
  const { ofPiece, ofResult } = useLooks(project, piece);
  const others = (where: LookPlace) => [
    ...(where === null ? [] : [{ id: null, words: 'the whole result' }]),
    ...project.pieces.flatMap((p, i) =>
      p.compiled.piece.id === where
        ? []
        : [{ id: p.compiled.piece.id, words: `piece ${i + 1}, ${p.compiled.clip.name}` }],
    ),
  ];
  const marks = (pieces: readonly CompiledPiece[]) => [
    ...new Set(pieces.flatMap((p) => p.clip.marks.map((m) => m.name))),
  ];
  return (
    <>
      {ofPiece.results.length > 0 && (
        <List
          title="Looks of this piece"
          where={piece.piece.id}
          piece={piece}
          pieceStart={project.pieces.find((p) => p.compiled === piece)?.startFrame ?? 0}
          list={ofPiece}
          rate={rate}
          others={others(piece.piece.id)}
          marks={marks([piece])}
        />
      )}
      {ofResult.results.length > 0 && (
        <List
          title="Looks of the whole result"
          where={null}
          piece={undefined}
          pieceStart={0}
          list={ofResult}
          rate={rate}
          others={others(null)}
          marks={marks(project.pieces.map((p) => p.compiled))}
        />
      )}
    </>
  );
}

function List({
  title,
  where,
  piece,
  pieceStart,
  list: { facts, results },
  rate,
  others,
  marks,
}: {
  title: string;
  where: LookPlace;
  piece: CompiledPiece | undefined;
  pieceStart: number;
  list: LookList;
  rate: Rational;
  others: readonly { id: LookPlace; words: string }[];
  marks: readonly string[];
}) {
  const lookId = useSelection((s) => s.lookId);
  const ids = results.map((r) => r.look.id);
  return (
    <Box
      role="group"
      aria-label={title}
      sx={{ display: 'flex', flexDirection: 'column', gap: 0.75, flex: 'none' }}
    >
      <Box sx={{ color: colors.quiet, fontSize: 12.5, px: 0.5, pt: 0.5 }}>{title}</Box>
      <SortedList
        ids={ids}
        nameOf={(id) => nameOfLook(results.find((r) => r.look.id === id)?.look.look)}
        onShift={(id, by) => act('reorder the looks', (p) => shiftLook(p, where, id, by))}
      >
        {results.map((result) => (
          <LookCard
            key={result.look.id}
            where={where}
            result={result}
            facts={facts}
            rate={rate}
            selected={result.look.id === lookId}
            marks={marks}
            others={others}
            piece={piece}
            pieceStart={pieceStart}
            onGone={() => {
              const next = neighbour(ids, result.look.id);
              select({ lookId: next });
              focusCard(next);
            }}
          />
        ))}
      </SortedList>
    </Box>
  );
}

const nameOfLook = (id: string | undefined): string => treatmentById(id ?? '')?.name ?? 'a look';
