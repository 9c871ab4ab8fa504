import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { waitingQuery } from "@/api/comments";
import { heldQuery } from "@/api/posts";
import { Tabs } from "@/components/Tabs";
import { desk } from "@/lib/blog-path";
import { count } from "@/lib/format";

/** Held posts and comments, with their numbers. */
export function ReviewTabs() {
  const { blog = "" } = useParams();
  const held = useQuery(heldQuery(blog)).data?.states?.held ?? 0;
  const waiting = useQuery(waitingQuery(blog)).data?.states.waiting ?? 0;
  const tabs = [
    { name: "Held posts", to: desk.review(blog), badge: count(held) },
    { name: "Comments", to: desk.comments(blog), badge: count(waiting) },
  ];
  return <Tabs label="Review" tabs={tabs} />;
}
