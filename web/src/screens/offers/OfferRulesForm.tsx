import { useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import {
  type OfferDocument,
  type OfferRules,
  offerRulesQuery,
  type ShopSettings,
  saveOfferRules,
} from "@/api/offers";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { ON_SCREEN, SaveButtons } from "@/components/editing/SaveButtons";
import { useEdited } from "@/components/editing/useEdited";
import { Part } from "@/components/Part";
import type { Version } from "@/lib/editing/document";
import { Field, inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";
import { PartnerLinks } from "./PartnerLinks";
import { ShopRules } from "./ShopRules";

function versionOf({ version, document }: OfferRules): Version<OfferDocument> {
  return { number: version, value: document };
}

/** The shops, the partner links and the disclosure of a blog, edited together. */
export function OfferRulesForm({ blog, rules }: { blog: string; rules: OfferRules }) {
  const tell = useTell();
  const queries = useQueryClient();
  const edited = useEdited<OfferDocument, OfferRules>({
    document: `offers ${blog}`,
    saved: useMemo(() => versionOf(rules), [rules]),
    save: (document, version) => saveOfferRules(blog, document, version),
    versionOf,
    fetchLatest: async () => versionOf(await queries.fetchQuery({ ...offerRulesQuery(blog), staleTime: 0 })),
    refresh: [keys.offers(blog), keys.blog(blog)],
    onSaved: () => tell("Saved. The pages of the blog follow at once."),
  });
  const { now, error } = edited;
  const set = (part: Partial<OfferDocument>) => edited.edit((before) => ({ ...before, ...part }));
  const shops = [...new Set([...rules.shops.map(({ shop }) => shop), ...now.shops.map(({ shop }) => shop)])];
  const setShop = (shop: ShopSettings) =>
    set({ shops: [...now.shops.filter((other) => other.shop !== shop.shop), shop] });
  return (
    <form
      className="mx-auto max-w-3xl space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        edited.save();
      }}
    >
      <EditGuard edited={edited} />
      <EditNotices
        edited={edited}
        what="the rules of the shops"
        fields={["partners", "shops", "disclosure"]}
      />
      <Part
        title="Shops"
        text="A price that is older than the limit is shown nowhere: readers see the way to the shop instead."
      >
        <ShopRules shops={shops} rules={now.shops} onChange={setShop} />
        {faultAt(error, "document.shops", true) && (
          <p role="alert" className="text-madder text-xs">
            {faultAt(error, "document.shops", true)}
          </p>
        )}
      </Part>
      <Part
        title="Partner links"
        text="Every link to these hosts gets your tag when a page is shown, in old posts too, and is marked as sponsored."
      >
        <PartnerLinks
          links={now.partners}
          untagged={rules.untagged_hosts}
          faultAt={(path) => faultAt(error, `document.partners.${path}`)}
          onChange={(partners) => set({ partners })}
        />
        <div className="mt-4">
          <Field
            label="Disclosure"
            hint="Stands under every post with a partner link. {% offer disclosure %} in a template puts it elsewhere."
          >
            <input
              className={inputLook}
              maxLength={500}
              placeholder="We earn a share when you buy through these links."
              value={now.disclosure}
              onChange={(event) => set({ disclosure: event.target.value })}
            />
          </Field>
        </div>
        <label className="mt-3 flex items-center gap-2">
          <input
            type="checkbox"
            checked={now.counts_links}
            onChange={(event) => set({ counts_links: event.target.checked })}
          />
          Count how often the links of offers are followed: without cookies, and without keeping who it was
        </label>
      </Part>
      <Part
        title="Readers’ lists"
        text="Readers put products on a list, which their own browser keeps, and hand it over to the shop’s basket. It works without scripts."
      >
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={now.has_basket}
            onChange={(event) => set({ has_basket: event.target.checked })}
          />
          Prices have a button “Put on my list”
        </label>
      </Part>
      <div className="flex items-center justify-end gap-2">
        <SaveButtons edited={edited} what="the rules of the shops" keys={ON_SCREEN} />
      </div>
    </form>
  );
}
