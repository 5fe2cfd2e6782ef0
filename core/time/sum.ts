/** What a sum is made of: what one of a unit is, undefined for a unit that is not known; and a time such as `0:02:15`. */
export interface Terms {
  /** `''` is a number by itself. */
  factor(unit: string): number | undefined;
  time?(text: string): number | undefined;
}

type Token =
  | { readonly kind: 'number'; readonly value: number }
  | { readonly kind: 'time' | 'unit' | 'sign'; readonly text: string };

const TOKEN =
  /\s*(?:(?<time>\d+(?:[:;]\d+)+(?:[.,]\d+)?)|(?<number>\d+(?:[.,]\d*)?|[.,]\d+)|(?<sign>[+\-−*/÷()])|(?<unit>[^\d\s+\-−*/÷().,:;][^\d\s+\-−*/÷()]*))/uy;

function tokensOf(text: string): Token[] | undefined {
  const tokens: Token[] = [];
  TOKEN.lastIndex = 0;
  while (TOKEN.lastIndex < text.length) {
    const groups = TOKEN.exec(text)?.groups;
    if (!groups) return undefined;
    const { time, number, sign, unit } = groups;
    if (time !== undefined) tokens.push({ kind: 'time', text: time });
    else if (number !== undefined) tokens.push({ kind: 'number', value: Number(number.replace(',', '.')) });
    else if (sign !== undefined)
      tokens.push({ kind: 'sign', text: sign === '−' ? '-' : sign === '÷' ? '/' : sign });
    else tokens.push({ kind: 'unit', text: unit!.toLowerCase() });
  }
  return tokens;
}

/** A value, and whether it has its unit already: a number alone takes that of what it is multiplied with. */
interface Value {
  readonly value: number;
  readonly named: boolean;
}

/** One that is multiplied: what one of its unit is, where it has one. */
interface Factor extends Value {
  readonly factor?: number | undefined;
}

/**
 * What a sum comes to, as people type it: `60 + 10`, `90/2`, `2 bars - 1 f`, `(1 s + 10 f) * 2`, with `+ - * /` and
 * parentheses. Of factors one may have a unit, which is that of all of them (`1/4 b`). Undefined where it is no sum, or
 * has a unit that is not known.
 */
export function sumOf(typed: string, terms: Terms): number | undefined {
  const tokens = tokensOf(typed.trim());
  if (!tokens || tokens.length === 0) return undefined;
  let at = 0;
  const sign = (...texts: readonly string[]): string | undefined => {
    const token = tokens[at];
    if (token?.kind !== 'sign' || !texts.includes(token.text)) return undefined;
    at++;
    return token.text;
  };
  const alone = ({ value, named }: Value): number | undefined => {
    if (named) return value;
    const factor = terms.factor('');
    return factor === undefined ? undefined : value * factor;
  };
  const sum = (): Value | undefined => {
    const parts: Value[] = [];
    for (let by = 1; ;) {
      const next = product();
      if (!next) return undefined;
      parts.push({ ...next, value: by * next.value });
      const operator = sign('+', '-');
      if (!operator) break;
      by = operator === '-' ? -1 : 1;
    }
    // Numbers by themselves may still take a unit from outside their parentheses.
    const named = parts.some((p) => p.named);
    const values = parts.map((p) => (named ? alone(p) : p.value));
    if (values.includes(undefined)) return undefined;
    return { value: values.reduce<number>((total, v) => total + v!, 0), named };
  };
  const product = (): Factor | undefined => {
    let made = factor();
    for (;;) {
      const operator = made && sign('*', '/');
      if (!made || !operator) return made;
      const next = factor();
      if (!next || (made.named && next.named)) return undefined;
      // In `1/4 b` it is the quarter that has the unit.
      const divides = operator === '/';
      if (divides && next.named && next.factor === undefined) return undefined;
      const scale = divides && next.named ? next.factor! * next.factor! : 1;
      made = {
        value: divides ? (made.value / next.value) * scale : made.value * next.value,
        named: made.named || next.named,
        factor: made.factor ?? next.factor,
      };
    }
  };
  const factor = (): Factor | undefined => {
    const negative = sign('+', '-') === '-';
    const found = atom();
    return found && negative ? { ...found, value: -found.value } : found;
  };
  const atom = (): Factor | undefined => {
    if (sign('(')) {
      const inner = sum();
      return inner && sign(')') ? inner : undefined;
    }
    const token = tokens[at];
    if (token?.kind === 'time') {
      at++;
      const value = terms.time?.(token.text);
      return value === undefined ? undefined : { value, named: true };
    }
    if (token?.kind !== 'number') return undefined;
    at++;
    const unit = tokens[at];
    if (unit?.kind !== 'unit') return { value: token.value, named: false };
    at++;
    const one = terms.factor(unit.text);
    return one === undefined ? undefined : { value: token.value * one, named: true, factor: one };
  };
  const whole = sum();
  const value = whole && alone(whole);
  return at === tokens.length && value !== undefined && Number.isFinite(value) ? value : undefined;
}
