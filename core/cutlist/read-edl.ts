import { type Rational, toNumber } from '../time/rational';
import { dropsFrames, parseTimecode } from '../time/timecode';
import { type ReadCutList, type ReadEvent, plural } from './events';

const EVENT = /^(\d{3,6})\s+(\S+)\s+(\S+)\s+(\S+)(?:\s+(\d+))?\s+(\S+)\s+(\S+)\s+(\S+)\s+(\S+)\s*$/;
const MOTION = /^M2\s+\S+\s+(-?)\s*(\d+(?:\.\d+)?)/;
const NAME = /^\*\s*(FROM|TO) CLIP NAME:\s*(.+?)\s*$/i;
const FILE = /^\*\s*SOURCE FILE:\s*(.+?)\s*$/i;
const COUNTING = /^FCM:\s*(NON[- ]?DROP|DROP)/i;

/** How many of what there was that is not used. */
interface LeftOut {
  sound: number;
  black: number;
  wipes: number;
  gaps: number;
  dropped: boolean;
}

/** The events of a CMX 3600 list, picture only, in order. Timecodes are counted at the project's rate, dropping numbers as the list says. */
export function readEdl(text: string, rate: Rational): ReadCutList {
  const hz = toNumber(rate);
  const events: ReadEvent[] = [];
  const left: LeftOut = { sound: 0, black: 0, wipes: 0, gaps: 0, dropped: false };
  let drops = dropsFrames(rate);
  let last: ReadEvent | undefined;
  let recordEnd: number | undefined;
  const replaceLast = (change: Partial<ReadEvent>) => {
    if (!last) return;
    last = { ...last, ...change };
    events[events.length - 1] = last;
  };
  for (const [n, line] of text.split(/\r?\n/).entries()) {
    const counting = COUNTING.exec(line);
    const event = EVENT.exec(line);
    const motion = MOTION.exec(line);
    const name = NAME.exec(line);
    const file = FILE.exec(line);
    if (counting) {
      drops = /^DROP/i.test(counting[1]!);
      left.dropped ||= drops && !dropsFrames(rate);
    } else if (event) {
      if (!event[3]!.includes('V')) {
        last = undefined;
        left.sound++;
        continue;
      }
      const [first, end, recordIn, recordOut] = event.slice(6, 10).map((t) => parseTimecode(t, rate, drops));
      if (first === undefined || end === undefined || recordIn === undefined || recordOut === undefined)
        return {
          ok: false,
          sentence: `Line ${n + 1} has a timecode that does not exist at this project’s rate.`,
        };
      // A line without length only says what the next one dissolves from.
      if (recordOut <= recordIn) continue;
      if (recordEnd !== undefined && recordIn > recordEnd) left.gaps++;
      recordEnd = recordOut;
      if (/^(BL|BLACK)$/i.test(event[2]!)) {
        last = undefined;
        left.black++;
        continue;
      }
      if (/^[WK]/i.test(event[4]!)) left.wipes++;
      const dissolve = /^D/i.test(event[4]!) ? Number(event[5] ?? 0) : 0;
      last = {
        ...{ clipName: event[2]!, reel: event[2]!, inS: first / hz, outS: end / hz },
        ...{ frames: recordOut - recordIn, speed: 1 },
        ...(dissolve > 0 && events.length > 0 && { dissolve }),
      };
      events.push(last);
    } else if (motion && last)
      replaceLast({ speed: (Number(motion[2]) / hz) * (motion[1] === '-' ? -1 : 1) || 0 });
    else if (name && last && (last.dissolve ? /to/i : /from/i).test(name[1]!))
      replaceLast({ clipName: name[2]! });
    else if (file && last) replaceLast({ fileName: file[1]! });
  }
  return events.length > 0
    ? { ok: true, events: centred(events, hz), said: leftOutSaid(left) }
    : { ok: false, sentence: 'There is no picture event in this cut list.' };
}

function leftOutSaid({ sound, black, wipes, gaps, dropped }: LeftOut): string[] {
  return [
    ...(sound > 0 ? [`${plural(sound, 'sound event is', 'sound events are')} left out.`] : []),
    ...(black > 0 ? [`${plural(black, 'stretch of black is', 'stretches of black are')} left out.`] : []),
    ...(gaps > 0 ? [`${plural(gaps, 'gap is', 'gaps are')} closed: pieces follow each other.`] : []),
    ...(wipes > 0
      ? [`${plural(wipes, 'wipe or key is', 'wipes or keys are')} read as ${wipes === 1 ? 'a cut' : 'cuts'}.`]
      : []),
    ...(dropped
      ? [
          'It counts in drop-frame timecode, which this project’s rate does not have: times are read as they are written.',
        ]
      : []),
  ];
}

/** Events with dissolves half before and half after the join: the one before plays on for that half, this one begins later. */
function centred(events: readonly ReadEvent[], hz: number): ReadEvent[] {
  const grown = (e: ReadEvent, frames: number, atEnd: boolean): ReadEvent => {
    const source = (frames * Math.abs(e.speed)) / hz;
    // Played backward the end of an event is the lower end of its source.
    const atOut = atEnd === e.speed >= 0;
    return {
      ...e,
      frames: e.frames! + frames,
      inS: atOut ? e.inS : Math.max(0, e.inS - source),
      outS: atOut ? e.outS + source : e.outS,
    };
  };
  const made = [...events];
  events.forEach((e, i) => {
    const half = Math.min(Math.floor((e.dissolve ?? 0) / 2), e.frames! - 1);
    if (half <= 0) return;
    made[i] = grown(made[i]!, -half, false);
    made[i - 1] = grown(made[i - 1]!, half, true);
  });
  return made;
}
