import { useParams } from "react-router";
import { Tabs } from "@/components/Tabs";
import { desk } from "@/lib/blog-path";

/** The products, and what the blog says of their shops. */
export function OfferTabs() {
  const { blog = "" } = useParams();
  const tabs = [
    { name: "Products", to: desk.offers(blog) },
    { name: "Followed links", to: desk.offerClicks(blog) },
    { name: "Shops and partner links", to: desk.offerRules(blog) },
  ];
  return <Tabs label="Offers" tabs={tabs} />;
}
