import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";
import type { ProofAsked } from "./proofs";

export type Service = Schemas["ServiceOut"];
export type ServicePage = Schemas["ServicePageOut"];
export type ServiceBody = Schemas["ServiceIn"];
export type Billed = Schemas["BilledOut"];
export type Tried = Schemas["TryServiceOut"];
export type ProofTexts = Schemas["ProofTextsOut"];

export const readyServicesQuery = queryOptions({
  queryKey: keys.readyServices(),
  queryFn: () => unwrap(client.GET("/api/services/ready")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const servicesQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.services(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/services", { params: { path: { blog } } })),
  });

export const billQuery = (blog: string, key: string) =>
  queryOptions({
    queryKey: keys.services(blog, key, "bill"),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/services/{key}/bill", { params: { path: { blog, key } } })),
  });

export function makeService(blog: string, body: ServiceBody): Promise<Service> {
  return unwrap(client.POST("/api/blogs/{blog}/services", { params: { path: { blog } }, body }));
}

export function saveService(blog: string, key: string, body: Schemas["SaveServiceIn"]): Promise<Service> {
  return unwrap(client.PUT("/api/blogs/{blog}/services/{key}", { params: { path: { blog, key } }, body }));
}

export async function removeService(blog: string, key: string): Promise<void> {
  await unwrap(client.DELETE("/api/blogs/{blog}/unused-services/{key}", { params: { path: { blog, key } } }));
}

/** Asks again about all texts that stay as they were. */
export function askServicesAgain(blog: string): Promise<Schemas["AskedAgainOut"]> {
  return unwrap(client.POST("/api/blogs/{blog}/services-again", { params: { path: { blog } } }));
}

export function tryService(blog: string, key: string, body: Schemas["TryServiceIn"]): Promise<Tried> {
  return unwrap(
    client.POST("/api/blogs/{blog}/services/{key}/try", { params: { path: { blog, key } }, body }),
  );
}

/** What the texts cost that items of a proof wait for; with `go` the services are asked. */
export function askForTexts(
  blog: string,
  slug: string,
  body: ProofAsked & { as_of: string; item: number | null; go: boolean },
): Promise<ProofTexts> {
  return unwrap(
    client.POST("/api/blogs/{blog}/campaigns/{slug}/proof/texts", { params: { path: { blog, slug } }, body }),
  );
}
