/** Elements over the page; focus that was in them has nowhere to return to. */
const OVER = "[role=dialog], [role=alertdialog], [role=menu], [role=listbox][data-radix-select-viewport]";

let last: HTMLElement | null = null;

function remember(element: Element | null): void {
  if (element instanceof HTMLElement && element !== document.body && !element.closest(OVER)) last = element;
}

if (typeof document !== "undefined") {
  document.addEventListener("focusin", ({ target }) => remember(target as Element));
  // A button that opens a menu by the mouse never has the focus.
  document.addEventListener(
    "pointerdown",
    ({ target }) =>
      remember((target as Element).closest?.("button, a[href], input, textarea, select") ?? null),
    true,
  );
}

/** Focuses the first control of a dialog, or the dialog itself, but not Close. */
export function focusInside(event: Event): void {
  const dialog = event.currentTarget as HTMLElement;
  if (dialog.querySelector("input, textarea, select, a[href], button:not([aria-label=Close])")) return;
  event.preventDefault();
  dialog.focus();
}

/** Restores the focus after something over the page has closed, else focuses the screen's name. */
export function returnFocus(): void {
  if (last?.isConnected) last.focus();
  else document.querySelector<HTMLElement>("h1")?.focus();
}

/** For Radix's handler of closing. */
export function returningFocus(event: Event): void {
  event.preventDefault();
  returnFocus();
}
