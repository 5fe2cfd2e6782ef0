import { z } from 'zod';

/** Sounds that are made here: from the path by themselves, or placed by hand. */
export const MADE_KINDS = ['whoosh', 'scratch', 'spool', 'thump', 'riser', 'swell'] as const;
export const MadeKindSchema = z.enum(MADE_KINDS);
export type MadeKind = z.infer<typeof MadeKindSchema>;

/** What each is called, when it comes by itself, and how long it is when placed by hand. */
export const MADE_WORDS: Record<
  MadeKind,
  { readonly name: string; readonly plural: string; readonly when: string; readonly lengthS: number }
> = {
  whoosh: {
    name: 'whoosh',
    plural: 'whooshes',
    when: 'where it runs fast: louder and brighter with the speed',
    lengthS: 0.8,
  },
  scratch: {
    name: 'record scratch',
    plural: 'record scratches',
    when: 'under short strokes back and forth, as a record would sound under them',
    lengthS: 0.6,
  },
  spool: {
    name: 'tape spool',
    plural: 'tape spools',
    when: 'under long passes of more than three times the speed',
    lengthS: 1,
  },
  thump: {
    name: 'thump',
    plural: 'thumps',
    when: 'where it stops dead: a hold, or a hard fall of speed',
    lengthS: 0.5,
  },
  riser: {
    name: 'riser',
    plural: 'risers',
    when: 'while it speeds up to twice the speed or more',
    lengthS: 2,
  },
  swell: {
    name: 'reverse swell',
    plural: 'reverse swells',
    when: 'under long passes backward, up to the turn',
    lengthS: 1,
  },
};
