import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Product = Schemas["ProductOut"];
export type ProductPage = Schemas["ProductPageOut"];
export type OfferState = Schemas["OfferState"];
export type OfferSort = Schemas["OfferSort"];
export type OfferFault = Schemas["OfferFault"];
export type OfferRules = Schemas["OfferRulesOut"];
export type OfferDocument = OfferRules["document"];
export type ShopSettings = Schemas["ShopSettings"];
export type PartnerLink = Schemas["PartnerLink"];

export interface OfferFilter {
  search: string;
  state: OfferState | "";
  shop: string;
  sort: OfferSort;
  offset: number;
}

export const offersQuery = (blog: string, filter: OfferFilter) =>
  queryOptions({
    queryKey: keys.offers(blog, filter),
    queryFn: () => {
      const { state, ...rest } = filter;
      return unwrap(
        client.GET("/api/blogs/{blog}/offers", {
          params: { path: { blog }, query: { ...rest, ...(state ? { state } : {}) } },
        }),
      );
    },
    placeholderData: keepPreviousData,
  });

export const offerQuery = (blog: string, number: number) =>
  queryOptions({
    queryKey: keys.offers(blog, "one", number),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/offers/{number}", { params: { path: { blog, number } } })),
  });

export const offerRulesQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.offers(blog, "rules"),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/offer-rules", { params: { path: { blog } } })),
  });

export function saveOfferRules(blog: string, document: OfferDocument, begun: number): Promise<OfferRules> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/offer-rules", { params: { path: { blog } }, body: { document, begun } }),
  );
}

export function readOffer(blog: string, number: number): Promise<ProductPage> {
  return unwrap(
    client.POST("/api/blogs/{blog}/offers/{number}/reading", { params: { path: { blog, number } } }),
  );
}

export function decidePrice(blog: string, number: number, take: boolean): Promise<ProductPage> {
  return unwrap(
    client.POST("/api/blogs/{blog}/offers/{number}/price", {
      params: { path: { blog, number } },
      body: { take },
    }),
  );
}

export function nameSuccessor(blog: string, number: number, key: string): Promise<ProductPage> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/offers/{number}/successor", {
      params: { path: { blog, number } },
      body: { key },
    }),
  );
}

export type Clicks = Schemas["ClicksOut"];
export type ClicksBy = Schemas["ClicksBy"];

export const clicksQuery = (blog: string, days: number, by: ClicksBy) =>
  queryOptions({
    queryKey: keys.offers(blog, "clicks", days, by),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/offer-clicks", { params: { path: { blog }, query: { days, by } } }),
      ),
    placeholderData: keepPreviousData,
  });
