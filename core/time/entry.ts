/** A percentage with as many decimals as it needs, two at most. */
export function percentText(percent: number): string {
  return `${Number(percent.toFixed(Math.abs(percent) < 10 ? 2 : 1))} %`;
}
