import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Notices = Schemas["ChoiceOut"];

export const noticesQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.notices(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/notices", { params: { path: { blog } } })),
  });

export function setNotices(blog: string, body: Schemas["ChoiceIn"]): Promise<Notices> {
  return unwrap(client.PUT("/api/blogs/{blog}/notices", { params: { path: { blog } }, body }));
}

export const campaignAddressQuery = (blog: string, slug: string) =>
  queryOptions({
    queryKey: keys.campaign(blog, slug, "address"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/campaigns/{slug}/address", { params: { path: { blog, slug } } })),
  });

export function setCampaignAddress(
  blog: string,
  slug: string,
  email: string,
): Promise<Schemas["AddressOut"]> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/campaigns/{slug}/address", {
      params: { path: { blog, slug } },
      body: { email },
    }),
  );
}
