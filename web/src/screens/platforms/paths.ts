type Step = string | number;

const PLAIN = /^[A-Za-z_][A-Za-z0-9_]*$/;

/** Steps as a JMESPath: dotted names, unusual ones in quotes, indexes in brackets. */
export function written(steps: readonly Step[]): string {
  return steps.reduce<string>((path, step) => {
    if (typeof step === "number") return `${path}[${step}]`;
    const name = PLAIN.test(step) ? step : JSON.stringify(step);
    return path ? `${path}.${name}` : name;
  }, "");
}

/** The path of the list around a picked value: up to the first index. */
function listOf(steps: readonly Step[]): number {
  return steps.findIndex((step) => typeof step === "number");
}

/** The paths for a picked value: of the list, and of the value in an entry. */
export function pointedAt(steps: readonly Step[]): { list: string; field: string } {
  const place = listOf(steps);
  if (place < 0) return { list: written(steps), field: "" };
  return { list: written(steps.slice(0, place)), field: written(steps.slice(place + 1)) };
}
