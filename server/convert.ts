import { type ChildProcess, spawn } from 'node:child_process';
import { randomBytes, timingSafeEqual } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdtemp, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { z } from 'zod';

/** Bytes a file that is converted may have. */
const MOST_BYTES = 16 * 2 ** 30;
/** How long ffmpeg may go on without getting further in the film, milliseconds: a broken one can keep it for ever. */
const SILENCE_MS = 30_000;
const FOLDER = 'skip-back-convert-';

/** Containers that are read: none of them names other files or addresses. */
const CONTAINERS =
  'mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,mxf,avi,mpeg,mpegts,mpegvideo,asf,flv,dv,gxf,nut,ogg,h264,hevc';

const READ_BY = ['-protocol_whitelist', 'file', '-format_whitelist', CONTAINERS];

/** What a film is that is to be converted, as far as it is known. */
interface Film {
  readonly width: number;
  readonly height: number;
  readonly interlaced: boolean;
  readonly transparent: boolean;
  /** Whether its pictures are red, green and blue. */
  readonly rgb: boolean;
  /** Bits of a value. */
  readonly bits: number;
  /** Seconds; 0 where it is not known. */
  readonly lengthS: number;
}

const ProbeSchema = z.object({
  streams: z
    .array(
      z.object({
        width: z.number().default(0),
        height: z.number().default(0),
        pix_fmt: z.string().default(''),
        field_order: z.string().default(''),
      }),
    )
    .min(1),
  format: z.object({ duration: z.coerce.number().catch(0) }).default({ duration: 0 }),
});

/** What ffprobe says of a film; nothing special where it says nothing. */
async function probed(input: string): Promise<Film> {
  const asked = spawn('ffprobe', [
    ...['-v', 'error', ...READ_BY, '-select_streams', 'v:0', '-of', 'json'],
    ...['-show_entries', 'stream=width,height,pix_fmt,field_order:format=duration', input],
  ]);
  const ends = setTimeout(() => asked.kill('SIGKILL'), SILENCE_MS);
  let said = '';
  asked.stdout.on('data', (data: Buffer) => (said += data.toString()));
  await new Promise<void>((resolve) => asked.on('error', () => resolve()).on('close', () => resolve()));
  clearTimeout(ends);
  const read = ProbeSchema.safeParse(parsed(said));
  const stream = read.data?.streams[0];
  const kind = stream?.pix_fmt ?? '';
  return {
    width: stream?.width ?? 0,
    height: stream?.height ?? 0,
    interlaced: /^(tt|bb|tb|bt)$/.test(stream?.field_order ?? ''),
    transparent: /^(yuva|gbrap|argb|rgba|abgr|bgra|ya)/.test(kind),
    rgb: /^(gbr|0?rgb|0?bgr|argb|abgr|x2rgb|x2bgr|pal8)/.test(kind),
    bits: Number(/p?(9|10|12|14|16)(le|be)$/.exec(kind)?.[1] ?? 8),
    lengthS: read.data?.format.duration ?? 0,
  };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** Near-lossless H.264; it has even sizes only and no transparency, VP9 has both. */
const H264 = ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '5', '-g', '30', '-bf', '0'];
const VP9 = [
  ...[
    '-c:v',
    'libvpx-vp9',
    '-crf',
    '6',
    '-b:v',
    '0',
    '-g',
    '30',
    '-auto-alt-ref',
    '0',
    '-lag-in-frames',
    '0',
  ],
  ...['-deadline', 'realtime', '-cpu-used', '6', '-row-mt', '1'],
];

/**
 * What ffmpeg is told, whatever the file is called: near-lossless, every frame at its own time (variable rates too), fields
 * woven to frames, the first sound without loss. No part of it comes from outside but the two paths, which are ours.
 */
const argumentsFor = (input: string, output: string, film: Film): string[] => [
  ...['-hide_banner', '-nostdin', '-loglevel', 'error', '-progress', 'pipe:1'],
  ...[...READ_BY, '-i', input],
  ...['-map', '0:v:0', '-map', '0:a:0?', '-sn', '-dn'],
  ...['-fps_mode', 'passthrough', '-enc_time_base', '-1'],
  ...filtersOf(film),
  ...(film.transparent || film.width % 2 === 1 || film.height % 2 === 1 ? VP9 : H264),
  ...['-pix_fmt', film.transparent ? 'yuva420p' : 'yuv420p', '-c:a', 'flac', '-strict', '-2'],
  ...['-f', film.transparent ? 'matroska' : 'mp4', output],
];

/** What is done to its pictures: fields become frames; what has no matrix yet gets the one of today's films, and says so. */
const filtersOf = ({ interlaced, rgb }: Film): string[] => {
  const filters = [
    ...(interlaced ? ['bwdif=mode=send_frame'] : []),
    ...(rgb ? ['scale=out_color_matrix=bt709:out_range=tv'] : []),
  ];
  const tags = [
    '-colorspace',
    'bt709',
    '-color_primaries',
    'bt709',
    '-color_trc',
    'bt709',
    '-color_range',
    'tv',
  ];
  return [...(filters.length > 0 ? ['-vf', filters.join(',')] : []), ...(rgb ? tags : [])];
};

/** What became of a film that is to be said, by words that the page knows. */
const changesOf = ({ interlaced, bits }: Film): string[] => [
  ...(interlaced ? ['interlaced'] : []),
  ...(bits > 8 ? ['bits'] : []),
];

/** The one conversion there may be. */
interface Job {
  phase: 'receiving' | 'converting' | 'sending';
  /** Seconds of the film that are done. */
  doneS: number;
  /** Seconds it has; 0 where that is not known. */
  lengthS: number;
  ffmpeg: ChildProcess | undefined;
  cancelled: boolean;
}

/** Whether Debian's ffmpeg, or any other, can be started. */
const ffmpegIsThere = (): Promise<boolean> =>
  new Promise((resolve) => {
    const asked = spawn('ffmpeg', ['-version'], { stdio: 'ignore' });
    asked.on('error', () => resolve(false));
    asked.on('close', (code) => resolve(code === 0));
  });

/** Folders of runs that ended without tidying. */
async function tidyLeftovers(): Promise<void> {
  for (const name of await readdir(tmpdir()).catch(() => []))
    if (name.startsWith(FOLDER)) {
      const path = join(tmpdir(), name);
      const age = Date.now() - ((await stat(path).catch(() => undefined))?.mtimeMs ?? Date.now());
      if (age > 60 * 60 * 1000) await rm(path, { recursive: true, force: true });
    }
}

/**
 * Converts what the browser cannot decode. `GET /convert` says whether it can and gives the token of this run; `POST /convert`
 * takes the file and answers with the converted one; `GET /convert/progress` says how far it is. One at a time, for pages of
 * this server only; what it writes lies in a folder of its own and is taken away in every case.
 */
export async function convertRoutes(server: FastifyInstance): Promise<void> {
  const token = randomBytes(24).toString('hex');
  let job: Job | undefined;
  await tidyLeftovers();

  /** Whether a request comes from a page of this server: browsers say so, and no other page can say it for them. */
  const isOwn = ({ headers }: FastifyRequest): boolean => {
    const site = headers['sec-fetch-site'];
    const origin = headers.origin;
    return (
      (site === undefined || site === 'same-origin') &&
      (origin === undefined || origin === `http://${headers.host}`)
    );
  };
  const holdsToken = ({ headers }: FastifyRequest): boolean => {
    const given = Buffer.from(String(headers['x-skip-back-token'] ?? ''));
    return given.length === token.length && timingSafeEqual(given, Buffer.from(token));
  };
  const refuse = (reply: FastifyReply, code: number, sentence: string) =>
    reply.code(code).type('application/json').send({ sentence });

  server.addContentTypeParser('application/octet-stream', (_, __, done) => done(null));
  server.addHook('onClose', () => job?.ffmpeg?.kill('SIGKILL'));

  server.get('/convert', async (request, reply) => {
    if (!isOwn(request)) return refuse(reply, 403, 'Only pages of this server may ask that.');
    return { available: await ffmpegIsThere(), token, mostBytes: MOST_BYTES };
  });

  server.get('/convert/progress', async (request, reply) => {
    if (!isOwn(request) || !holdsToken(request))
      return refuse(reply, 403, 'Only pages of this run may ask that.');
    return { phase: job?.phase ?? 'none', doneS: job?.doneS ?? 0, lengthS: job?.lengthS ?? 0 };
  });

  server.post('/convert', { bodyLimit: MOST_BYTES }, async (request, reply) => {
    if (!isOwn(request) || !holdsToken(request))
      return refuse(reply, 403, 'Only pages of this run may ask that. Reload the page.');
    if (job)
      return refuse(
        reply,
        409,
        'Another file is being converted just now. Import this one again when that is done.',
      );
    const length = Number(request.headers['content-length'] ?? 0);
    if (length > MOST_BYTES) return refuse(reply, 413, tooLarge(length));
    const mine: Job = (job = {
      ...{ phase: 'receiving', doneS: 0, lengthS: 0 },
      ...{ ffmpeg: undefined, cancelled: false },
    });
    let folder: string | undefined;
    const end = async () => {
      mine.ffmpeg?.kill('SIGKILL');
      if (job === mine) job = undefined;
      if (folder) await rm(folder, { recursive: true, force: true });
    };
    // The page went away, or the user cancelled.
    reply.raw.on('close', () => {
      mine.cancelled = true;
      void end();
    });
    try {
      folder = await mkdtemp(join(tmpdir(), FOLDER));
      const [input, output] = [join(folder, 'in'), join(folder, 'out')];
      await pipeline(request.raw, limited(), createWriteStream(input));
      mine.phase = 'converting';
      const film = await probed(input);
      mine.lengthS = film.lengthS;
      await convert(argumentsFor(input, output, film), mine);
      mine.phase = 'sending';
      const { size } = await stat(output);
      reply
        .header('content-length', size)
        .header('x-skip-back-changes', changesOf(film).join(' '))
        .type(film.transparent ? 'video/x-matroska' : 'video/mp4');
      return await reply.send(createReadStream(output));
    } catch (problem) {
      await end();
      if (mine.cancelled) return reply;
      return refuse(
        reply,
        422,
        problem instanceof TooLarge
          ? tooLarge(MOST_BYTES + 1)
          : (problem as NodeJS.ErrnoException).code === 'ENOSPC'
            ? 'There is no room left on this machine’s disk to convert it. Free some, and import it again.'
            : 'ffmpeg could not read it either: it is damaged, protected, or of a kind that it does not know.',
      );
    }
  });
}

class TooLarge extends Error {}

const tooLarge = (bytes: number): string =>
  `It has more than ${Math.floor(MOST_BYTES / 2 ** 30)} GB (${Math.ceil(bytes / 2 ** 30)}), the most that is converted at once. Cut it shorter.`;

/** Lets through as many bytes as are allowed, whatever was announced. */
function limited(): Transform {
  let seen = 0;
  return new Transform({
    transform(part: Buffer, _, done) {
      seen += part.length;
      if (seen > MOST_BYTES) done(new TooLarge());
      else done(null, part);
    },
  });
}

/** Runs ffmpeg to its end. Rejects where it fails, is killed, or says nothing for long. */
function convert(told: readonly string[], job: Job): Promise<void> {
  return new Promise((resolve, reject) => {
    if (job.cancelled) return reject(new Error('cancelled'));
    const ffmpeg = (job.ffmpeg = spawn('ffmpeg', told, {
      stdio: ['ignore', 'pipe', 'ignore'],
    }));
    let silence = setTimeout(() => ffmpeg.kill('SIGKILL'), SILENCE_MS);
    ffmpeg.stdout.on('data', (data: Buffer) => {
      const before = job.doneS;
      const times = /out_time_us=(\d+)/g;
      for (const [, microseconds] of data.toString().matchAll(times)) job.doneS = Number(microseconds) / 1e6;
      if (job.doneS === before) return;
      clearTimeout(silence);
      silence = setTimeout(() => ffmpeg.kill('SIGKILL'), SILENCE_MS);
    });
    ffmpeg.on('error', reject);
    ffmpeg.on('close', (code) => {
      clearTimeout(silence);
      if (code === 0) resolve();
      else reject(new Error(`ffmpeg ended with ${code}`));
    });
  });
}
