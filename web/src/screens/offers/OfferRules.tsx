import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { offerRulesQuery } from "@/api/offers";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { LibraryTabs } from "@/screens/library/LibraryTabs";
import { Scroll } from "@/ui/Scroll";
import { OfferRulesForm } from "./OfferRulesForm";
import { OfferTabs } from "./OfferTabs";

/** What the blog says of shops: how old prices may be, partner links, and the line that discloses them. */
export default function OfferRules() {
  const { blog = "" } = useParams();
  const may = useMay();
  const owner = may("owner");
  const found = useQuery({ ...offerRulesQuery(blog), enabled: owner });
  return (
    <>
      <Head title="Shops and partner links" facts={<LibraryTabs />} />
      <div className="flex shrink-0 items-center border-line border-b bg-sheet px-4 py-2">
        <OfferTabs />
      </div>
      <Scroll label="Shops and partner links" className="min-h-0 flex-1 p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {owner && found.isPending && <Loading what="the rules of the shops" rows={4} />}
        {!owner && <Empty title="For owners" text="Owners of the blog set partner links. Ask one of them." />}
        {found.data && owner && <OfferRulesForm key={blog} blog={blog} rules={found.data} />}
      </Scroll>
    </>
  );
}
