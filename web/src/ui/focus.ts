/** What is over the page for a moment: focus that was in it has nowhere to return to. */
const OVER = "[role=dialog], [role=alertdialog], [role=menu], [role=listbox][data-radix-select-viewport]";

let last: HTMLElement | null = null;

if (typeof document !== "undefined") {
  document.addEventListener("focusin", ({ target }) => {
    if (target instanceof HTMLElement && target !== document.body && !target.closest(OVER)) last = target;
  });
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
