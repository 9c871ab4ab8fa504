import type { Role } from "@/api/people";
import { desk } from "@/lib/blog-path";

export interface Place {
  name: string;
  to: string;
}

/** Returns the screens and actions that a role may use. */
export function placesOf(blog: string, may: (least: Role) => boolean): Place[] {
  return [
    { name: "Today", to: desk.today(blog) },
    { name: "Campaigns", to: desk.campaigns(blog) },
    { name: "Runs", to: desk.runs(blog) },
    { name: "Items decided in all runs", to: desk.decisions(blog) },
    { name: "Sources", to: desk.sources(blog) },
    { name: "Review held posts", to: desk.review(blog) },
    { name: "Comments", to: desk.comments(blog) },
    { name: "Posts", to: desk.posts(blog) },
    { name: "Word lists and tables", to: desk.lists(blog) },
    { name: "Page readers", to: desk.readers(blog) },
    { name: "Pictures", to: desk.pictures(blog) },
    { name: "Films and sound", to: desk.recordings(blog) },
    { name: "Offers: products and prices", to: desk.offers(blog) },
    { name: "Connections", to: desk.connections(blog) },
    { name: "Language services", to: desk.services(blog) },
    { name: "New source on a platform", to: desk.newPlatformSource(blog) },
    { name: "Categories", to: desk.names(blog, "category") },
    { name: "Tags", to: desk.names(blog, "tag") },
    { name: "Bylines", to: desk.names(blog, "byline") },
    { name: "Takedowns", to: desk.takedowns(blog) },
    { name: "People", to: desk.people(blog) },
    { name: "Your account", to: desk.account(blog) },
    { name: "What the API can do", to: desk.api(blog) },
    ...(may("editor")
      ? [
          { name: "Write a post", to: desk.newPost(blog) },
          { name: "Make a campaign", to: desk.newCampaign(blog) },
          { name: "Make a page reader for a site without a feed", to: desk.newReader(blog) },
          { name: "Add feeds", to: desk.addSources(blog) },
          { name: "Blog file: all rules and sources, out and in", to: desk.blogFile(blog) },
        ]
      : []),
    ...(may("owner")
      ? [
          { name: "Blog settings", to: desk.settings(blog) },
          { name: "Look of the blog", to: desk.look(blog) },
          { name: "Languages of the blog", to: desk.languages(blog) },
          { name: "Retention: how long records are kept", to: desk.retention(blog) },
          { name: "Shops and partner links", to: desk.offerRules(blog) },
          { name: "Audit list", to: desk.audit(blog) },
        ]
      : []),
  ];
}
