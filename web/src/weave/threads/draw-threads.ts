import { colors } from '../../theme';
import type { Ribbon } from './ribbons';
import { type WeaveScene, colorOf, visibleRibbons } from '../scene';

/** Traces one thread from the source strip to the result strip. */
export function traceThread(
  path: CanvasPath,
  fromX: number,
  toX: number,
  top: number,
  bottom: number,
  moves: boolean,
): void {
  const middle = (top + bottom) / 2;
  if (moves) path.moveTo(fromX, top);
  path.bezierCurveTo(fromX, middle, toX, middle, toX, bottom);
}

/** Ribbons narrower than this, in pixels of the result strip, are drawn without threads of their own. */
const PLAIN_BELOW = 9;
/** From so many ribbons on, some at a time are drawn as one band: single ones are hardly wider than a pixel. */
const DENSE_FROM = 240;
/** Bands that they are drawn as, about. */
const BANDS = 24;

/** Ribbons from the stretch of source each segment reads to the stretch of result it fills. */
export function drawThreads(c: CanvasRenderingContext2D, scene: WeaveScene): void {
  const { layout, resultX, hovered, selected } = scene;
  const seen = visibleRibbons(scene.ribbons, resultX.invert(0), resultX.invert(layout.width));
  const mine = seen.filter((r) => r.clipId === scene.clipId);
  const fill = Math.min(0.26, 0.09 + 1 / (4 + 2 * mine.length));
  c.save();
  c.beginPath();
  c.rect(0, layout.sourceBottom, layout.width, layout.resultTop - layout.sourceBottom);
  c.clip();
  if (mine.length > DENSE_FROM) drawBands(c, scene, grouped(mine));
  else for (const r of mine) if (r !== hovered && r !== selected) drawRibbon(c, scene, r, fill, true);
  for (const r of [selected, hovered]) if (r && r.clipId === scene.clipId) drawRibbon(c, scene, r, 0.3, true);
  drawBroken(c, scene);
  c.restore();
}

/** What of a ribbon a band needs. */
type Band = Pick<Ribbon, 'kind' | 'speed' | 'sourceFrom' | 'sourceTo' | 'resultFrom' | 'resultTo'>;

/** Neighbouring ribbons of a piece as one band each, about `BANDS` of them. */
function grouped(ribbons: readonly Ribbon[]): Band[] {
  const size = Math.ceil(ribbons.length / BANDS);
  const bands: Band[] = [];
  for (let i = 0; i < ribbons.length;) {
    const first = ribbons[i]!;
    let [low, high] = [Infinity, -Infinity];
    let last = first;
    for (const end = i + size; i < end && ribbons[i]?.pieceId === first.pieceId; i++) {
      last = ribbons[i]!;
      low = Math.min(low, last.sourceFrom, last.sourceTo);
      high = Math.max(high, last.sourceFrom, last.sourceTo);
    }
    bands.push({
      kind: first.kind,
      speed: first.speed,
      sourceFrom: low,
      sourceTo: high,
      resultFrom: first.resultFrom,
      resultTo: last.resultTo,
    });
  }
  return bands;
}

/** All bands of one colour in one go: filled one by one, each as wide as the weave, they take longer than a display frame. */
function drawBands(c: CanvasRenderingContext2D, scene: WeaveScene, bands: readonly Band[]): void {
  const paths = new Map<string, Path2D>();
  for (const band of bands) {
    const path = paths.get(colorOf(band)) ?? new Path2D();
    traceRibbon(path, scene, band);
    paths.set(colorOf(band), path);
  }
  c.globalAlpha = 0.14;
  for (const [color, path] of paths) {
    c.fillStyle = color;
    c.fill(path);
  }
}

/** Adds the outline of a ribbon to a path. */
function traceRibbon(path: Path2D, { layout, sourceX, resultX }: WeaveScene, r: Band): void {
  const { sourceBottom: top, resultTop: bottom } = layout;
  const middle = (top + bottom) / 2;
  const [s0, s1] = [sourceX(r.sourceFrom), sourceX(r.sourceTo)];
  const [x0, x1] = [resultX(r.resultFrom), resultX(r.resultTo)];
  path.moveTo(s0, top);
  traceThread(path, s0, x0, top, bottom, false);
  path.lineTo(x1, bottom);
  path.bezierCurveTo(x1, middle, s1, middle, s1, top);
  path.closePath();
}

function drawRibbon(
  c: CanvasRenderingContext2D,
  scene: WeaveScene,
  r: Ribbon,
  fill: number,
  threaded: boolean,
): void {
  const { layout, sourceX, resultX } = scene;
  const lit = r === scene.hovered || r === scene.selected;
  const quiet = !lit && scene.pieceId !== null && r.pieceId !== scene.pieceId ? 0.4 : 1;
  const width = resultX(r.resultTo) - resultX(r.resultFrom);
  const ribbon = new Path2D();
  traceRibbon(ribbon, scene, r);
  c.globalAlpha = fill * quiet;
  c.fillStyle = colorOf(r);
  c.fill(ribbon);
  if (!threaded || (!lit && width < PLAIN_BELOW)) return;
  const threads = new Path2D();
  for (const at of threadsOf(r, width))
    traceThread(
      threads,
      sourceX(r.sourceAtResult(at)),
      resultX(at),
      layout.sourceBottom,
      layout.resultTop,
      true,
    );
  c.strokeStyle = colorOf(r);
  c.globalAlpha = (lit ? 0.8 : 0.34) * quiet;
  c.lineWidth = lit ? 1.25 : 0.8;
  c.stroke(threads);
}

/** Result frames at which a ribbon shows a thread: its ends, and evenly between as room allows. */
function threadsOf(r: Ribbon, width: number): number[] {
  const frames = r.resultTo - r.resultFrom;
  const count = Math.max(1, Math.min(frames, Math.floor(width / 11), 160));
  return Array.from({ length: count + 1 }, (_, i) => r.resultFrom + (frames * i) / count);
}

/** A skip is a broken thread: two dashed ends that come from different places. */
function drawBroken(
  c: CanvasRenderingContext2D,
  { layout, sourceX, resultX, skips, clipId }: WeaveScene,
): void {
  const broken = new Path2D();
  for (const skip of skips) {
    if (skip.clipId !== clipId) continue;
    for (const source of [skip.before + 0.5, skip.after + 0.5])
      traceThread(broken, sourceX(source), resultX(skip.at), layout.sourceBottom, layout.resultTop, true);
  }
  c.globalAlpha = 0.9;
  c.strokeStyle = colors.attention;
  c.lineWidth = 1.5;
  c.setLineDash([5, 5]);
  c.stroke(broken);
  c.setLineDash([]);
  c.globalAlpha = 1;
}
