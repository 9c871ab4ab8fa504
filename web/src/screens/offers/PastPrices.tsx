import type { ProductPage } from "@/api/offers";
import { moment } from "@/lib/format";
import { money, STOCK_WORDS } from "./words";

/** The prices of a product, newest first: one row for each change. */
export function PastPrices({ past }: { past: ProductPage["past"] }) {
  if (!past.length) return <p className="text-ink3">No price has been read yet.</p>;
  return (
    <table className="w-full text-left">
      <thead className="text-ink3 text-xs">
        <tr>
          <th className="font-normal">From</th>
          <th className="text-right font-normal">Price</th>
          <th className="text-right font-normal">List price</th>
          <th className="pl-4 font-normal">Stock</th>
        </tr>
      </thead>
      <tbody className="tabular-nums">
        {past.map((row) => (
          <tr key={row.at} className="border-line2 border-t">
            <td className="py-1">{moment(row.at)}</td>
            <td className="text-right">{money(row.price, row.currency)}</td>
            <td className="text-right text-ink3">{row.list_price && money(row.list_price, row.currency)}</td>
            <td className="pl-4 text-ink3">{STOCK_WORDS[row.availability]}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
