import { Link } from "react-router";
import type { Product } from "@/api/offers";
import { desk } from "@/lib/blog-path";
import { ago, plural } from "@/lib/format";
import { Lozenge } from "@/ui/Lozenge";
import { FAULT_WORDS, money, STATE_MARKS, STATE_WORDS, STOCK_WORDS } from "./words";

/** A product in the list: what it costs, how old that is, and what readers see. */
export function OfferRow({ blog, product }: { blog: string; product: Product }) {
  const { state, fault } = product;
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_120px_110px_130px_90px] items-center gap-4 border-line2 border-t px-5 py-2 first:border-0">
      <span className="min-w-0">
        <Link className="block truncate font-semibold hover:text-verd" to={desk.offer(blog, product.id)}>
          {product.title}
        </Link>
        <span className="block truncate text-ink3 text-xs">
          {product.number} · {product.shop}
          {fault && <span className="text-madder"> · {FAULT_WORDS[fault]}</span>}
        </span>
      </span>
      <span className="text-right tabular-nums">
        {money(product.price, product.currency)}
        {product.list_price && (
          <s className="block text-ink3 text-xs">{money(product.list_price, product.currency)}</s>
        )}
      </span>
      <span className="text-ink3 text-xs">{STOCK_WORDS[product.availability] ?? ""}</span>
      <span className="flex items-center gap-1.5 text-xs">
        <Lozenge kind={STATE_MARKS[state]} />
        {STATE_WORDS[state]}
        <span className="text-ink3" title={`Read ${product.read_at}`}>
          {ago(product.read_at)}
        </span>
      </span>
      <span className="text-right text-ink3 text-xs">
        {plural(product.posts, "post")}
        {product.clicks > 0 && (
          <span className="block" title="Followed links of thirty days">
            {plural(product.clicks, "click")}
          </span>
        )}
      </span>
    </li>
  );
}
