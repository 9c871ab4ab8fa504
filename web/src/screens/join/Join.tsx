import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams } from "react-router";
import { keys } from "@/api/keys";
import { invitationQuery, join } from "@/api/people";
import { sessionQuery } from "@/api/session";
import { useChange } from "@/api/useChange";
import { ErrorNote } from "@/components/ErrorNote";
import { FormError } from "@/components/FormError";
import { Loading } from "@/components/Loading";
import { desk } from "@/lib/blog-path";
import { ROLES, roleName } from "@/lib/roles";
import { Button, buttonLook } from "@/ui/Button";
import { Entrance } from "./Entrance";
import { NewPerson } from "./NewPerson";

/** The page of an invitation: new people create an account, others join. */
export default function Join() {
  const { key = "" } = useParams();
  const navigate = useNavigate();
  const invitation = useQuery(invitationQuery(key));
  const name = useQuery(sessionQuery).data?.name;
  const joining = useChange((who: { name: string; full_name: string; password: string }) => join(key, who), {
    refresh: [keys.session(), keys.blogs()],
    onDone: (joined) => navigate(desk.today(joined.blog)),
  });
  if (invitation.error)
    return (
      <Entrance title="Invitation">
        <ErrorNote error={invitation.error} />
        <Link className={buttonLook("plain")} to="/">
          {name ? "To your blogs" : "Sign in"}
        </Link>
      </Entrance>
    );
  if (!invitation.data) return <Loading what="the invitation" rows={3} />;
  const { title, role, by, email } = invitation.data;
  return (
    <Entrance title={`Join “${title}”`}>
      <p className="mb-5 text-ink2">
        {by || "Somebody"} invites you as {roleName(role).toLowerCase()}: a person who{" "}
        {ROLES.find(({ value }) => value === role)?.may}.
      </p>
      {name ? (
        <>
          <FormError error={joining.error} />
          <Button
            look="primary"
            busy={joining.isPending}
            onClick={() => joining.mutate({ name: "", full_name: "", password: "" })}
          >
            Join as {name}
          </Button>
        </>
      ) : (
        <NewPerson email={email} error={joining.error} busy={joining.isPending} onDone={joining.mutate} />
      )}
    </Entrance>
  );
}
