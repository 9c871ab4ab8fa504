import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";
import { keepToken } from "./token";

/** The signed-in person; an empty name means nobody. `left` is set after signing out by choice. */
export type Session = Schemas["SessionOut"] & { left?: boolean };

export function remember(session: Schemas["SessionOut"]): Session {
  keepToken(session);
  return session;
}

export const sessionQuery = queryOptions({
  queryKey: keys.session(),
  queryFn: async () => remember(await unwrap(client.GET("/api/session"))),
  staleTime: 5 * 60_000,
});

export async function signIn(name: string, password: string, code = ""): Promise<Session> {
  return remember(await unwrap(client.POST("/api/session", { body: { name, password, code } })));
}

export async function signOut(): Promise<Session> {
  return { ...remember(await unwrap(client.DELETE("/api/session"))), left: true };
}
