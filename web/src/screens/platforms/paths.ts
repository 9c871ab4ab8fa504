type Step = string | number;

const PLAIN = /^[A-Za-z_][A-Za-z0-9_]*$/;

/** Steps as a JMESPath: names with dots between, odd ones in quotes, places in brackets. */
export function written(steps: readonly Step[]): string {
  return steps.reduce<string>((path, step) => {
    if (typeof step === "number") return `${path}[${step}]`;
    const name = PLAIN.test(step) ? step : JSON.stringify(step);
    return path ? `${path}.${name}` : name;
  }, "");
}

/** Where the list stands of which a value was pointed at: up to the first place in a list. */
function listOf(steps: readonly Step[]): number {
  return steps.findIndex((step) => typeof step === "number");
}

/** What pointing at a value writes: the path of the list, and that of the value in an entry of it. */
export function pointedAt(steps: readonly Step[]): { list: string; field: string } {
  const place = listOf(steps);
  if (place < 0) return { list: written(steps), field: "" };
  return { list: written(steps.slice(0, place)), field: written(steps.slice(place + 1)) };
}
