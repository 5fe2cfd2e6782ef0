import { colors } from '../theme';
import type { Ribbon } from './ribbons';
import { type WeaveScene, colorOf, visibleRibbons } from './scene';

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
/** More ribbons than this are drawn as plain bands: their threads would be a grey cloth. */
const PLAIN_FROM = 240;

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
  for (const r of mine) if (r !== hovered && r !== selected) drawRibbon(c, scene, r, fill, mine.length);
  for (const r of [selected, hovered])
    if (r && r.clipId === scene.clipId) drawRibbon(c, scene, r, 0.3, mine.length);
  drawBroken(c, scene);
  c.restore();
}

function drawRibbon(
  c: CanvasRenderingContext2D,
  scene: WeaveScene,
  r: Ribbon,
  fill: number,
  among: number,
): void {
  const { layout, sourceX, resultX } = scene;
  const top = layout.sourceBottom;
  const bottom = layout.resultTop;
  const lit = r === scene.hovered || r === scene.selected;
  const quiet = !lit && scene.pieceId !== null && r.pieceId !== scene.pieceId ? 0.4 : 1;
  const [s0, s1] = [sourceX(r.sourceFrom), sourceX(r.sourceTo)];
  const [x0, x1] = [resultX(r.resultFrom), resultX(r.resultTo)];
  const color = colorOf(r);
  const middle = (top + bottom) / 2;
  const ribbon = new Path2D();
  ribbon.moveTo(s0, top);
  traceThread(ribbon, s0, x0, top, bottom, false);
  ribbon.lineTo(x1, bottom);
  ribbon.bezierCurveTo(x1, middle, s1, middle, s1, top);
  ribbon.closePath();
  c.globalAlpha = fill * quiet;
  c.fillStyle = color;
  c.fill(ribbon);
  c.strokeStyle = color;
  if (!lit && (x1 - x0 < PLAIN_BELOW || among > PLAIN_FROM)) return;
  const threads = new Path2D();
  for (const at of threadsOf(r, x1 - x0))
    traceThread(threads, sourceX(r.sourceAtResult(at)), resultX(at), top, bottom, true);
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
