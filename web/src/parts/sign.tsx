import { colors } from '../theme';

/** The product's sign: a thread there, back and there again. */
export function Sign() {
  return (
    <svg
      width="30"
      height="22"
      viewBox="0 0 30 22"
      aria-hidden="true"
      fill="none"
      strokeWidth="3"
      strokeLinecap="round"
    >
      <path d="M3 18 10.5 4" stroke={colors.forward} />
      <path d="M10.5 4 17 18" stroke={colors.backward} />
      <path d="M17 18 26 4" stroke={colors.hold} />
    </svg>
  );
}
