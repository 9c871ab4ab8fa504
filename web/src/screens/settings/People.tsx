import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { peopleQuery } from "@/api/people";
import { useMay } from "@/api/useRole";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { ROLES } from "@/lib/roles";
import { Button } from "@/ui/Button";
import { Scroll } from "@/ui/Scroll";
import { InvitationRow } from "./InvitationRow";
import { InviteDialog } from "./InviteDialog";
import { PersonRow } from "./PersonRow";
import { SettingsTabs } from "./SettingsTabs";

/** Who works on the blog, and who is invited. */
export default function People() {
  const { blog = "" } = useParams();
  const people = useQuery(peopleQuery(blog));
  const may = useMay();
  const [inviting, setInviting] = useState(false);
  return (
    <>
      <Head title="People" facts={<SettingsTabs />}>
        {may("owner") && (
          <Button look="primary" onClick={() => setInviting(true)}>
            Invite somebody
          </Button>
        )}
      </Head>
      <Scroll label="People and roles" className="min-h-0 flex-1 p-5">
        {people.error && <ErrorNote error={people.error} onRetry={people.refetch} />}
        {people.isPending && <Loading what="people" rows={4} />}
        {people.data && (
          <div className="mx-auto max-w-4xl space-y-5">
            <ul aria-label="People" className="sheet-card">
              {people.data.members.map((member) => (
                <PersonRow key={member.id} blog={blog} member={member} owner={may("owner")} />
              ))}
            </ul>
            {people.data.invitations.length > 0 && (
              <section aria-labelledby="invited">
                <h2 id="invited" className="mb-2 text-base">
                  Invited
                </h2>
                <ul className="sheet-card">
                  {people.data.invitations.map((invitation) => (
                    <InvitationRow key={invitation.id} blog={blog} invitation={invitation} />
                  ))}
                </ul>
              </section>
            )}
            <dl className="grid grid-cols-[90px_1fr] gap-y-1 text-ink2">
              {ROLES.map(({ value, label, may: allowed }) => (
                <div key={value} className="contents">
                  <dt className="font-semibold">{label}</dt>
                  <dd>{allowed}</dd>
                </div>
              ))}
            </dl>
          </div>
        )}
      </Scroll>
      {inviting && people.data && (
        <InviteDialog blog={blog} byMail={people.data.mail_is_set_up} onClose={() => setInviting(false)} />
      )}
    </>
  );
}
