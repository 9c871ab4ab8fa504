import Posts from "@/screens/posts/Posts";
import { ReviewTabs } from "./ReviewTabs";

/** The posts that are held for a person. */
export default function Review() {
  return (
    <Posts
      only={{
        state: "held",
        title: "Held posts",
        tabs: <ReviewTabs />,
        empty: "Posts come here when a rule or a source holds them for a person.",
      }}
    />
  );
}
