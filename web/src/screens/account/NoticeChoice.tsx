import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { blogsQuery } from "@/api/blogs";
import { keys } from "@/api/keys";
import { type Notices, noticesQuery, setNotices } from "@/api/notices";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Loading } from "@/components/Loading";
import { Part } from "@/components/Part";
import { WordSelect } from "@/ui/WordSelect";

const DIGESTS = [
  { value: "never", label: "never" },
  { value: "runs", label: "after runs" },
  { value: "daily", label: "once a day, at seven in the morning of the blog" },
] as const;

function missing(notices: Notices): string {
  if (!notices.mail_is_set_up) return "This installation has no mail server, so that nothing is sent.";
  return notices.address ? "" : "Give your mail address above, so that messages can reach you.";
}

/** The person's mail notices about the open blog. */
export function NoticeChoice() {
  const { blog = "" } = useParams();
  const title = useQuery(blogsQuery).data?.find(({ slug }) => slug === blog)?.title ?? blog;
  const notices = useQuery(noticesQuery(blog));
  const saving = useChange((next: Notices) => setNotices(blog, next), { refresh: [keys.notices(blog)] });
  const now = notices.data;
  return (
    <Part title="Messages" text={`What you are told by mail about ${title}.`}>
      {notices.isPending && <Loading what="your choice" rows={2} />}
      {notices.error && <FormError error={notices.error} />}
      {now && (
        <div className="space-y-2">
          <label className="flex gap-2">
            <input
              type="checkbox"
              checked={now.problems}
              onChange={(event) => saving.mutate({ ...now, problems: event.target.checked })}
            />
            Problems at once: one message when one comes, one when it has passed
          </label>
          <label className="flex gap-2">
            <input
              type="checkbox"
              checked={now.posts}
              onChange={(event) => saving.mutate({ ...now, posts: event.target.checked })}
            />
            Every new post
          </label>
          <p>
            A digest{" "}
            <WordSelect
              label="Digest"
              value={now.digest}
              options={DIGESTS}
              onChange={(digest) => saving.mutate({ ...now, digest: digest as Notices["digest"] })}
            />
          </p>
          {missing(now) && <p className="text-ochre">{missing(now)}</p>}
          <FormError error={saving.error} />
        </div>
      )}
    </Part>
  );
}
