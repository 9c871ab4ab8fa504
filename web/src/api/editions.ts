import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Languages = Schemas["LanguagesOut"];
export type LanguageDocument = Languages["document"];
export type BlogLanguage = Schemas["BlogLanguage"];
export type Edition = Schemas["EditionOut"];
export type EditionTexts = Schemas["EditionTextsOut"];
export type EditionBlock = Schemas["BlockOut"];
export type EditionMode = Schemas["EditionMode"];
export type Wanted = Schemas["WantedOut"];
export type TextsCost = Schemas["TextsCostOut"];

const SOON = 3000;

/** Whether an edition is to be made, or waits for its texts. */
export function isUnderWay({ state }: Edition): boolean {
  return state === "wanted" || state === "waits";
}

export const languagesQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.languages(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/languages", { params: { path: { blog } } })),
  });

export function saveLanguages(blog: string, document: LanguageDocument, begun: number): Promise<Languages> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/languages", { params: { path: { blog } }, body: { document, begun } }),
  );
}

/** The wordings of the pages of blogs in a language. */
export const wordingsQuery = (language: string) =>
  queryOptions({
    queryKey: keys.wordings(language),
    queryFn: () => unwrap(client.GET("/api/wordings/{language}", { params: { path: { language } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const editionsQuery = (blog: string, post: number) =>
  queryOptions({
    queryKey: keys.post(blog, post, "editions"),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts/{post_id}/editions", {
          params: { path: { blog, post_id: post } },
        }),
      ),
    refetchInterval: (query) => (query.state.data?.some(isUnderWay) ? SOON : false),
  });

export const editionTextsQuery = (blog: string, post: number, language: string) =>
  queryOptions({
    queryKey: keys.post(blog, post, "editions", language),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/posts/{post_id}/editions/{language}", {
          params: { path: { blog, post_id: post, language } },
        }),
      ),
  });

export function wantEdition(
  blog: string,
  post: number,
  language: string,
  mode: EditionMode,
): Promise<Edition[]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/posts/{post_id}/editions", {
      params: { path: { blog, post_id: post } },
      body: { language, mode },
    }),
  );
}

export function makeEditionAnew(blog: string, post: number, language: string): Promise<Edition[]> {
  return unwrap(
    client.POST("/api/blogs/{blog}/posts/{post_id}/editions/{language}/anew", {
      params: { path: { blog, post_id: post, language } },
    }),
  );
}

/** Wants editions of many posts; without `go` only their number and cost are said. */
export function wantEditions(blog: string, body: Schemas["WantEditionsIn"]): Promise<Wanted> {
  return unwrap(client.POST("/api/blogs/{blog}/editions", { params: { path: { blog } }, body }));
}
