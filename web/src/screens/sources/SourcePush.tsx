import { useQuery } from "@tanstack/react-query";
import { pushQuery } from "@/api/sources";
import { pushWords } from "@/lib/push";

/** Whether a hub pushes a source; nothing where its feed names no hub. */
export function SourcePush({ blog, source }: { blog: string; source: string }) {
  const push = useQuery(pushQuery(blog, source)).data;
  const words = push ? pushWords(push) : "";
  if (!words) return null;
  return <p className="mb-4 text-ink2">{words}</p>;
}
