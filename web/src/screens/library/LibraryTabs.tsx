import { useParams } from "react-router";
import { Tabs } from "@/components/Tabs";
import { desk } from "@/lib/blog-path";

/** Things shared by all campaigns of the blog. */
export function LibraryTabs() {
  const { blog = "" } = useParams();
  const tabs = [
    { name: "Word lists and tables", to: desk.lists(blog) },
    { name: "Page readers", to: desk.readers(blog) },
    { name: "Pictures", to: desk.pictures(blog) },
    { name: "Films and sound", to: desk.recordings(blog) },
    { name: "Offers", to: desk.offers(blog), all: true },
    { name: "Categories", to: desk.names(blog, "category") },
    { name: "Tags", to: desk.names(blog, "tag") },
    { name: "Bylines", to: desk.names(blog, "byline") },
  ];
  return <Tabs label="Library" tabs={tabs} />;
}
