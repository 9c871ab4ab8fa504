const AT = /^line (\d+), column (\d+): /;

/** The position of a fault in a template, in characters from its start; null without a place. */
export function offsetOf(fault: string, template: string): number | null {
  const match = AT.exec(fault);
  if (!match) return null;
  const lines = template.split("\n");
  const line = Math.min(Number(match[1]), lines.length) - 1;
  const before = lines.slice(0, line).reduce((sum, text) => sum + text.length + 1, 0);
  return Math.min(before + Number(match[2]) - 1, before + (lines[line]?.length ?? 0));
}
