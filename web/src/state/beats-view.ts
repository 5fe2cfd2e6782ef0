import type { AccentKey } from '@skipback/core/beats/accent-edits';
import type { View } from '@skipback/core/edit/view';
import { create } from 'zustand';

/** Where one is on Beats. */
export interface BeatsView {
  /** The stretch of the song that is seen, seconds; null as it begins. */
  readonly view: View | null;
  /** The instant under the playhead while it stands, seconds. */
  readonly atS: number;
  /** Whether beats click while it plays. */
  readonly clicks: boolean;
  /** The chosen beat, by its place. */
  readonly chosen: number | null;
  /** The chosen accent. */
  readonly accent: AccentKey | null;
  /** How many bars are looped; `0` plays on. */
  readonly bars: '0' | '1' | '2' | '4';
  /** The stretch that is looped, seconds. */
  readonly loop: View | null;
}

export const BEATS_AT_FIRST: BeatsView = {
  view: null,
  atS: 0,
  clicks: true,
  chosen: null,
  accent: null,
  bars: '0',
  loop: null,
};

export const useBeatsView = create<BeatsView>(() => BEATS_AT_FIRST);
export const setBeatsView = (change: Partial<BeatsView>): void => useBeatsView.setState(change);

/** Seconds of the song that are seen at first. */
const FIRST_S = 16;

/** What is seen of a song of a length: what was seen last, where the song is as long as that. */
export const seenOf = (view: View | null, lengthS: number): View =>
  view && view.to <= lengthS ? view : { from: 0, to: Math.min(FIRST_S, lengthS) };

/** Chooses a beat, at an instant of a song of a length, and brings it into sight. */
export const chooseBeat = (place: number, atS: number, lengthS: number): void =>
  bringIn({ chosen: place, accent: null }, atS, lengthS);

/** The same for an accent. */
export const chooseAccent = ({ at, band }: AccentKey, lengthS: number): void =>
  bringIn({ accent: { at, band }, chosen: null }, at, lengthS);

function bringIn(choice: Partial<BeatsView>, atS: number, lengthS: number): void {
  const view = seenOf(useBeatsView.getState().view, lengthS);
  const length = view.to - view.from;
  const from = Math.max(0, Math.min(lengthS - length, atS - length / 2));
  const inSight = atS >= view.from && atS <= view.to;
  setBeatsView({ ...choice, ...(!inSight && { view: { from, to: from + length } }) });
}
