/** What is over the page for a moment: focus that was in it has nowhere to return to. */
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

/** Begin in what a dialog is for; where nothing in it takes the focus yet, in the dialog itself, not on Close. */
export function focusInside(event: Event): void {
  const dialog = event.currentTarget as HTMLElement;
  if (dialog.querySelector("input, textarea, select, a[href], button:not([aria-label=Close])")) return;
  event.preventDefault();
  dialog.focus();
}

/** Put the focus back where it was before something came over the page; else on the name of the screen. */
export function returnFocus(): void {
  if (last?.isConnected) last.focus();
  else document.querySelector<HTMLElement>("h1")?.focus();
}

/** For what Radix does when something over the page is closed. */
export function returningFocus(event: Event): void {
  event.preventDefault();
  returnFocus();
}
