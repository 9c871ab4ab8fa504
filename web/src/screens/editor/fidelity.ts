/** Elements that the editor writes differently without a visible change. */
const ALIKE: Record<string, string> = { b: "strong", i: "em", del: "s", p: "", tbody: "", span: "" };

function parsed(html: string): HTMLElement {
  const template = document.createElement("template");
  template.innerHTML = html;
  const root = document.createElement("div");
  root.append(template.content.cloneNode(true));
  return root;
}

function tagsOf(root: HTMLElement): Map<string, number> {
  const counts = new Map<string, number>();
  for (const element of root.querySelectorAll("*")) {
    const own = element.tagName.toLowerCase();
    const tag = ALIKE[own] ?? own;
    if (tag) counts.set(tag, (counts.get(tag) ?? 0) + 1);
  }
  return counts;
}

const wordsOf = (root: HTMLElement) => (root.textContent ?? "").replace(/\s+/g, "");

/** The elements that the editor would lose; “text” for lost words. */
export function lost(before: string, after: string): string[] {
  const [left, right] = [parsed(before), parsed(after)];
  const kept = tagsOf(right);
  const gone = [...tagsOf(left)].filter(([tag, number]) => (kept.get(tag) ?? 0) < number).map(([tag]) => tag);
  return wordsOf(left) === wordsOf(right) ? gone : [...gone, "text"];
}
