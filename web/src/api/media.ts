import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Picture = Schemas["PictureOut"];
export type PictureChange = Schemas["PictureIn"];
export type Recording = Schemas["RecordingOut"];
export type Copies = Schemas["CopiesOut"];

export interface PictureFilter {
  search: string;
  label: string;
  uploaded: boolean;
  offset: number;
}

const WATCHED = 2000;

export const picturesQuery = (blog: string, filter: PictureFilter, limit: number) =>
  queryOptions({
    queryKey: keys.pictures(blog, filter, limit),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/pictures", { params: { path: { blog }, query: { ...filter, limit } } }),
      ),
    placeholderData: keepPreviousData,
  });

export const pictureUsesQuery = (blog: string, number: number) =>
  queryOptions({
    queryKey: keys.pictures(blog, "uses", number),
    queryFn: () =>
      unwrap(client.GET("/api/blogs/{blog}/pictures/{number}/posts", { params: { path: { blog, number } } })),
  });

export function addPicture(blog: string, file: File): Promise<Picture> {
  const form = new FormData();
  form.append("file", file);
  return unwrap(
    client.POST("/api/blogs/{blog}/pictures", {
      params: { path: { blog } },
      // A file is sent as a form, which the schema describes as an object with a text.
      body: form as unknown as { file: string },
      bodySerializer: (body) => body as unknown as FormData,
    }),
  );
}

export function changePicture(blog: string, number: number, body: PictureChange): Promise<Picture> {
  return unwrap(
    client.PUT("/api/blogs/{blog}/pictures/{number}", { params: { path: { blog, number } }, body }),
  );
}

export async function removePicture(blog: string, number: number): Promise<void> {
  await unwrap(client.DELETE("/api/blogs/{blog}/pictures/{number}", { params: { path: { blog, number } } }));
}

export const copiesQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.pictures(blog, "copies"),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/picture-copies", { params: { path: { blog } } })),
    refetchInterval: ({ state }) => (state.data?.states.waiting ? WATCHED : false),
  });

export function retryCopies(blog: string): Promise<Copies> {
  return unwrap(client.POST("/api/blogs/{blog}/picture-copies/retry", { params: { path: { blog } } }));
}

export const recordingsQuery = (blog: string, offset: number, limit: number) =>
  queryOptions({
    queryKey: keys.recordings(blog, offset, limit),
    queryFn: () =>
      unwrap(
        client.GET("/api/blogs/{blog}/recordings", { params: { path: { blog }, query: { offset, limit } } }),
      ),
    placeholderData: keepPreviousData,
    refetchInterval: ({ state }) =>
      state.data?.rows.some((row) => row.state === "waiting") ? WATCHED : false,
  });

export function retryRecording(blog: string, number: number): Promise<Recording> {
  return unwrap(
    client.POST("/api/blogs/{blog}/recordings/{number}/retry", { params: { path: { blog, number } } }),
  );
}

export function stopRecording(blog: string, number: number): Promise<Recording> {
  return unwrap(
    client.POST("/api/blogs/{blog}/recordings/{number}/stop", { params: { path: { blog, number } } }),
  );
}
