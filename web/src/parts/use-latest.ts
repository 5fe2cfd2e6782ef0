import { type RefObject, useLayoutEffect, useRef } from 'react';

/** What a value is at the moment something happens, for what need not be shown anew when it changes. */
export function useLatest<T>(value: T): RefObject<T> {
  const latest = useRef(value);
  useLayoutEffect(() => {
    latest.current = value;
  });
  return latest;
}
