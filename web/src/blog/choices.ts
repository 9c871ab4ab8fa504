/** What a reader can choose on the public pages. Without scripts nothing is missing. */

const KEPT = "colours";
const CHOICES = ["device", "day", "night"] as const;

export type Colours = (typeof CHOICES)[number];

/** The colours that a reader has chosen in this browser. */
export function keptColours(): Colours {
  try {
    const kept = localStorage.getItem(KEPT);
    return CHOICES.find((choice) => choice === kept) ?? "device";
  } catch {
    return "device";
  }
}

/** Shows the pages by day, by night, or as the device is set. */
export function showColours(choice: Colours): void {
  document.documentElement.classList.toggle("by-day", choice === "day");
  document.documentElement.classList.toggle("night", choice === "night");
}

function keepColours(choice: Colours): void {
  try {
    if (choice === "device") localStorage.removeItem(KEPT);
    else localStorage.setItem(KEPT, choice);
  } catch {
    // A browser without storage shows the next page as the device is set.
  }
}

function button(place: HTMLElement, label: string): HTMLButtonElement {
  const made = document.createElement("button");
  made.type = "button";
  made.textContent = label;
  place.append(made);
  return made;
}

/** Adds the button that goes from one choice of colours to the next. Its words stand in the page. */
export function offerColours(): void {
  const place = document.querySelector<HTMLElement>("[data-colours]");
  if (!place) return;
  let chosen = keptColours();
  const press = button(place, place.dataset[chosen] ?? "");
  press.addEventListener("click", () => {
    chosen = CHOICES[(CHOICES.indexOf(chosen) + 1) % CHOICES.length] ?? "device";
    showColours(chosen);
    keepColours(chosen);
    press.textContent = place.dataset[chosen] ?? "";
  });
}

/** Adds the button that passes a post on: by the dialog of the browser, or by copying its address. */
export function offerSharing(): void {
  const place = document.querySelector<HTMLElement>("[data-passing]");
  const address = document.querySelector<HTMLMetaElement>('meta[property="og:url"]')?.content;
  if (!place || !address) return;
  const title = document.querySelector("h1")?.textContent ?? document.title;
  // Not every browser has both, and none has the clipboard without TLS.
  const has: Partial<Navigator> = navigator;
  if (has.share) {
    const press = button(place, place.dataset.share ?? "");
    press.addEventListener("click", () => {
      // A reader who closes the dialog has changed their mind.
      navigator.share({ title, url: address }).catch(() => undefined);
    });
  } else if (has.clipboard) {
    const press = button(place, place.dataset.copy ?? "");
    press.addEventListener("click", () => {
      navigator.clipboard.writeText(address).then(
        () => {
          press.textContent = place.dataset.copied ?? "";
        },
        () => undefined,
      );
    });
  }
}
