import type { ShopSettings } from "@/api/offers";
import { inputLook } from "@/ui/Field";

const USUAL = { hours: 24, tells_prices: true, jump_percent: 50, basket: "" };

interface ShopRulesProps {
  /** All shops with products or rules. */
  shops: readonly string[];
  rules: readonly ShopSettings[];
  onChange: (rules: ShopSettings) => void;
}

/** For each shop: how old a price may be, whether it may be told, and which change is held. */
export function ShopRules({ shops, rules, onChange }: ShopRulesProps) {
  if (!shops.length)
    return <p className="text-ink3">A shop appears here with the first product that is read from it.</p>;
  return (
    <ul>
      {shops.map((shop) => {
        const now: ShopSettings = { ...USUAL, shop, ...rules.find((rule) => rule.shop === shop) };
        return (
          <li
            key={shop}
            className="flex flex-wrap items-center gap-x-4 gap-y-1 border-line2 border-t py-2 first:border-0"
          >
            <span className="min-w-40 font-semibold">{shop}</span>
            <label className="flex items-center gap-1.5">
              shown for
              <input
                type="number"
                aria-label={`Hours for ${shop}`}
                min={1}
                max={744}
                className={`${inputLook} !w-20 !py-0.5`}
                value={now.hours}
                onChange={(event) => onChange({ ...now, hours: Number(event.target.value) })}
              />
              hours
            </label>
            <label className="flex items-center gap-1.5">
              held when it changes by more than
              <input
                type="number"
                aria-label={`Held change for ${shop}, per cent`}
                min={0}
                max={1000}
                className={`${inputLook} !w-20 !py-0.5`}
                value={now.jump_percent}
                onChange={(event) => onChange({ ...now, jump_percent: Number(event.target.value) })}
              />
              %
            </label>
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={now.tells_prices}
                onChange={(event) => onChange({ ...now, tells_prices: event.target.checked })}
              />
              may be told
            </label>
            <input
              aria-label={`Basket of ${shop}`}
              className={`${inputLook} !py-0.5`}
              placeholder="Its basket: https://shop.example/basket?add={items}"
              value={now.basket}
              onChange={(event) => onChange({ ...now, basket: event.target.value })}
            />
          </li>
        );
      })}
    </ul>
  );
}
