import { Box, ButtonBase } from '@mui/material';
import type { Cell, Way } from '@skipback/core/moves/pattern';
import { isPlace } from '@skipback/core/places/place';
import { type KeyboardEvent, memo, useEffect, useRef, useState } from 'react';
import { usePlaying } from '../../state/playing';
import { type Gesture, beginGesture } from '../../state/project-store';
import { colors, mono } from '../../theme';
import type { Thumbnails } from '../scene';

/** What a row of the grid plays: a slice, or from a mark on. */
export interface Row {
  readonly label: string;
  readonly cell: { readonly slice: number; readonly from?: { readonly mark: string } };
  /** The clip's frame that it begins with, for its picture. */
  readonly frame: number;
}

export const BRUSHES: readonly {
  readonly way: Way;
  readonly label: string;
  readonly sign: string;
  readonly color: string;
}[] = [
  { way: 'forward', label: 'Forward', sign: '›', color: colors.forward },
  { way: 'backward', label: 'Back', sign: '‹', color: colors.backward },
  { way: 'hold', label: 'Hold', sign: '=', color: colors.hold },
  { way: 'off', label: 'Off', sign: '·', color: colors.faint },
];
const brushOf = (way: Way) => BRUSHES.find((b) => b.way === way)!;

interface GridProps {
  readonly rows: readonly Row[];
  readonly thumbnails: Thumbnails | undefined;
  readonly steps: readonly Cell[];
  readonly brush: Way;
  readonly stepFrames: number;
  readonly pieceStart: number;
  /** Whether the pattern is the last move, so that the playhead runs over its columns. */
  readonly last: boolean;
  onPaint(at: number, cell: Cell): void;
  onBrush(way: Way): void;
}

const isOn = (step: Cell, row: Row) =>
  step.way !== 'off' &&
  (row.cell.from === undefined
    ? step.from === undefined && step.slice === row.cell.slice
    : isPlace(step.from)
      ? 'mark' in step.from && step.from.mark === row.cell.from.mark
      : step.from === row.frame);

/** The grid itself: paint with the pointer, or walk with the arrows and paint with Enter or a letter. */
export function StepGrid({
  rows,
  thumbnails,
  steps,
  brush,
  stepFrames,
  pieceStart,
  last,
  onPaint,
  onBrush,
}: GridProps) {
  const body = useRef<HTMLDivElement>(null);
  const [focus, setFocus] = useState({ at: 0, row: 0 });
  const painting = useRef<{ readonly way: Way; readonly gesture: Gesture } | null>(null);
  useEffect(() => () => painting.current?.gesture.end(), []);
  const playing = usePlaying((s) =>
    last && s.showing === 'result' ? Math.floor((s.position - pieceStart) / stepFrames) : -1,
  );
  const paint = useRef(onPaint);
  useEffect(() => void (paint.current = onPaint));
  // A mark stays a mark: where it is moved, the step plays from there.
  const cellOf = (row: Row, way: Way) => ({ ...row.cell, way }) as unknown as Cell;

  const place = (event: { clientX: number; clientY: number }) => {
    const hit = document.elementFromPoint(event.clientX, event.clientY)?.closest('[data-step]');
    if (!(hit instanceof HTMLElement) || !body.current?.contains(hit)) return undefined;
    return { at: Number(hit.dataset['step']), row: Number(hit.dataset['row']) };
  };
  const put = (at: number, row: number, way: Way) => {
    const now = steps[at];
    if (!now || !rows[row] || (way === 'off' && !isOn(now, rows[row]))) return;
    if (now.way === way && isOn(now, rows[row])) return;
    paint.current(at, cellOf(rows[row], way));
  };
  const begin = (event: { clientX: number; clientY: number }) => {
    const hit = place(event);
    if (!hit) return;
    const now = steps[hit.at]!;
    // Pressing what is painted already with the same brush takes it away.
    const way = isOn(now, rows[hit.row]!) && now.way === brush ? 'off' : brush;
    painting.current = { way, gesture: beginGesture() };
    setFocus(hit);
    put(hit.at, hit.row, way);
  };
  const go = (event: { clientX: number; clientY: number }) => {
    const hit = painting.current && place(event);
    if (hit) put(hit.at, hit.row, painting.current!.way);
  };
  const end = () => {
    painting.current?.gesture.end();
    painting.current = null;
  };
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    const way = ({ f: 'forward', b: 'backward', h: 'hold', x: 'off' } as const)[event.key.toLowerCase()];
    if (by) {
      const next = {
        at: Math.min(steps.length - 1, Math.max(0, focus.at + by[0]!)),
        row: Math.min(rows.length - 1, Math.max(0, focus.row + by[1]!)),
      };
      setFocus(next);
      body.current?.querySelector<HTMLElement>(`[data-step="${next.at}"][data-row="${next.row}"]`)?.focus();
    } else if (event.key === 'Enter') {
      const now = steps[focus.at]!;
      const same = isOn(now, rows[focus.row]!) && now.way === brush;
      onPaint(focus.at, cellOf(rows[focus.row]!, same ? 'off' : brush));
    } else if (way) {
      onBrush(way);
      onPaint(focus.at, cellOf(rows[focus.row]!, way));
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box
      ref={body}
      role="grid"
      aria-label="Pattern: steps across, slices and marks down"
      onKeyDown={onKey}
      onFocus={(event) => {
        const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-step]');
        if (cell) setFocus({ at: Number(cell.dataset['step']), row: Number(cell.dataset['row']) });
      }}
      onPointerDown={begin}
      onPointerMove={go}
      onPointerUp={end}
      onPointerCancel={end}
      onPointerLeave={end}
      sx={{
        flex: 1,
        minWidth: 0,
        overflow: 'auto',
        display: 'flex',
        userSelect: 'none',
        touchAction: 'none',
      }}
    >
      <Box
        sx={{
          flex: 'none',
          position: 'sticky',
          left: 0,
          bgcolor: colors.ground,
          zIndex: 1,
          pr: 1,
          display: 'flex',
          flexDirection: 'column',
        }}
      >
        <Box sx={{ height: 18, flex: 'none' }} />
        {rows.map((row) => (
          <Box
            key={row.label + (row.cell.from?.mark ?? '')}
            sx={{
              ...CELL_HEIGHT,
              display: 'flex',
              alignItems: 'center',
              justifyContent: 'flex-end',
              gap: 1,
              fontFamily: mono,
              fontSize: 12,
              color: row.cell.from === undefined ? colors.quiet : colors.attention,
              whiteSpace: 'nowrap',
            }}
          >
            {row.label}
            <RowPicture frame={row.frame} sheet={thumbnails} />
          </Box>
        ))}
      </Box>
      {steps.map((step, at) => (
        <Column
          key={at}
          at={at}
          step={step}
          rows={rows.length}
          on={rows.findIndex((row) => isOn(step, row))}
          focusRow={focus.at === at ? focus.row : -1}
          playing={playing === at}
        />
      ))}
    </Box>
  );
}

/** Cells grow with the room there is. */
const CELL_HEIGHT = { flex: '1 1 22px', minHeight: 20, maxHeight: 34, mb: '2px' } as const;

/** The picture a row begins with. */
const RowPicture = memo(function RowPicture({
  frame,
  sheet,
}: {
  frame: number;
  sheet: Thumbnails | undefined;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!canvas.current || !sheet) return;
    const place = Math.max(
      0,
      sheet.frames.findLastIndex((f) => f <= frame),
    );
    const [x, y] = [
      (place % sheet.columns) * sheet.cellWidth,
      Math.floor(place / sheet.columns) * sheet.cellHeight,
    ];
    canvas.current
      .getContext('2d')!
      .drawImage(sheet.bitmap, x, y, sheet.cellWidth, sheet.cellHeight, 0, 0, 96, 54);
  }, [frame, sheet]);
  return (
    <canvas
      ref={canvas}
      width={96}
      height={54}
      style={{ height: '100%', maxHeight: 30, aspectRatio: '16 / 9', borderRadius: 3, background: '#000' }}
    />
  );
});

/** One step of the grid; drawn anew only when it changes. */
const Column = memo(function Column({
  at,
  step,
  rows,
  on,
  focusRow,
  playing,
}: {
  at: number;
  step: Cell;
  rows: number;
  on: number;
  focusRow: number;
  playing: boolean;
}) {
  const { sign, color, label } = brushOf(step.way);
  return (
    <Box
      role="row"
      sx={{
        flex: '1 1 28px',
        minWidth: 28,
        maxWidth: 64,
        pl: at > 0 && at % 4 === 0 ? '5px' : 0,
        boxSizing: 'content-box',
        display: 'flex',
        flexDirection: 'column',
      }}
    >
      <Box
        sx={{
          height: 18,
          flex: 'none',
          fontFamily: mono,
          fontSize: 11,
          color: playing ? colors.ink : colors.faint,
          textAlign: 'center',
          fontWeight: playing ? 600 : 400,
        }}
      >
        {at + 1}
      </Box>
      {Array.from({ length: rows }, (_, row) => {
        const painted = row === on;
        return (
          <ButtonBase
            key={row}
            role="gridcell"
            tabIndex={focusRow === row ? 0 : -1}
            data-step={at}
            data-row={row}
            aria-label={`Step ${at + 1}, row ${row + 1}: ${painted ? label.toLowerCase() : 'empty'}`}
            aria-selected={painted}
            sx={{
              display: 'flex',
              ...CELL_HEIGHT,
              mr: '2px',
              borderRadius: '4px',
              bgcolor: painted ? color : playing ? '#2d2d2d' : step.way === 'off' ? '#161616' : colors.panel,
              color: colors.ground,
              fontFamily: mono,
              fontSize: 14,
              fontWeight: 600,
              '&:hover': { boxShadow: `inset 0 0 0 1px ${colors.faint}` },
            }}
          >
            {painted ? sign : ''}
          </ButtonBase>
        );
      })}
    </Box>
  );
});
