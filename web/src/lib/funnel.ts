/** The band of the funnel: its height after each stage, and its held part. */
export interface Band {
  outline: string;
  top: string;
  held: string;
}

const TOP = 2;

function curve(points: readonly [number, number][]): string {
  return points
    .map(([x, y], index) => {
      const before = points[index - 1];
      if (!before) return `${x} ${y}`;
      const middle = (before[0] + x) / 2;
      return `C ${middle} ${before[1]} ${middle} ${y} ${x} ${y}`;
    })
    .join(" ");
}

/**
 * Returns the band as SVG paths.
 * `entered` holds how many items came into each stage, `out` how many left the last one kept,
 * `held` how many of those wait for a person.
 */
export function band(
  entered: readonly number[],
  out: number,
  held: number,
  width: number,
  height: number,
): Band {
  const all = Math.max(1, entered[0] ?? 0);
  const counts = [...entered, out];
  const step = width / entered.length;
  const thickness = (value: number) => (value / all) * (height - 2 * TOP);
  const middle = height / 2;
  const at = counts.map((value, index) => ({
    x: index === 0 ? 0 : index * step,
    half: Math.max(value > 0 ? 0.75 : 0, thickness(value) / 2),
  }));
  const upper = at.map(({ x, half }): [number, number] => [x, middle - half]);
  const lower = at.map(({ x, half }): [number, number] => [x, middle + half]).reverse();
  const first = at.at(-2);
  const last = at.at(-1);
  const heldPath =
    held > 0 && first && last
      ? `M ${first.x} ${middle + first.half} ${curveTo(first.x, middle + first.half, last.x, middle + last.half - thickness(held))} L ${last.x} ${middle + last.half} ${curveTo(last.x, middle + last.half, first.x, middle + first.half)} Z`
      : "";
  return {
    outline: `M ${curve(upper)} L ${curve(lower)} Z`,
    top: `M ${curve(upper)}`,
    held: heldPath,
  };
}

function curveTo(x1: number, y1: number, x2: number, y2: number): string {
  const middle = (x1 + x2) / 2;
  return `C ${middle} ${y1} ${middle} ${y2} ${x2} ${y2}`;
}
