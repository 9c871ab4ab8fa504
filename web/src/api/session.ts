import { queryOptions } from "@tanstack/react-query";
import { client, keepToken, type Schemas, unwrap } from "./client";

export type Session = Schemas["SessionOut"];

function remember(session: Session): Session {
  keepToken(session.csrf_token);
  return session;
}

export const sessionQuery = queryOptions({
  queryKey: ["session"],
  queryFn: async () => remember(await unwrap(client.GET("/api/session"))),
  staleTime: 5 * 60_000,
});

export async function signIn(name: string, password: string): Promise<Session> {
  return remember(await unwrap(client.POST("/api/session", { body: { name, password } })));
}

export async function signOut(): Promise<Session> {
  return remember(await unwrap(client.DELETE("/api/session")));
}
