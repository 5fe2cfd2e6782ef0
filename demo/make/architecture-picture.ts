/**
 * Draws docs/architecture.svg from the code: every folder as a box as high as it has lines, and who imports from whom, the
 * more the thicker. `npm run demo:architecture`.
 */
import { readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../..', import.meta.url));
/** Columns from left to right: arrows run this way. */
const ROOMS = [
  { name: 'web', folder: 'web/src' },
  { name: 'media', folder: 'media' },
  { name: 'core', folder: 'core' },
] as const;
const [WIDTH, COLUMN, GAP, LINES_A_PIXEL] = [1100, 190, 4, 30];
const LEAST_HIGH = 19;

function sourcesIn(folder: string): string[] {
  return readdirSync(join(root, folder)).flatMap((name) => {
    const path = `${folder}/${name}`;
    if (name === 'dist' || name === 'dist-test' || name === 'node_modules') return [];
    if (statSync(join(root, path)).isDirectory()) return sourcesIn(path);
    return /\.tsx?$/.test(name) && !/\.(test|d)\.ts$/.test(name) ? [path] : [];
  });
}

/** The folder that stands for a file: the first within its room. */
function boxOf(path: string): string | undefined {
  const room = ROOMS.find((r) => path.startsWith(`${r.folder}/`));
  if (!room) return undefined;
  const [first, ...rest] = path.slice(room.folder.length + 1).split('/');
  return `${room.name}/${rest.length === 0 ? '·' : first}`;
}

const lines = new Map<string, number>();
const arrows = new Map<string, number>();
for (const path of ROOMS.flatMap((r) => sourcesIn(r.folder))) {
  const box = boxOf(path)!;
  const text = readFileSync(join(root, path), 'utf8');
  lines.set(box, (lines.get(box) ?? 0) + text.split('\n').length);
  for (const [, named] of text.matchAll(/from '([^']+)'/g)) {
    const target = named!.startsWith('@skipback/')
      ? named!.slice('@skipback/'.length)
      : named!.startsWith('.')
        ? relative(root, resolve(root, dirname(path), named!))
        : undefined;
    const to = target && (boxOf(target) ?? boxOf(`${target}/index`));
    if (to && to.split('/')[0] !== box.split('/')[0])
      arrows.set(`${box} ${to}`, (arrows.get(`${box} ${to}`) ?? 0) + 1);
  }
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly height: number;
}
const boxes = new Map<string, Box>();
let lowest = 0;
ROOMS.forEach((room, column) => {
  const x = 10 + (column * (WIDTH - 20 - COLUMN)) / (ROOMS.length - 1);
  let y = 44;
  for (const [box, count] of [...lines]
    .filter(([b]) => b.startsWith(`${room.name}/`))
    .sort((a, b) => b[1] - a[1])) {
    const height = Math.max(LEAST_HIGH, count / LINES_A_PIXEL);
    boxes.set(box, { x, y, height });
    y += height + GAP;
  }
  lowest = Math.max(lowest, y);
});

const drawn = [...arrows]
  .sort((a, b) => a[1] - b[1])
  .map(([key, count]) => {
    const [from, to] = key.split(' ').map((b) => boxes.get(b)!) as [Box, Box];
    const [x1, y1] = [from.x + COLUMN, from.y + from.height / 2];
    const [x2, y2] = [to.x, to.y + to.height / 2];
    const bend = (x2 - x1) / 2;
    return `<path d="M${x1},${y1.toFixed(1)} C${x1 + bend},${y1.toFixed(1)} ${x2 - bend},${y2.toFixed(1)} ${x2},${y2.toFixed(1)}" fill="none" stroke="#b28cf0" stroke-opacity="${Math.min(0.75, 0.12 + count / 40).toFixed(2)}" stroke-width="${Math.min(7, 0.6 + count / 6).toFixed(1)}"/>`;
  });
const named = [...boxes].map(([box, { x, y, height }]) => {
  const name = box.split('/')[1]!;
  return `<rect x="${x}" y="${y.toFixed(1)}" width="${COLUMN}" height="${height.toFixed(1)}" rx="4" fill="#26241f"/><text x="${x + 8}" y="${(y + Math.min(height / 2 + 4, 15)).toFixed(1)}">${name === '·' ? 'beside the folders' : name}</text><text x="${x + COLUMN - 8}" y="${(y + Math.min(height / 2 + 4, 15)).toFixed(1)}" text-anchor="end" fill="#8f8a80">${lines.get(box)}</text>`;
});
const heads = ROOMS.map(
  (room, column) =>
    `<text x="${10 + (column * (WIDTH - 20 - COLUMN)) / (ROOMS.length - 1)}" y="28" font-size="17" font-weight="600">${room.name}</text>`,
);
writeFileSync(
  join(root, 'docs/architecture.svg'),
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${Math.ceil(lowest + 6)}" font-family="sans-serif" font-size="12" fill="#ece9e3"><rect width="100%" height="100%" fill="#121212"/>${[...drawn, ...named, ...heads].join('\n')}</svg>\n`,
);
console.log(`${boxes.size} folders, ${[...arrows.values()].reduce((a, b) => a + b, 0)} imports across rooms`);
