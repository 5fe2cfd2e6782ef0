import type { Place } from '@skipback/core/places/place';
import { readPlace } from '@skipback/core/places/read';
import { placeText } from '@skipback/core/places/words';
import { framesAndSeconds } from '@skipback/core/time/amount';
import type { Rational } from '@skipback/core/time/rational';
import { usePlaceWords } from '../state/place-words';
import { ValueField } from './value-field';

interface Props {
  readonly label: string;
  readonly value: Place;
  /** The piece it lies in; null for the whole result. */
  readonly pieceId: string | null;
  readonly least?: number;
  readonly most?: number;
  /** With it, plain frames are told in seconds too. */
  readonly rate?: Rational;
  /** Whether a plain number is a frame of the clip. */
  readonly counts?: 'clip' | undefined;
  readonly hint?: string;
  readonly width?: number;
  /** Whether plain frames say how long after something, not which frame. */
  readonly lengths?: boolean;
  readonly onChange: (place: Place) => void;
}

/** Where something happens, as it is said and typed: `40`, `source 93`, `mark catch`, `beat 5`, `end - 12 f`. */
export function PlaceField({
  label,
  value,
  pieceId,
  least = 0,
  most = 10_000_000,
  rate,
  counts,
  hint,
  width = 128,
  lengths = false,
  onChange,
}: Props) {
  const { telling, reading: as, offers } = usePlaceWords(pieceId);
  const plain = lengths ? 0 : telling.first;
  const reading = (of?: 'clip') => ({ ...as(of), first: plain });
  const text =
    typeof value !== 'number'
      ? placeText(value, telling)
      : rate
        ? framesAndSeconds(Number((value + plain).toFixed(2)), rate)
        : String(Number((value + plain).toFixed(2)));
  return (
    <ValueField
      label={label}
      text={text}
      hint={hint ?? 'A frame or a time, source 93, a mark, beat 5, kick 3, 1/3, end - 12 f'}
      width={width}
      offers={offers}
      onEnter={(typed) => {
        const place = readPlace(typed, reading(counts), { least, most, shown: text });
        if (typeof place === 'string') return place;
        onChange(place);
        return true;
      }}
      onStep={(by) => onChange(stepped(value, by, least, most))}
    />
  );
}

/** A place some frames on; a beat, a bar or an accent the next of them. */
function stepped(place: Place, by: number, least: number, most: number): Place {
  if (typeof place === 'number') return Math.min(most, Math.max(least, Math.round(place + by)));
  if ('beats' in place) return { beats: place.beats + by * 0.5 };
  if ('beat' in place) return { ...place, beat: Math.max(1, place.beat + by) };
  if ('bar' in place) return { ...place, bar: Math.max(1, place.bar + by) };
  if ('accent' in place) return { ...place, accent: Math.max(1, place.accent + Math.round(by)) };
  if ('source' in place) return { ...place, source: Math.max(0, place.source + Math.round(by)) };
  if ('end' in place) return { end: Math.max(0, place.end - Math.round(by)) };
  const plus = typeof place.plus === 'number' || place.plus === undefined ? (place.plus ?? 0) : undefined;
  return plus === undefined ? place : { ...place, plus: Math.round(plus + by) };
}
