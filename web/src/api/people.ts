import { queryOptions } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { keys } from "./keys";

export type Role = Schemas["Role"];
export type Member = Schemas["MemberOut"];
export type Invitation = Schemas["InvitationOut"];
export type Joined = Schemas["JoinedOut"];

export const peopleQuery = (blog: string) =>
  queryOptions({
    queryKey: keys.people(blog),
    queryFn: () => unwrap(client.GET("/api/blogs/{blog}/people", { params: { path: { blog } } })),
  });

export function invite(blog: string, body: { email: string; role: Role }): Promise<Schemas["InvitedOut"]> {
  return unwrap(client.POST("/api/blogs/{blog}/invitations", { params: { path: { blog } }, body }));
}

export async function takeBackInvitation(blog: string, number: number): Promise<void> {
  await unwrap(
    client.DELETE("/api/blogs/{blog}/invitations/{number}", { params: { path: { blog, number } } }),
  );
}

export function changeRole(blog: string, number: number, role: Role): Promise<Member> {
  return unwrap(
    client.PATCH("/api/blogs/{blog}/people/{number}", { params: { path: { blog, number } }, body: { role } }),
  );
}

export async function removeMember(blog: string, number: number): Promise<void> {
  await unwrap(client.DELETE("/api/blogs/{blog}/people/{number}", { params: { path: { blog, number } } }));
}

export const invitationQuery = (key: string) =>
  queryOptions({
    queryKey: keys.invitation(key),
    queryFn: () => unwrap(client.GET("/api/invitations/{key}", { params: { path: { key } } })),
    retry: false,
  });

export function join(key: string, body: Schemas["JoinIn"]): Promise<Joined> {
  return unwrap(client.POST("/api/invitations/{key}", { params: { path: { key } }, body }));
}
