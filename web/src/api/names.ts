import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type NameKind = Schemas["NameKind"];
export type Name = Schemas["NameOut"];

export type NameSort = Schemas["NameSort"];

export const namesQuery = (
  blog: string,
  kind: NameKind,
  search: string,
  offset: number,
  limit: number,
  sort: NameSort = "name",
) =>
  queryOptions({
    queryKey: keys.names(blog, kind, search, offset, limit, sort),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/names/{kind}", {
          params: { path: { blog, kind }, query: { search, offset, limit, sort } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export function addName(blog: string, kind: NameKind, name: string): Promise<Name> {
  return unwrap(
    client.POST("/api/blogs/{blog}/names/{kind}", { params: { path: { blog, kind } }, body: { name } }),
  );
}

export function renameName(blog: string, kind: NameKind, number: number, name: string): Promise<Name> {
  return unwrap(
    client.PATCH("/api/blogs/{blog}/names/{kind}/{number}", {
      params: { path: { blog, kind, number } },
      body: { name },
    }),
  );
}

export async function removeName(blog: string, kind: NameKind, number: number): Promise<void> {
  await unwrap(
    client.DELETE("/api/blogs/{blog}/names/{kind}/{number}", { params: { path: { blog, kind, number } } }),
  );
}

export function mergeNames(blog: string, kind: NameKind, number: number, into: number): Promise<Name> {
  return unwrap(
    client.POST("/api/blogs/{blog}/names/{kind}/{number}/merge", {
      params: { path: { blog, kind, number } },
      body: { into },
    }),
  );
}

export function putUnder(blog: string, number: number, parent: number | null): Promise<Name> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/category-parents/{number}", {
      params: { path: { blog, number } },
      body: { parent },
    }),
  );
}
