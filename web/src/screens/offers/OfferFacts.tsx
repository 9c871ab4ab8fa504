import type { ReactNode } from "react";
import type { Product } from "@/api/offers";
import { moment } from "@/lib/format";
import { Lozenge } from "@/ui/Lozenge";
import { FAULT_WORDS, money, STATE_MARKS, STATE_WORDS, STOCK_WORDS } from "./words";

/** What the shop stated last, and what of it readers see until when. */
export function OfferFacts({ product }: { product: Product }) {
  const facts: [string, ReactNode][] = [
    [
      "Readers see",
      <span key="state" className="inline-flex items-center gap-1.5">
        <Lozenge kind={STATE_MARKS[product.state]} /> {STATE_WORDS[product.state]}
        {product.state === "fresh" && product.ends && ` until ${moment(product.ends)}`}
      </span>,
    ],
    ["Price", money(product.price, product.currency)],
    ["List price", product.list_price && money(product.list_price, product.currency)],
    ["Stock", STOCK_WORDS[product.availability]],
    [
      "Rating",
      product.rating &&
        `${product.rating} of 5${product.rating_count ? `, ${product.rating_count} ratings` : ""}`,
    ],
    ["Shop", product.shop],
    ["Read", moment(product.read_at)],
    ["Next reading", product.due_at ? moment(product.due_at) : "none"],
    [
      "Last reading",
      product.fault && (
        <span key="fault" className="text-madder">
          {FAULT_WORDS[product.fault]}
          {product.said && `: “${product.said}”`}
        </span>
      ),
    ],
  ];
  return (
    <section aria-label="Offer" className="sheet-card flex gap-5 p-5">
      {product.picture && (
        <img src={product.picture} alt="" className="size-28 shrink-0 rounded object-cover" loading="lazy" />
      )}
      <dl className="grid grid-cols-[110px_minmax(0,1fr)] gap-x-4 gap-y-1">
        {facts
          .filter(([, value]) => value)
          .map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-ink3">{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
      </dl>
    </section>
  );
}
