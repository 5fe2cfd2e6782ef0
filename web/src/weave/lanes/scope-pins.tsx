import { framesAt } from '@skipback/core/looks/facts';
import { later } from '@skipback/core/places/moved';
import { placeText } from '@skipback/core/places/words';
import { setLookScope } from '@skipback/core/project/look-actions';
import { usePlaceWords } from '../../state/place-words';
import { act } from '../../state/project-store';
import { useSelection } from '../../state/selection';
import { PlacePin } from '../place-pin';
import { placeTargets } from '../place-targets';
import type { Scale } from '../scales';
import { type WeaveLayout, laneBox, laneInSight } from '../scene';
import type { WeaveModel } from '../weave-model';
import { type LookLane } from './look-lanes';

/** Where the selected look begins and ends to apply, in its lane, where that is from one place to another. */
export function ScopePins({
  model,
  lanes,
  layout,
  resultX,
}: {
  readonly model: WeaveModel;
  readonly lanes: readonly LookLane[];
  readonly layout: WeaveLayout;
  readonly resultX: Scale;
}) {
  const lookId = useSelection((s) => s.lookId);
  const index = lanes.findIndex((l) => l.id === lookId);
  const lane = lanes[index];
  const { telling } = usePlaceWords(lane?.where ?? null);
  if (!lane || !laneInSight(layout, index)) return null;
  const { scope } = lane.result.look;
  const { top, height } = laneBox(layout, index);
  const cut = model.pieceStart - lane.start;
  return scope.all.flatMap((condition, i) =>
    condition.kind !== 'range'
      ? []
      : (['from', 'to'] as const).flatMap((edge) => {
          const place = condition[edge];
          const at = framesAt(place, lane.facts)[0];
          if (at === undefined) return [];
          return [
            <PlacePin
              key={`${i} ${edge}`}
              label={`${lane.name}, ${edge}`}
              words={placeText(place, telling)}
              place={place}
              at={at}
              toX={(to) => resultX(lane.start + to)}
              top={top}
              height={height}
              width={layout.width}
              targets={() =>
                lane.where !== null && model.piece
                  ? placeTargets(model.piece, model.pieceStart).map((t) => ({ ...t, value: t.value + cut }))
                  : []
              }
              onChange={(next) =>
                act(`where ${lane.name} applies`, (p) =>
                  setLookScope(p, lane.where, lane.id, {
                    ...scope,
                    all: scope.all.with(i, { ...condition, [edge]: next }),
                  }),
                )
              }
              later={later}
            />,
          ];
        }),
  );
}
