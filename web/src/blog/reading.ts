import { keptColours, offerColours, offerSharing, showColours } from "./choices";

// Before the page is drawn, so that it does not flash in other colours.
showColours(keptColours());
document.addEventListener("DOMContentLoaded", () => {
  offerColours();
  offerSharing();
});
