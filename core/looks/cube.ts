import { z } from 'zod';
import { base64Of, bytesOf } from '../base64';

/**
 * A colour table as a look keeps it: of one dimension (256 bytes each for red, green and blue) or of three
 * (`size` entries each way, three bytes each, red fastest), in base64.
 */
export const ColourTableSchema = z.object({
  name: z.string().max(200),
  kind: z.enum(['1d', '3d']),
  size: z.int().min(2).max(65),
  data: z.string().max(1_200_000),
});
export type ColourTable = z.infer<typeof ColourTableSchema>;

/** Entries each way that a cube may have, and that a row may have. */
const MOST_CUBE = 65;
const MOST_ROW = 65_536;
/** A text longer than this is no table. */
export const MOST_CUBE_BYTES = 40_000_000;

type Read =
  | { readonly ok: true; readonly table: ColourTable }
  | { readonly ok: false; readonly sentence: string };
const refused = (sentence: string): Read => ({ ok: false, sentence });

/**
 * Reads a `.cube` text (Iridas, version 1.0): one or three dimensions, any domain, any line ends. What is wrong is
 * said in a sentence; nothing of a broken table is used.
 */
export function readCube(text: string, fileName: string): Read {
  let title = fileName.replace(/\.cube$/i, '');
  let kind: '1d' | '3d' | undefined;
  let size = 0;
  const low = [0, 0, 0];
  const high = [1, 1, 1];
  const rows: number[] = [];
  for (const [i, raw] of text.split(/\r\n|\r|\n/).entries()) {
    const line = raw.trim();
    if (line === '' || line.startsWith('#')) continue;
    const [word, ...rest] = line.split(/\s+/);
    if (word === 'TITLE') title = line.slice(5).trim().replace(/^"|"$/g, '') || title;
    else if (word === 'LUT_1D_SIZE' || word === 'LUT_3D_SIZE') {
      kind = word === 'LUT_1D_SIZE' ? '1d' : '3d';
      size = Number(rest[0]);
      const most = kind === '1d' ? MOST_ROW : MOST_CUBE;
      if (!Number.isInteger(size) || size < 2 || size > most)
        return refused(
          `${fileName} says it has ${rest[0] ?? 'no'} entries each way; 2 to ${most} can be read.`,
        );
    } else if (word === 'DOMAIN_MIN' || word === 'DOMAIN_MAX') {
      const values = rest.map(Number);
      if (values.length < 3 || !values.every(Number.isFinite))
        return refused(`Line ${i + 1} of ${fileName} is no domain: three numbers belong there.`);
      (word === 'DOMAIN_MIN' ? low : high).splice(0, 3, ...values.slice(0, 3));
    } else if (word === 'LUT_1D_INPUT_RANGE' || word === 'LUT_3D_INPUT_RANGE') {
      low.fill(Number(rest[0]));
      high.fill(Number(rest[1]));
    } else {
      const values = [word, ...rest].map(Number);
      if (values.length < 3 || !values.slice(0, 3).every(Number.isFinite))
        return refused(`Line ${i + 1} of ${fileName} is not three numbers: "${line.slice(0, 40)}".`);
      rows.push(values[0]!, values[1]!, values[2]!);
    }
  }
  if (!kind) return refused(`${fileName} is no colour table: it does not say its size.`);
  if (![...low, ...high].every(Number.isFinite) || low.some((l, c) => l >= high[c]!))
    return refused(`${fileName} has a domain that ends before it begins.`);
  const wanted = kind === '1d' ? size : size ** 3;
  if (rows.length !== 3 * wanted)
    return refused(
      `${fileName} should have ${wanted} rows and has ${rows.length / 3}: it was cut short, or is another kind.`,
    );
  return { ok: true, table: tableFrom(title.slice(0, 200) || 'table', kind, size, rows, low, high) };
}

const byte = (value: number): number => Math.round(255 * Math.min(1, Math.max(0, value)));

/** Brings rows that stand for a domain to tables over 0 to 1. */
function tableFrom(
  name: string,
  kind: '1d' | '3d',
  size: number,
  rows: readonly number[],
  low: readonly number[],
  high: readonly number[],
): ColourTable {
  /** Where in the rows a value of a channel is found. */
  const place = (value: number, c: number) =>
    Math.min(size - 1, Math.max(0, ((value - low[c]!) / (high[c]! - low[c]!)) * (size - 1)));
  if (kind === '1d') {
    const out = new Uint8Array(768);
    for (let c = 0; c < 3; c++)
      for (let i = 0; i < 256; i++) {
        const at = place(i / 255, c);
        const n = Math.min(size - 2, Math.floor(at));
        const [a, b] = [rows[3 * n + c]!, rows[3 * (n + 1) + c]!];
        out[256 * c + i] = byte(a + (b - a) * (at - n));
      }
    return { name, kind, size: 2, data: base64Of(out) };
  }
  const out = new Uint8Array(3 * size ** 3);
  const plain = low.every((l) => l === 0) && high.every((h) => h === 1);
  for (let b = 0; b < size; b++)
    for (let g = 0; g < size; g++)
      for (let r = 0; r < size; r++) {
        const to = 3 * (r + size * (g + size * b));
        const at = [r, g, b].map((v, c) => (plain ? v : place(v / (size - 1), c)));
        for (let c = 0; c < 3; c++) out[to + c] = byte(plain ? rows[to + c]! : inCube(rows, size, at, c));
      }
  return { name, kind, size, data: base64Of(out) };
}

/** A channel between eight entries of a cube, trilinear. */
function inCube(rows: readonly number[], size: number, at: readonly number[], channel: number): number {
  const low = at.map((v) => Math.min(size - 2, Math.floor(v)));
  let sum = 0;
  for (let corner = 0; corner < 8; corner++) {
    let share = 1;
    const n = low.map((l, c) => {
      const up = (corner >> c) & 1;
      share *= up ? at[c]! - l : 1 - (at[c]! - l);
      return l + up;
    });
    sum += share * rows[3 * (n[0]! + size * (n[1]! + size * n[2]!)) + channel]!;
  }
  return sum;
}

/** A table as a `.cube` text. */
export function writeCube({ name, kind, size, data }: ColourTable): string {
  const bytes = bytesOf(data);
  const rows = kind === '1d' ? 256 : size ** 3;
  const value = (at: number) => (bytes[at]! / 255).toFixed(6);
  const lines = Array.from({ length: rows }, (_, i) =>
    kind === '1d'
      ? `${value(i)} ${value(256 + i)} ${value(512 + i)}`
      : `${value(3 * i)} ${value(3 * i + 1)} ${value(3 * i + 2)}`,
  );
  return [
    `TITLE "${name.replaceAll('"', "'")}"`,
    `LUT_${kind.toUpperCase()}_SIZE ${kind === '1d' ? 256 : size}`,
    ...lines,
    '',
  ].join('\n');
}
