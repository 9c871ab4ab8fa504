import type { OfferFault, OfferSort, OfferState } from "@/api/offers";
import type { LozengeKind } from "@/ui/Lozenge";

/** What readers see of an offer. */
export const STATE_WORDS: Record<OfferState, string> = {
  fresh: "Shown",
  old: "Too old",
  held: "Held",
  no_price: "No price",
  not_told: "Not told",
  withdrawn: "No longer sold",
};

export const STATE_MARKS: Record<OfferState, LozengeKind> = {
  fresh: "publish",
  old: "waiting",
  held: "hold",
  no_price: "refused",
  not_told: "private",
  withdrawn: "idle",
};

/** Why the last reading gave no price. */
export const FAULT_WORDS: Record<OfferFault, string> = {
  no_price: "the shop states no price",
  not_a_price: "what the shop states is no single price",
  no_currency: "the shop states no currency",
  other_currency: "the price came in another currency than before",
  other_product: "the answer was about another product",
  jump: "the price differs from the one before by more than the limit of this shop",
  missing: "the shop did not have it when it was last asked",
};

export const SORT_WORDS: Record<OfferSort, string> = {
  title: "by title",
  read: "newest reading first",
  oldest: "oldest reading first",
  price: "cheapest first",
  dearest: "dearest first",
};

export const STOCK_WORDS: Record<string, string> = {
  in_stock: "in stock",
  out_of_stock: "out of stock",
  on_order: "on order",
  withdrawn: "no longer sold",
};

/** “89.00 EUR” as people write it; a dash for none. */
export function money(amount: string | null, currency: string): string {
  if (amount === null) return "–";
  return new Intl.NumberFormat("en-GB", { style: "currency", currency }).format(Number(amount));
}

/** Where on a page a link stands. */
export const BLOCK_WORDS: Record<string, string> = {
  price: "price with its button",
  compare: "comparison",
  best: "list of the best",
  basket: "basket",
};
