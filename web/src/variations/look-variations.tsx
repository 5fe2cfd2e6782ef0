import { loopsOf } from '@skipback/core/project/parts';
import { aroundPiece } from '@skipback/core/gather/around';
import { wholeFrame } from '@skipback/core/gather/gather';
import { gathersOf } from '@skipback/core/gather/gathers';
import { driverWords } from '@skipback/core/looks/words';
import { isDriver } from '@skipback/core/looks/driver';
import { factsOfPiece, factsOfResult } from '@skipback/core/looks/facts';
import type { Look } from '@skipback/core/looks/look';
import { treatmentById } from '@skipback/core/looks/registry';
import { looksOfPiece, resolveLooks } from '@skipback/core/looks/resolve';
import { shownValues } from '@skipback/core/looks/moments';
import type { AnyTreatment } from '@skipback/core/looks/treatment';
import { lookUses, lookVariations } from '@skipback/core/looks/variations';
import { type CompiledPiece, type CompiledProject, projectMusic } from '@skipback/core/project/compile';
import { type LookPlace, setLookValues } from '@skipback/core/project/look-actions';
import type { Project } from '@skipback/core/project/schema';
import { PixelPool } from '@skipback/media/pixels/pixel-pool';
import { type ComponentProps, useEffect, useMemo, useRef, useState } from 'react';
import type { LoadedClip } from '../state/library';
import { act } from '../state/project-store';
import { type SmallFrame, drawSmall, framesOfSmall, smallFrame } from './small-frames';
import { OTHERS, PICTURE_WIDTH, type Search, type Variation, VariationsSheet } from './variations-sheet';

interface Props {
  readonly project: Project;
  readonly compiled: CompiledProject;
  /** The piece that is looked at. */
  readonly piece: CompiledPiece;
  readonly pieceStart: number;
  readonly where: LookPlace;
  readonly look: Look;
  readonly clip: LoadedClip | undefined;
  onClose(): void;
}

type Values = Record<string, unknown>;
/** Threads that draw the small pictures: never the page's own. */
const THREADS = 2;

/** A look with other values, on the piece that is looked at, all playing in step; pick one. */
export function LookVariations(props: Props) {
  const { project, compiled, piece, pieceStart, where, look, clip, onClose } = props;
  const [search, setSearch] = useState<Search>({ seed: 1, wildness: 0.5 });
  const treatment = treatmentById(look.look);

  const variations = useMemo((): (Variation & { frames: readonly SmallFrame[] })[] => {
    if (!treatment) return [];
    const now = shownValues(treatment, look.values);
    const loops = loopsOf(compiled);
    const list = where === null ? project.looks : piece.piece.looks;
    const facts = where === null ? factsOfResult(compiled, projectMusic(project)) : undefined;
    const own = looksOfPiece(piece, loops);
    const uses = lookUses(treatment, look.values);
    const others = lookVariations(treatment, look.values, { ...search, count: OTHERS - uses.length });
    const all: { values: Values; words?: string }[] = [
      { values: now },
      ...uses,
      ...others.map((values) => ({ values })),
    ];
    return all.map(({ values, words }) => {
      const looks = list.map((l) => (l.id === look.id ? { ...l, values, on: true } : l));
      const varied = facts ? piece : { ...piece, piece: { ...piece.piece, looks } };
      const around = aroundPiece(piece, pieceStart);
      const whole = facts && resolveLooks(looks, facts, { around: () => around });
      const drawn = whole
        ? own.drawn.map((stack, i) => [...stack, ...whole.drawn[pieceStart + i]!])
        : looksOfPiece(varied, loops).drawn;
      const gathers = gathersOf(varied, loops, facts && { looks, facts, from: pieceStart });
      const frames = Array.from(piece.shown, (shown, i) =>
        smallFrame(gathers?.[i] ?? wholeFrame(shown), drawn[i] ?? []),
      );
      const changed = Object.fromEntries(
        Object.entries(values).filter(([key, v]) => JSON.stringify(v) !== JSON.stringify(now[key])),
      );
      return {
        words: words ?? differences(treatment, changed),
        shown: piece.shown,
        besides: frames.flatMap(framesOfSmall),
        frames,
        pick: () =>
          act(`take a variation of ${treatment.name}`, (p) => setLookValues(p, where, look.id, changed)),
      };
    });
  }, [project, compiled, piece, pieceStart, where, look, treatment, search]);

  const tables = useMemo(() => {
    const list = [...piece.piece.looks, ...project.looks];
    return Object.fromEntries(resolveLooks(list, factsOfPiece(piece, false)).tables);
  }, [piece, project.looks]);
  const paint = useTreatedPainter(
    useMemo(() => variations.map((v) => v.frames), [variations]),
    tables,
    project.size.width,
  );
  if (!treatment) return null;
  return (
    <VariationsSheet
      name={treatment.name}
      {...{ variations, clip, search, paint, onClose }}
      rate={project.rate}
      onSearch={setSearch}
    />
  );
}

/** Paints small pictures with what is drawn on them; one that comes too late gives way to a newer one. */
function useTreatedPainter(
  rows: readonly (readonly SmallFrame[])[],
  tables: Readonly<Record<string, string>>,
  projectWidth: number,
) {
  const pool = useRef<PixelPool>(undefined);
  const busy = useRef(new Set<number>());
  useEffect(() => {
    const drawing = new PixelPool(THREADS);
    drawing.setTables(tables);
    pool.current = drawing;
    return () => drawing.close();
  }, [tables]);
  const reader = useRef<OffscreenCanvas>(undefined);
  return useMemo((): NonNullable<ComponentProps<typeof VariationsSheet>['paint']> => {
    return (place, at, pictureOf, context) => {
      const frame = rows[place]?.[at];
      if (!pool.current || !frame || busy.current.has(place)) return;
      const { width, height } = context.canvas;
      reader.current ??= new OffscreenCanvas(width, height);
      Object.assign(reader.current, { width, height });
      const source = reader.current.getContext('2d', { willReadFrequently: true })!;
      const rgbaOf = (f: number) => {
        const picture = pictureOf(f);
        if (!picture) return undefined;
        source.drawImage(picture, 0, 0, width, height);
        return new Uint8Array(source.getImageData(0, 0, width, height).data.buffer);
      };
      const drawn = drawSmall(pool.current, frame, rgbaOf, { width, height }, PICTURE_WIDTH / projectWidth);
      if (!drawn) return;
      busy.current.add(place);
      void drawn
        .then(({ bytes }) =>
          context.putImageData(new ImageData(new Uint8ClampedArray(bytes.buffer), width, height), 0, 0),
        )
        // Closed in the meantime.
        .catch(() => undefined)
        .finally(() => busy.current.delete(place));
    };
  }, [rows, projectWidth]);
}

/** What a variation changes, in words. */
function differences(treatment: AnyTreatment, changed: Values): string {
  return treatment.fields
    .filter((f) => f.key in changed)
    .map((f) => {
      const value = changed[f.key];
      const text = isDriver(value)
        ? driverWords(value)
        : f.kind === 'choice'
          ? (f.options.find((o) => o.value === value)?.label ?? String(value))
          : `${String(value)}${f.kind === 'number' ? `${f.unit === '°' ? '' : ' '}${f.unit}` : ''}`;
      return `${f.label.toLowerCase()} ${text}`;
    })
    .join(', ');
}
