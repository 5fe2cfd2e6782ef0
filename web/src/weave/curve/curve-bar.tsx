import { useFirst } from '../../state/counting';
import { timeAt } from '../../state/time-at';
import { parseAmount } from '@skipback/core/time/amount';
import { Box, Button, IconButton, Tooltip } from '@mui/material';
import {
  addPoint,
  movePoints,
  pastePoints,
  removePoints,
  softenPoints,
} from '@skipback/core/edit/curve-edits';
import { sourceForSpeed, speedUpTo } from '@skipback/core/path/drawn';
import { percentText } from '@skipback/core/time/entry';
import { CornerLeftUp, Trash2 } from 'lucide-react';
import { ValueField } from '../../parts/value-field';
import type { Place } from '@skipback/core/places/place';
import { resolvePlace } from '@skipback/core/places/resolve';
import { PlaceField } from '../../parts/place-field';
import { usePlaying } from '../../state/playing';
import { colors, mono } from '../../theme';
import type { DrawnCurve } from './use-curve';
import { BarHint, WeaveBar } from '../weave-bar';
import type { WeaveModel } from '../weave-model';

/** The chosen point as numbers, and what can be done with it. */
export function CurveBar({ model, curve }: { readonly model: WeaveModel; readonly curve: DrawnCurve }) {
  const { points, chosen, origin, limits } = curve;
  const first = useFirst();
  const place = chosen[0];
  const p = place === undefined ? undefined : points[place];
  const { piece } = model;
  if (curve.tooMany)
    return (
      <WeaveBar model={model}>
        <BarHint text="This piece has more joins than a hand can draw: split it, or remove a move." />
      </WeaveBar>
    );
  if (!p || place === undefined)
    return (
      <WeaveBar model={model}>
        <BarHint
          text={
            curve.stepId === undefined
              ? 'Drag a point, or double-click for a new one: a Curve then takes over from the moves above it.'
              : 'Double-click for a new point; drag over several to choose them.'
          }
        />
        <AddHere model={model} curve={curve} />
      </WeaveBar>
    );
  const field = (
    label: string,
    text: string,
    width: number,
    set: (n: number) => boolean,
    unit: 'f' | '%',
    step: (by: number) => void,
  ) => (
    <>
      <Box>{label}</Box>
      <ValueField
        label={`Point: ${label}`}
        text={text}
        width={width}
        onEnter={(typed) => {
          const n = parseAmount(typed, { unit, least: -1_000_000, most: 1_000_000, at: timeAt() });
          return typeof n === 'string' ? n : set(n);
        }}
        fine
        onStep={step}
      />
    </>
  );
  const move = (dx: number, dy: number) => {
    const edit = movePoints(points, chosen, dx, dy, limits);
    curve.commit('bend the curve', edit);
    return true;
  };
  /** Puts the point at a place in time; it holds on to what is no plain frame. */
  const put = (to: Place) => {
    const at = typeof to === 'number' ? to : curve.ground && resolvePlace(to, curve.ground).at[0];
    if (at === undefined) return;
    const edit = movePoints(points, chosen, at - p.at, 0, limits);
    const held = { ...edit.points[place]!.holds, ...(typeof to !== 'number' && { at: to }) };
    curve.commit('bend the curve', {
      ...edit,
      points: edit.points.with(place, { ...edit.points[place]!, holds: held }),
    });
  };
  const along = piece && speedUpTo(points, place, origin, piece.table, model.project.rate);
  const speed = along === undefined ? undefined : along * 100;
  /** The source frame of the point at a speed from the one before, percent. */
  const sourceAt = (percent: number) =>
    sourceForSpeed(points, place, percent / 100, origin, piece!.table, model.project.rate);
  return (
    <WeaveBar model={model}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75, color: colors.quiet, minWidth: 0 }}>
        <Box sx={{ color: colors.ink, fontWeight: 600, fontFamily: mono }}>
          {chosen.length > 1 ? `${chosen.length} points` : `point ${place + 1}`}
        </Box>
        at
        <PlaceField
          label="Point: at"
          value={p.holds?.at ?? p.at}
          pieceId={piece?.piece.id ?? null}
          width={p.holds?.at ? 70 : 44}
          onChange={put}
        />
        {field(
          'source',
          String(Number((origin + p.source + first).toFixed(2))),
          56,
          (n) => move(0, n - first - origin - p.source),
          'f',
          (by) => move(0, by),
        )}
        {speed !== undefined &&
          piece &&
          field(
            'speed',
            percentText(speed),
            68,
            (n) => move(0, sourceAt(n) - p.source),
            '%',
            (by) => move(0, sourceAt(speed + 5 * by) - p.source),
          )}
        <Box title="Frames over which the speed changes, before the point and after it">soft</Box>
        {(['before', 'after'] as const).map((side) => (
          <ValueField
            key={side}
            label={`Point: soft ${side}`}
            text={`${p[side]} f`}
            width={40}
            hint={`Result frames over which the speed changes ${side} the point`}
            onEnter={(typed) => {
              const n = parseAmount(typed, { unit: 'f', least: 0, most: 1_000_000, at: timeAt() });
              if (typeof n === 'string') return n;
              curve.commit('soften the curve', softenPoints(points, chosen, { [side]: n }));
              return true;
            }}
            onStep={(by) =>
              curve.commit('soften the curve', softenPoints(points, chosen, { [side]: p[side] + by }))
            }
          />
        ))}
        <Tooltip title="Remove the points (Delete)">
          <IconButton
            size="small"
            aria-label="Remove the points"
            onClick={() => curve.commit('remove points', removePoints(points, chosen))}
          >
            <Trash2 size={15} />
          </IconButton>
        </Tooltip>
        <GoBackHere model={model} curve={curve} />
      </Box>
    </WeaveBar>
  );
}

/** Adds a point to the curve where the playhead is. */
function AddHere({ model, curve }: { model: WeaveModel; curve: DrawnCurve }) {
  const add = () => {
    const { position } = usePlaying.getState();
    const at = position - model.pieceStart;
    const shown = model.ribbons.find((r) => r.resultFrom <= position && r.resultTo > position);
    if (!shown || curve.points.some((p) => p.at === at)) return;
    const source = shown.sourceAtResult(position) - curve.origin;
    curve.commit('add a point', addPoint(curve.points, { at, source, before: 0, after: 0 }));
  };
  return (
    <Button size="small" color="inherit" sx={{ minWidth: 0, py: 0, flex: 'none' }} onClick={add}>
      Add at the playhead
    </Button>
  );
}

/** Puts the chosen points in again at the playhead, so that the picture goes back there. */
function GoBackHere({ model, curve }: { model: WeaveModel; curve: DrawnCurve }) {
  const paste = () => {
    const at = usePlaying.getState().position - model.pieceStart;
    curve.commit(
      'go back to a point',
      pastePoints(
        curve.points,
        curve.chosen.map((i) => curve.points[i]!),
        at,
      ),
    );
  };
  return (
    <Tooltip title="Go back to these points at the playhead (Ctrl C, Ctrl V)">
      <IconButton size="small" aria-label="Go back to these points at the playhead" onClick={paste}>
        <CornerLeftUp size={15} />
      </IconButton>
    </Tooltip>
  );
}
