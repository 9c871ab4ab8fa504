import type { TextsCost } from "@/api/editions";
import { plural } from "./format";

const whole = new Intl.NumberFormat("en");
const CENT = 0.01;

function priceWords(price: number): string {
  return price < CENT ? `less than ${CENT}` : `about ${price.toFixed(2)}`;
}

/** What is sent to language services and what it costs: "3 texts with 420 characters to “Machine”, about 0.01 EUR". */
export function costWords(costs: readonly TextsCost[]): string {
  return costs
    .map(({ name, texts, characters, price, currency }) => {
      const sent = `${plural(texts, "text")} with ${whole.format(characters)} characters to “${name}”`;
      return price === null ? sent : `${sent}, ${priceWords(Number(price))} ${currency}`;
    })
    .join("; ");
}
