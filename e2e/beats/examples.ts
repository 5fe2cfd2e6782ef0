/** `tsx e2e/beats/examples.ts SEED FILE`: what there is to learn from the songs of a seed; a part of `npm run beats:fit`. */
import { writeFileSync } from 'node:fs';
import { serialize } from 'node:v8';
import { onsetCurves } from '@skipback/core/beats/onsets';
import { FOLD_BEATS, evidenceOf, patternsOf } from '@skipback/core/beats/pattern';
import { fMeasure } from '@skipback/core/beats/score';
import { tempoPath } from '@skipback/core/beats/tempo';
import { waysToHear } from '@skipback/core/beats/ways';
import { type KindExample, type KnownSong, cutOut } from './heard';
import { songsOf } from './sets';

/** Ways count as right from this F on, if none is so much better. */
const LEAST_F = 0.75;
const NEAR_BEST = 0.1;
/** Bars of a way tell nothing where none of its beginnings has this F; else those that are nearly as good as the best are right. */
const LEAST_BARS = 0.5;
const NEAR_MOST = 0.05;

/** What there is to learn from a song; nothing where no way to hear it is right. */
function exampleOf(song: KnownSong): KindExample | undefined {
  const curves = onsetCurves(song.mono, song.rateHz);
  const evidence = evidenceOf(curves);
  const patterns: number[][] = [];
  const told = waysToHear(curves, tempoPath(curves.whole, curves.rateHz)).map((way) => {
    patterns.push(...patternsOf(evidence, way));
    const beats = way.beats.map((b) => b / curves.rateHz);
    const bars = Array.from({ length: FOLD_BEATS }, (_, first) =>
      fMeasure(
        beats.filter((_, i) => i % FOLD_BEATS === first),
        song.downbeats,
      ),
    );
    return { f: fMeasure(beats, song.beats), bars };
  });
  const best = Math.max(...told.map(({ f }) => f));
  const right = told.flatMap(({ f, bars }) => {
    const most = Math.max(...bars);
    // Of bars of two, two beginnings are right; of others that the fold does not hold, all are.
    const anyBar = FOLD_BEATS % song.beatsPerBar !== 0 || most < LEAST_BARS;
    return bars.map((b) => f >= Math.max(LEAST_F, best - NEAR_BEST) && (anyBar || b > most - NEAR_MOST));
  });
  return right.some((r) => r)
    ? { name: song.name, patterns: Float32Array.from(patterns.flat()), right }
    : undefined;
}

const [seed, file] = process.argv.slice(2);
const examples: KindExample[] = [];
let count = 0;
for (const song of songsOf([Number(seed)])) {
  // One in three is short, down to a loop of eight seconds.
  const example = exampleOf(count % 3 === 2 ? cutOut(song, 0, 8 + (count % 29)) : song);
  if (example) examples.push(example);
  if (++count % 100 === 0) console.log(`seed ${seed}: ${count} songs, ${examples.length} to learn from`);
}
writeFileSync(file!, serialize(examples));
