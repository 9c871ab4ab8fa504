/** The places for offers that a body can have, with what each shows (docs/offers.md). */
export const OFFER_TAGS: Readonly<Record<string, string>> = {
  price: "price with its button; wording: “…” names the button",
  facts: "stock, condition, number, shop",
  features: "what the shop lists of it",
  gallery: "its pictures, side by side",
  rating: "stars with their number",
  reviews: "excerpts of reviews with their source",
  history: "what it cost before",
  best: "the five best rated products",
  disclosure: "the line about partner links",
};
