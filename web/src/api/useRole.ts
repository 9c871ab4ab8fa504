import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { may } from "@/lib/roles";
import { blogsQuery } from "./blogs";
import type { Role } from "./people";

/** Tells whether the signed-in person may do what needs at least a role on the blog that is shown. */
export function useMay(): (least: Role) => boolean {
  const { blog } = useParams();
  const role = useQuery(blogsQuery).data?.find(({ slug }) => slug === blog)?.role;
  return (least) => may(role, least);
}
