import type { Song } from '@skipback/core/project/schema';
import { useEffect, useRef, useState } from 'react';
import { setBeatsView, useBeatsView } from '../state/beats-view';
import { songNow } from '../state/song';
import { SongPlayer } from './song-player';

export interface SongPlaying {
  readonly playing: boolean;
  /** The instant under the playhead, seconds, while it stands. */
  readonly atS: number;
  readonly clicks: boolean;
  setClicks(on: boolean): void;
  /** The instant heard right now, seconds. */
  now(performanceMs?: number): number;
  toggle(): void;
  seek(atS: number): void;
}

/** Plays the song by itself from the playhead; the click follows the grid as it is corrected. */
export function useSongPlayer(song: Song | null, loop: { from: number; to: number } | null): SongPlaying {
  const player = useRef<SongPlayer>(undefined);
  const [playing, setPlaying] = useState(false);
  const { atS, clicks } = useBeatsView();
  const setAtS = (to: number) => setBeatsView({ atS: to });
  const setClicks = (on: boolean) => setBeatsView({ clicks: on });
  const wantsClicks = useRef(clicks);
  useEffect(() => void (wantsClicks.current = clicks));
  useEffect(() => () => player.current?.close(), []);

  const play = async (fromS: number) => {
    if (!song) return;
    const p = (player.current ??= new SongPlayer());
    await p.play(song, fromS, loop, () => (wantsClicks.current ? (songNow()?.grid ?? null) : null));
    setPlaying(true);
  };
  const stop = () => {
    const p = player.current;
    if (p?.playing) setAtS(Math.min(song?.lengthS ?? 0, p.heardAt(performance.now())));
    p?.stop();
    setPlaying(false);
  };
  return {
    playing,
    atS,
    clicks,
    setClicks,
    now: (performanceMs = performance.now()) =>
      player.current?.playing ? player.current.heardAt(performanceMs) : atS,
    toggle: () => (playing ? stop() : void play(atS >= (song?.lengthS ?? 0) - 0.05 ? 0 : atS)),
    seek: (to) => {
      const inside = Math.min(song?.lengthS ?? 0, Math.max(0, to));
      setAtS(inside);
      if (playing) void play(inside);
    },
  };
}
